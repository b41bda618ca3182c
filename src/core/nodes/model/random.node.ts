import { latticeWord, seedWord } from '../../ir/library/hash';
import { defineNode, input, output } from '../define';
import { chance, reseed } from '../lanes';

export const random = defineNode({
  id: 'model.random',
  version: 1,
  title: 'Random',
  family: 'model',
  synonyms: ['chance', 'vary', 'dice', 'per piece', 'id to number', 'shuffle'],
  help:
    'A random number and colour for every number that arrives: the same on every machine ' +
    'and for ever. Wire a part, a block or a cell into it. ' +
    'Numbers less than 1/4096 apart may count as the same.',
  formula: 'least + (most − least)·h, h a hash of (⌊x⌋, ⌊4096·fraction(x)⌋, seed)',
  inputs: {
    number: input.scalar({
      title: 'Number',
      help: 'What is told apart: an id, or any value that is constant over a piece.',
      default: 0,
      soft: [0, 100],
      hard: [-1000000, 1000000],
    }),
    seed: input.seed('Another throw; whole numbers.'),
    least: input.scalar({ title: 'Least', help: 'The least it can be.', default: 0 }),
    most: input.scalar({ title: 'Most', help: 'The most it can be.', default: 1 }),
  },
  outputs: {
    value: output.scalar('Value', 'Even between least and most.'),
    colour: output.colour('Colour', 'Three numbers of their own, each 0 to 1.'),
  },
  lower: (b, { number, seed, least, most }) => {
    const whole = b.floor(number);
    const rest = b.toInt(b.mul(b.sub(number, whole), b.f(4096)));
    const bits = latticeWord(b, [b.toInt(whole), rest, b.i(0)], seedWord(b, b.toInt(seed)));
    const throws = [0, 1, 2, 3].map((salt) => chance(b, reseed(b, bits, 101 + salt)));
    const [first = b.f(0), red = b.f(0), green = b.f(0), blue = b.f(0)] = throws;
    return { value: b.mix(least, most, first), colour: [red, green, blue] };
  },
});

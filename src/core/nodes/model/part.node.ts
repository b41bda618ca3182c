import { latticeWord, seedWord } from '../../ir/library/hash';
import { defineNode, input, output } from '../define';
import { chance, reseed } from '../lanes';

export const part = defineNode({
  id: 'model.part',
  version: 1,
  title: 'Part',
  family: 'model',
  synonyms: [
    'piece',
    'object id',
    'per object',
    'instance',
    'element',
    'per piece',
    'random per part',
  ],
  help:
    'Which part of the model the point lies on, as a number, as a throw of dice of its ' +
    'own, and where the middle of that part is. Every piece and every copy ' +
    'of a piece in the file is a part. The same on every machine.',
  formula: 'random = h(part, seed), h the hash of the noises',
  inputs: {
    seed: input.seed('Another throw; whole numbers.'),
  },
  outputs: {
    id: output.scalar('Number', 'Counted from 0.', { quantity: 'count' }),
    random: output.scalar('Random', '0 to 1, one for each part.'),
    colour: output.colour('Random colour', 'Three numbers of their own, each 0 to 1.'),
    centre: output.vector('Centre', 'The middle of the part’s bounds, metres in object space.'),
  },
  lower: (b, { seed }, _options, model) => {
    const { id, centre } = model.part();
    const bits = latticeWord(b, [b.toInt(id), b.i(0), b.i(0)], seedWord(b, b.toInt(seed)));
    const [random = b.f(0), red = b.f(0), green = b.f(0), blue = b.f(0)] = [0, 1, 2, 3].map(
      (salt) => chance(b, reseed(b, bits, 211 + salt)),
    );
    return { id, random, colour: [red, green, blue], centre };
  },
});

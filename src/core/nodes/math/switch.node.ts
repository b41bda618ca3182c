import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { eachLane } from '../lanes';

const NAMES = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth'] as const;
const port = (title: string, value: number) =>
  input.flex({ title, help: 'One of the alternatives.', default: value });

export const switchNode = defineNode({
  id: 'math.switch',
  version: 1,
  title: 'Switch',
  family: 'math',
  synonyms: ['choose', 'alternative', 'select', 'if', 'condition', 'variant', 'either'],
  help:
    'Passes one of up to six alternatives on, by a number counted from 0 or by a ' +
    'condition. Numbers outside go to the nearest end, and between whole numbers the lower ' +
    'counts.',
  formula:
    'by number: alternative limit(⌊which⌋, 0, count − 1); by condition: second where which ' +
    '≥ ½, else first',
  inputs: {
    which: input.scalar({
      title: 'Which',
      help: 'The number of the alternative, from 0; or the condition.',
      default: 0,
      soft: [0, 5],
      step: 1,
      low: 'first',
      high: 'last',
    }),
    first: port('First', 0),
    second: port('Second', 1),
    third: port('Third', 0.5),
    fourth: port('Fourth', 0.25),
    fifth: port('Fifth', 0.75),
    sixth: port('Sixth', 0.4),
  },
  options: {
    by: option('By', 'What decides.', {
      two: ['Condition', 'First below ½, second from there on.'],
      three: ['Number, of three', '0, 1 or 2.'],
      six: ['Number, of six', '0 to 5.'],
    }),
  },
  idle: ({ by }) => NAMES.slice(by === 'two' ? 2 : by === 'three' ? 3 : 6),
  outputs: { value: output.flex('Value', 'The alternative chosen.') },
  lower: (b, inputs, { by }) => {
    const lanes = NAMES.slice(0, by === 'two' ? 2 : by === 'three' ? 3 : 6).map(
      (name) => inputs[name],
    );
    const edge = (k: number): F32 => b.f(by === 'two' ? 0.5 : k);
    return {
      value: eachLane(lanes, (alternatives) =>
        alternatives
          .slice(1)
          .reduce<F32>(
            (chosen, lane, k) => b.select(b.le(edge(k + 1), inputs.which), lane, chosen),
            alternatives[0] as F32,
          ),
      ),
    };
  },
});

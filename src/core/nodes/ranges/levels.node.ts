import { pow } from '../../ir/library/transcendental';
import type { F32 } from '../../ir/types';
import { typedEnds } from '../advice';
import { defineNode, input, output } from '../define';
import { eachLane, position01 } from '../lanes';

export const levels = defineNode({
  id: 'ranges.levels',
  version: 1,
  title: 'Levels',
  family: 'ranges',
  synonyms: ['contrast', 'gamma', 'brightness', 'tighten', 'black point', 'white point'],
  help:
    'Sets black, white and the middle of a mask or a colour. Limited to the in-range ' +
    'before the power.',
  formula:
    'out black + (out white − out black)·limit((x − in black)/(in white − in ' +
    'black))^(1/gamma)',
  inputs: {
    value: input.flex({ title: 'Value', help: 'What is adjusted.', default: 0.5 }),
    inBlack: input.scalar({
      title: 'In black',
      help: 'This and below becomes black.',
      default: 0,
      low: 'keeps the darks',
      high: 'cuts the darks',
    }),
    inWhite: input.scalar({
      title: 'In white',
      help: 'This and above becomes white.',
      default: 1,
      low: 'cuts the lights',
      high: 'keeps the lights',
    }),
    gamma: input.scalar({
      title: 'Gamma',
      help: 'Lifts or lowers the middle; must be above 0.',
      default: 1,
      soft: [0.1, 4],
      hard: [0.01, 100],
      low: 'darker middle',
      high: 'lighter middle',
      neutral: 1,
    }),
    outBlack: input.scalar({ title: 'Out black', help: 'What black becomes.', default: 0 }),
    outWhite: input.scalar({ title: 'Out white', help: 'What white becomes.', default: 1 }),
  },
  outputs: { value: output.flex('Value', 'The adjusted value.') },
  cuts: {
    of: 'value',
    ends: (reads) => typedEnds(reads, 'inBlack', 'inWhite'),
  },
  advise: (reads) => {
    const [low, high] = [reads.number('inBlack'), reads.number('inWhite')];
    if (low === null || low !== high || reads.isWired('inBlack') || reads.isWired('inWhite'))
      return [];
    return [
      {
        code: 'range.flat',
        mark: 'step',
        message: `Both in-ends are ${String(low)}: the passage has become a hard step there.`,
      },
    ];
  },
  lower: (b, { value, inBlack, inWhite, gamma, outBlack, outWhite }) => ({
    value: eachLane([value], ([x]) => {
      const t = b.saturate(position01(b, x as F32, inBlack, inWhite));
      const plain = b.eq(gamma, b.f(1));
      const bent = pow(b, t, b.div(b.f(1), b.max(gamma, b.f(0.01))));
      return b.mix(outBlack, outWhite, b.select(plain, t, bent));
    }),
  }),
});

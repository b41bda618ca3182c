import { typedEnds } from '../advice';
import { defineNode, input, option, output } from '../define';
import { eachLane, position01, smooth } from '../lanes';
import type { F32 } from '../../ir/types';

export const remap = defineNode({
  id: 'ranges.remap',
  version: 1,
  title: 'Remap',
  family: 'ranges',
  synonyms: ['range', 'rescale', 'fit', 'scale'],
  help: 'Carries one range of values onto another. Equal in-ends give a step at that place.',
  formula: 'out lo + (out hi − out lo)·shape((x − in lo)/(in hi − in lo))',
  inputs: {
    value: input.flex({ title: 'Value', help: 'What is carried over.', default: 0.5 }),
    inLow: input.flex({ title: 'In low', help: 'This becomes out low.', default: 0 }),
    inHigh: input.flex({ title: 'In high', help: 'This becomes out high.', default: 1 }),
    outLow: input.flex({ title: 'Out low', help: 'What in low becomes.', default: 0 }),
    outHigh: input.flex({ title: 'Out high', help: 'What in high becomes.', default: 1 }),
    steps: input.scalar({
      title: 'Steps',
      help: 'Number of steps, for the stepped shape.',
      default: 4,
      soft: [2, 16],
      hard: [2, 1024],
      step: 1,
    }),
  },
  options: {
    shape: option('Shape', 'The way between the ends.', {
      linear: ['Linear', 'Straight.'],
      smooth: ['Smooth', 'Eased at both ends; limited.'],
      steps: ['Steps', 'Flat steps; limited.'],
    }),
    limit: option('Beyond the ends', 'What happens outside the in-range.', {
      yes: ['Limited', 'Stays at the ends.'],
      no: ['Goes on', 'Continues straight (linear only).'],
    }),
  },
  idle: ({ shape }) => (shape === 'steps' ? [] : ['steps']),
  outputs: { value: output.flex('Value', 'The value in the new range.') },
  cuts: {
    of: 'value',
    ends: (reads) =>
      reads.choice('limit') === 'no' && reads.choice('shape') === 'linear'
        ? null
        : typedEnds(reads, 'inLow', 'inHigh'),
  },
  advise: (reads) => {
    const [low, high] = [reads.number('inLow'), reads.number('inHigh')];
    if (low === null || low !== high || reads.isWired('inLow') || reads.isWired('inHigh'))
      return [];
    return [
      {
        code: 'range.flat',
        mark: 'step',
        message: `Both in-ends are ${String(low)}: the passage has become a hard step there.`,
      },
    ];
  },
  lower: (b, { value, inLow, inHigh, outLow, outHigh, steps }, { shape, limit }) => ({
    value: eachLane([value, inLow, inHigh, outLow, outHigh], (lanes) => {
      const [x, a, z, low, high] = lanes as [F32, F32, F32, F32, F32];
      const raw = position01(b, x, a, z);
      const limited = b.saturate(raw);
      const n = b.max(b.floor(steps), b.f(2));
      const stepped = (): F32 =>
        b.div(b.min(b.floor(b.mul(limited, n)), b.sub(n, b.f(1))), b.sub(n, b.f(1)));
      const t =
        shape === 'smooth'
          ? smooth(b, limited)
          : shape === 'steps'
            ? stepped()
            : limit === 'yes'
              ? limited
              : raw;
      return b.mix(low, high, t);
    }),
  }),
});

import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';

export const minus = defineNode({
  id: 'masks.minus',
  version: 1,
  title: 'Minus',
  family: 'masks',
  synonyms: ['subtract mask', 'cut out', 'without', 'erase', 'except'],
  help: 'A mask without others, in any number; never below 0.',
  formula: 'cut: m·Π(1 − cᵢ); difference: max(0, m − Σ cᵢ)',
  inputs: {
    mask: input.scalar({
      title: 'Mask',
      help: 'What is kept, limited to 0–1.',
      default: 1,
      low: 'nothing',
      high: 'all',
    }),
    cuts: input.scalars({
      title: 'Cuts',
      help: 'What is taken away; each is limited to 0–1 first.',
    }),
  },
  options: {
    mode: option('Mode', 'How it is taken away.', {
      cut: ['Cut', 'A share of what is left.'],
      difference: ['Difference', 'Plain subtraction, not below 0.'],
    }),
  },
  outputs: {
    mask: output.scalar('Mask', 'What remains.', {
      quantity: 'mask',
      low: 'taken away',
      high: 'kept',
    }),
  },
  lower: (b, { mask, cuts }, { mode }) => ({
    mask: cuts
      .map((cut) => b.saturate(cut))
      .reduce<F32>(
        (left, cut) =>
          mode === 'cut' ? b.mul(left, b.sub(b.f(1), cut)) : b.max(b.f(0), b.sub(left, cut)),
        b.saturate(mask),
      ),
  }),
});

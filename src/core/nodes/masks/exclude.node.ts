import type { F32 } from '../../ir/types';
import { defineNode, input, output } from '../define';

export const exclude = defineNode({
  id: 'masks.exclude',
  version: 1,
  title: 'Exclude',
  family: 'masks',
  synonyms: ['xor', 'either', 'not both', 'difference of masks'],
  help: 'Where one mask is but not the other; more than two are folded in order.',
  formula: 'a + b − 2ab, folded',
  inputs: {
    masks: input.scalars({
      title: 'Masks',
      help: 'Masks in any number; each is limited to 0–1 first.',
    }),
  },
  outputs: {
    mask: output.scalar('Mask', 'In one, not in both.', {
      quantity: 'mask',
      low: 'in none or both',
      high: 'in one',
    }),
  },
  lower: (b, { masks }) => ({
    mask: masks
      .map((mask) => b.saturate(mask))
      .reduce<F32>((x, y) => b.sub(b.add(x, y), b.mul(b.mul(x, y), b.f(2))), b.f(0)),
  }),
});

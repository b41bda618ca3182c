import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';

export const union = defineNode({
  id: 'masks.union',
  version: 1,
  title: 'Union',
  family: 'masks',
  synonyms: ['or', 'combine masks', 'add masks', 'merge', 'screen', 'maximum'],
  help: 'Any number of masks together, never over 1. With none wired it is empty.',
  formula: 'largest: max mᵢ; limited sum: min(Σ mᵢ, 1); screen: 1 − Π(1 − mᵢ)',
  inputs: {
    masks: input.scalars({
      title: 'Masks',
      help: 'Masks in any number; each is limited to 0–1 first.',
    }),
  },
  options: {
    mode: option('Mode', 'How they are joined.', {
      largest: ['Largest', 'The strongest mask wins.'],
      sum: ['Limited sum', 'Added, at most 1.'],
      screen: ['Screen', 'Like overlapping sheets.'],
    }),
  },
  outputs: {
    mask: output.scalar('Mask', 'All of them.', {
      quantity: 'mask',
      low: 'in none',
      high: 'in some',
    }),
  },
  lower: (b, { masks }, { mode }) => {
    const join = (x: F32, y: F32): F32 => {
      if (mode === 'largest') return b.max(x, y);
      if (mode === 'sum') return b.min(b.add(x, y), b.f(1));
      return b.sub(b.f(1), b.mul(b.sub(b.f(1), x), b.sub(b.f(1), y)));
    };
    return { mask: masks.map((mask) => b.saturate(mask)).reduce<F32>(join, b.f(0)) };
  },
});

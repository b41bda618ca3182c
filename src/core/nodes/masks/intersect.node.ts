import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';

export const intersect = defineNode({
  id: 'masks.intersect',
  version: 1,
  title: 'Intersect',
  family: 'masks',
  synonyms: ['and', 'both', 'overlap', 'common', 'multiply masks'],
  help: 'Where all masks are, in any number. With none wired it is empty; with one, that one.',
  formula: 'least: min mᵢ; limited sum: max(0, Σ mᵢ − (n − 1)); product: Π mᵢ',
  inputs: {
    masks: input.scalars({
      title: 'Masks',
      help: 'Masks in any number; each is limited to 0–1 first.',
    }),
  },
  options: {
    mode: option('Mode', 'How they are joined.', {
      least: ['Least', 'The weakest mask decides.'],
      sum: ['Limited sum', 'Both must be strong.'],
      product: ['Product', 'Like sheets of gauze.'],
    }),
  },
  outputs: {
    mask: output.scalar('Mask', 'What they share.', {
      quantity: 'mask',
      low: 'not in all',
      high: 'in all',
    }),
  },
  lower: (b, { masks }, { mode }) => {
    const join = (x: F32, y: F32): F32 => {
      if (mode === 'least') return b.min(x, y);
      if (mode === 'product') return b.mul(x, y);
      return b.max(b.f(0), b.sub(b.add(x, y), b.f(1)));
    };
    const [first, ...rest] = masks.map((mask) => b.saturate(mask));
    return { mask: first ? rest.reduce<F32>(join, first) : b.f(0) };
  },
});

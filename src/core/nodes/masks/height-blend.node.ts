import { defineNode, input, output } from '../define';
import { evenStep } from '../edges';
import { smooth } from '../lanes';

export const heightBlend = defineNode({
  id: 'masks.height-blend',
  version: 1,
  title: 'Height blend',
  family: 'masks',
  synonyms: ['height mix', 'terrain blend', 'fill hollows', 'grout', 'interlock'],
  help:
    'A mask that lets one material fill the hollows of another: with growing amount the ' +
    'upper one stands higher, and appears where it is above.',
  formula:
    's((over − under + (2·amount − 1)·(1 + width))/(2·width) + ½), s(t) = t²(3 − 2t); ' +
    'amount 0 gives none, 1 all',
  inputs: {
    under: input.scalar({
      title: 'Under height',
      help: 'Height of the lower material, limited to 0–1.',
      default: 0.5,
      low: 'hollow',
      high: 'raised',
    }),
    over: input.scalar({
      title: 'Over height',
      help: 'Height of the upper material, limited to 0–1.',
      default: 0.5,
      low: 'hollow',
      high: 'raised',
    }),
    amount: input.scalar({
      title: 'Amount',
      help: 'How high the upper material stands.',
      default: 0.5,
      low: 'none',
      high: 'covers all',
    }),
    width: input.scalar({
      title: 'Width',
      help: 'Softness where the heights meet; 0 is hard.',
      default: 0.1,
      low: 'hard',
      high: 'soft',
    }),
  },
  sides: () => ['under', 'over'],
  outputs: {
    mask: output.scalar('Mask', 'Where the upper material is.', {
      quantity: 'mask',
      low: 'under',
      high: 'over',
    }),
  },
  lower: (b, { under, over, amount, width }, _options, model) => {
    const one = b.f(1);
    const soft = b.max(width, b.f(0));
    const hard = b.eq(soft, b.f(0));
    // At amount 0 and 1 even equal or opposite heights must give none and all: the shift spans the
    // heights and the width.
    const shift = b.mul(b.sub(b.mul(b.saturate(amount), b.f(2)), one), b.add(one, soft));
    const above = b.add(b.sub(b.saturate(over), b.saturate(under)), shift);
    const t = b.saturate(b.add(b.div(above, b.mul(b.select(hard, one, soft), b.f(2))), b.f(0.5)));
    const mask = b.select(hard, evenStep(b, above, b.f(0), model), smooth(b, t));
    // At the ends heights that just meet must not decide: none is none, all is all.
    const share = b.saturate(amount);
    return { mask: b.select(b.le(share, b.f(0)), b.f(0), b.select(b.le(one, share), one, mask)) };
  },
});

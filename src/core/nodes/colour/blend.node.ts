import type { Builder } from '../../ir/builder';
import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { map3 } from '../lanes';

type Mode = 'normal' | 'multiply' | 'screen' | 'overlay' | 'add' | 'linearLight';

/** Source of normal, multiply, screen and overlay: W3C, Compositing and Blending Level 1, 2024. Values above 1 follow the same formulas. */
function blended(b: Builder, mode: Mode, under: F32, over: F32): F32 {
  const one = b.f(1);
  const two = b.f(2);
  switch (mode) {
    case 'normal': return over;
    case 'multiply': return b.mul(under, over);
    case 'screen': return b.sub(b.add(under, over), b.mul(under, over));
    case 'overlay': {
      const light = b.sub(one, b.mul(b.mul(two, b.sub(one, under)), b.sub(one, over)));
      return b.select(b.le(under, b.f(0.5)), b.mul(b.mul(two, under), over), light);
    }
    case 'add': return b.add(under, over);
    case 'linearLight': return b.sub(b.add(under, b.mul(two, over)), one);
  }
}

export const blend = defineNode({
  id: 'colour.blend', version: 1, title: 'Blend', family: 'colour',
  synonyms: ['mix colour', 'overlay', 'multiply', 'screen', 'composite', 'tint', 'linear light'],
  help: 'Lays one colour over another where a mask says so.',
  formula: 'under + (mode(under, over) − under)·limit(where·amount)',
  inputs: {
    under: input.colour({ title: 'Under', help: 'The colour below.', default: [0.18, 0.18, 0.18] }),
    over: input.colour({ title: 'Over', help: 'The colour above.', default: [0.6, 0.6, 0.6] }),
    where: input.scalar({ title: 'Where', help: 'Mask of the upper colour.', default: 1, low: 'only under', high: 'fully over' }),
    amount: input.scalar({ title: 'Amount', help: 'Overall strength.', default: 1, low: 'nothing', high: 'full' }),
  },
  options: {
    mode: option<Mode>('Mode', 'How the two colours meet.', {
      normal: ['Normal', 'over'], multiply: ['Multiply', 'under × over: darker'], screen: ['Screen', 'under + over − under × over: lighter'],
      overlay: ['Overlay', 'multiply in the darks, screen in the lights'], add: ['Add', 'under + over, may pass 1'], linearLight: ['Linear light', 'under + 2·over − 1'],
    }),
  },
  outputs: { colour: output.colour('Colour', 'The two together.') },
  lower: (b, { under, over, where, amount }, { mode }) => {
    const share = b.saturate(b.mul(where, amount));
    return { colour: map3(under, (lane, k) => b.mix(lane, blended(b, mode, lane, over[k as 0]), share)) };
  },
});

import { exp2 } from '../../ir/library/transcendental';
import type { Builder } from '../../ir/builder';
import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { evenStep } from '../edges';
import { smooth } from '../lanes';

/**
 * Error function; absolute error below 1.5e-7. Source: Abramowitz and Stegun, Handbook of
 * Mathematical Functions, 7.1.26.
 */
function erf(b: Builder, x: F32): F32 {
  const magnitude = b.abs(x);
  const t = b.div(b.f(1), b.add(b.f(1), b.mul(magnitude, b.f(0.3275911))));
  const series = [1.061405429, -1.453152027, 1.421413741, -0.284496736, 0.254829592].reduce<F32>(
    (sum, c) => b.mul(b.add(sum, b.f(c)), t),
    b.f(0),
  );
  const bell = exp2(b, b.mul(b.mul(magnitude, magnitude), b.f(-Math.LOG2E)));
  const positive = b.sub(b.f(1), b.mul(series, bell));
  return b.select(b.lt(x, b.f(0)), b.neg(positive), positive);
}

export const threshold = defineNode({
  id: 'ranges.threshold',
  version: 1,
  title: 'Threshold',
  family: 'ranges',
  fits: [{ kind: 'edge', of: 'value', edge: 'level', width: 'width' }],
  synonyms: ['cut', 'binary', 'hard mask', 'stencil', 'level'],
  help: 'Black below a level, white from it on, with a transition around it.',
  formula:
    't = (x − level)/width + ½; linear limit(t); smooth t²(3 − 2t); gaussian ½ + ' +
    '½·erf(2√2·(t − ½))',
  inputs: {
    value: input.scalar({ title: 'Value', help: 'What is judged.', default: 0.5 }),
    level: input.scalar({
      title: 'Level',
      help: 'From here on it is white.',
      default: 0.5,
      low: 'all white',
      high: 'all black',
    }),
    width: input.scalar({
      title: 'Transition',
      help: 'Width of the passage; 0 is hard.',
      default: 0,
      soft: [0, 0.5],
      low: 'hard',
      high: 'soft',
    }),
  },
  options: {
    shape: option('Shape', 'The form of the transition.', {
      linear: ['Linear', 'Straight.'],
      smooth: ['Smooth', 'Eased.'],
      gaussian: ['Gaussian', 'Like a blurred edge; four deviations wide.'],
    }),
  },
  outputs: {
    mask: output.scalar('Mask', '0 to 1.', { quantity: 'mask', low: 'below', high: 'above' }),
  },
  lower: (b, { value, level, width }, { shape }, model) => {
    const hard = b.le(width, b.f(0));
    const raw = b.div(b.sub(value, level), b.select(hard, b.f(1), width));
    const t = b.saturate(b.add(raw, b.f(0.5)));
    const soft =
      shape === 'linear'
        ? t
        : shape === 'smooth'
          ? smooth(b, t)
          : b.add(b.f(0.5), b.mul(erf(b, b.mul(raw, b.f(2 * Math.SQRT2))), b.f(0.5)));
    return { mask: b.select(hard, evenStep(b, value, level, model), soft) };
  },
});

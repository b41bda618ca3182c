import { seedWord } from '../../ir/library/hash';
import { fractalNoise } from '../../ir/library/noise';
import { defineNode, input, output } from '../define';
import { softStep } from '../edges';
import { PATTERN_INPUTS, patternCoordinates, perOption } from '../lanes';

export const breakEdge = defineNode({
  id: 'masks.break-edge',
  version: 1,
  title: 'Break edge',
  family: 'masks',
  synonyms: ['ragged', 'torn', 'roughen', 'irregular edge', 'chipped'],
  help:
    'Roughens the border of a soft mask: noise is added to it and the sum cut again. Only ' +
    'the soft border can move: a hard mask (values 0 and 1 ' +
    'only) stays as it is while the amount is below ½; distort the coordinates of what ' +
    'makes a hard mask instead.',
  formula: 's((m + amount·(2·noise − 1) − level + width/2)/width), s(t) = t²(3 − 2t)',
  inputs: {
    mask: input.scalar({
      title: 'Mask',
      help: 'The soft mask, limited to 0–1.',
      default: 0.5,
      low: 'outside',
      high: 'inside',
    }),
    amount: input.scalar({
      title: 'Amount',
      help: 'How far the border moves, in values of the mask.',
      default: 0.3,
      soft: [0, 1],
      hard: [-100, 100],
      low: 'as it is',
      high: 'torn',
    }),
    level: input.scalar({
      title: 'Level',
      help: 'Where it is cut again.',
      default: 0.5,
      low: 'wide',
      high: 'narrow',
    }),
    width: input.scalar({
      title: 'Width',
      help: 'Softness of the new border; 0 is hard.',
      default: 0.1,
      low: 'hard',
      high: 'soft',
    }),
    at: PATTERN_INPUTS.at,
    scale: { ...PATTERN_INPUTS.scale, default: 20 },
    seed: PATTERN_INPUTS.seed,
    octaves: input.scalar({
      title: 'Octaves',
      help: 'Number of layers of the noise.',
      default: 3,
      soft: [1, 8],
      hard: [1, 12],
      step: 0.1,
      low: 'smooth',
      high: 'crumbly',
    }),
  },
  options: { per: perOption },
  outputs: {
    mask: output.scalar('Mask', 'The mask with its border broken.', {
      quantity: 'mask',
      low: 'outside',
      high: 'inside',
    }),
  },
  tolerance: { value: 2e-3, reason: 'The new border magnifies the noise by amount/width.' },
  lower: (b, { mask, amount, level, width, at, scale, seed, octaves }, { per }, model) => {
    const p = patternCoordinates(b, at, scale, per, model);
    const signed = fractalNoise(b, p, {
      basis: 'gradient',
      fold: 'none',
      octaves,
      lacunarity: b.f(2.03),
      diminish: b.f(0.5),
      erode: b.f(0),
      seed: seedWord(b, b.toInt(seed)),
    });
    // Fractal noise rarely leaves ±0.6; stretching it makes the amount mean what it says.
    const noise = b.clamp(b.mul(signed, b.f(1.7)), b.f(-1), b.f(1));
    const moved = b.add(b.saturate(mask), b.mul(amount, noise));
    return { mask: softStep(b, moved, level, width, model) };
  },
});

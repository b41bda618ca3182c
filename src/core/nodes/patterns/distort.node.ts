import { seedWord } from '../../ir/library/hash';
import { fractalNoise } from '../../ir/library/noise';
import type { F32 } from '../../ir/types';
import { defineNode, input, output } from '../define';
import { PATTERN_INPUTS, map3, patternCoordinates, perOption } from '../lanes';

export const distort = defineNode({
  id: 'patterns.distort',
  version: 1,
  title: 'Distort',
  family: 'patterns',
  synonyms: ['warp', 'wobble', 'bend coordinates', 'turbulent', 'perturb'],
  help:
    'Shifts coordinates by noise, so that whatever reads them wavers. The amount is a ' +
    'share of the object’s size.',
  formula: 'at + amount·size·(2·noise − 1), each axis with a noise of its own',
  inputs: {
    ...PATTERN_INPUTS,
    amount: input.scalar({
      title: 'Amount',
      help: 'How far, at most.',
      default: 0.05,
      soft: [0, 0.5],
      hard: [-1000, 1000],
      unit: 'of the object’s size',
      low: 'straight',
      high: 'torn apart',
      neutral: 0,
    }),
    octaves: input.scalar({
      title: 'Octaves',
      help: 'Number of layers of the noise.',
      default: 2,
      soft: [1, 8],
      hard: [1, 12],
      step: 0.1,
      low: 'smooth',
      high: 'ragged',
    }),
  },
  options: { per: perOption },
  outputs: { coordinates: output.vector('Coordinates', 'The shifted coordinates.') },
  tolerance: { value: 1e-3, reason: 'Noise at a fine scale reads large coordinates.' },
  lower: (b, { at, scale, seed, amount, octaves }, { per }, model) => {
    const p = patternCoordinates(b, at, scale, per, model);
    const whole = b.toInt(seed);
    const reach = per === 'object' ? b.mul(amount, model.size) : amount;
    const noise = (k: number): F32 =>
      fractalNoise(b, p, {
        basis: 'gradient',
        fold: 'none',
        octaves,
        lacunarity: b.f(2.03),
        diminish: b.f(0.5),
        erode: b.f(0),
        seed: seedWord(b, b.iadd(whole, b.i((k + 1) * 7919))),
      });
    return { coordinates: map3(at, (lane, k) => b.add(lane, b.mul(reach, noise(k)))) };
  },
});

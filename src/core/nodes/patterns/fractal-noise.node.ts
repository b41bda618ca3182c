import { seedWord } from '../../ir/library/hash';
import { fractalNoise as sumOctaves, signedNoise } from '../../ir/library/noise';
import type { F32, Lanes3 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { PATTERN_INPUTS, patternCoordinates, perOption } from '../lanes';

export const fractalNoise = defineNode({
  id: 'patterns.fractal-noise',
  version: 1,
  title: 'Fractal noise',
  family: 'patterns',
  synonyms: ['clouds', 'octaves', 'rough', 'rust', 'dirt', 'turbulence', 'ridges', 'mountains'],
  help: 'Several layers of noise, each finer and weaker than the last.',
  formula: '½ + ½·stretch·Σ wᵢ·fold(n(pᵢ)) / Σ wᵢ, wᵢ = diminishⁱ, pᵢ = p·lacunarityⁱ',
  inputs: {
    ...PATTERN_INPUTS,
    octaves: input.scalar({
      title: 'Octaves',
      help: 'Number of layers; a fraction weighs the last one.',
      default: 5,
      soft: [1, 12],
      hard: [1, 12],
      step: 0.1,
      low: 'smooth',
      high: 'fine detail',
    }),
    lacunarity: input.scalar({
      title: 'Lacunarity',
      help: 'How much finer each layer is.',
      default: 2.03,
      soft: [1.2, 4],
      hard: [0.1, 16],
      step: 0.01,
      low: 'alike',
      high: 'far apart',
    }),
    diminish: input.scalar({
      title: 'Diminish',
      help: 'How strong each layer is against the one before.',
      default: 0.5,
      soft: [0, 1],
      hard: [0, 2],
      low: 'smooth',
      high: 'rough',
    }),
    erode: input.scalar({
      title: 'Erode',
      help: 'Keeps fine layers to the high places.',
      default: 0,
      low: 'everywhere',
      high: 'smooth valleys',
    }),
    stretch: input.scalar({
      title: 'Stretch',
      help: 'Contrast around the middle; the result is limited to 0–1.',
      default: 1.6,
      soft: [0, 4],
      hard: [0, 100],
      low: 'flat grey',
      high: 'hard patches',
    }),
    distortion: input.scalar({
      title: 'Distortion',
      help: 'Bends the coordinates by noise, in features.',
      default: 0,
      soft: [0, 2],
      hard: [-100, 100],
      low: 'straight',
      high: 'swirled',
    }),
  },
  options: {
    basis: option('Basis', 'What is blended at the lattice.', {
      gradient: ['Gradient', 'Slopes: even, without blocks.'],
      value: ['Value', 'Heights: softer, blockier.'],
    }),
    fold: option('Fold', 'How each layer is turned over.', {
      none: ['None', 'As it is.'],
      ridged: ['Ridged', 'Sharp crests.'],
      billow: ['Billow', 'Round lumps, sharp valleys.'],
    }),
    per: perOption,
  },
  outputs: {
    value: output.scalar('Value', '0 to 1.'),
    colour: output.colour('Colour', 'Three unrelated noises as red, green and blue.'),
  },
  tolerance: {
    value: 1e-3,
    reason:
      'At the twelfth octave coordinates are about 5,000 times the scale, and single ' +
      'precision keeps fewer of their digits.',
  },
  lower: (
    b,
    { at, scale, seed, octaves, lacunarity, diminish, erode, stretch, distortion },
    { basis, fold, per },
    model,
  ) => {
    const p = patternCoordinates(b, at, scale, per, model);
    const whole = b.toInt(seed);
    const word = (k: number) => seedWord(b, b.iadd(whole, b.i(k * 7919)));
    // Without distortion no round is made; the three directions share one copy of the noise.
    const bent = b.loop(b.countIfAny(b.not(b.eq(distortion, b.f(0))), 3), p, (axis, carried) => {
      const seedOfAxis = seedWord(b, b.iadd(whole, b.imul(b.iadd(axis, b.i(11)), b.i(7919))));
      const shift = b.mul(distortion, signedNoise(b, basis, p, seedOfAxis));
      return carried.map((lane, k) =>
        b.select(b.ieq(axis, b.i(k)), b.add(lane as F32, shift), lane as F32),
      );
    }) as unknown as Lanes3;
    const layer = (coordinates: Lanes3, k: number): F32 => {
      const n = sumOctaves(b, coordinates, {
        basis,
        fold,
        octaves,
        lacunarity,
        diminish,
        erode,
        seed: word(k),
      });
      return b.saturate(b.add(b.mul(b.mul(n, stretch), b.f(0.5)), b.f(0.5)));
    };
    const value = layer(bent, 0);
    return { value, colour: [value, layer(bent, 1), layer(bent, 2)] };
  },
});

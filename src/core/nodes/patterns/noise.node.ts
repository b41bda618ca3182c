import { seedWord } from '../../ir/library/hash';
import { signedNoise } from '../../ir/library/noise';
import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { PATTERN_INPUTS, patternCoordinates, perOption, zip3 } from '../lanes';

export const noise = defineNode({
  id: 'patterns.noise',
  version: 1,
  title: 'Noise',
  family: 'patterns',
  synonyms: ['random', 'clouds', 'soft', 'grain', 'variation', 'blotches'],
  help: 'One layer of soft, even randomness that never leaves 0–1.',
  formula: '½ + ½·n(at·scale + offset), n lattice noise with quintic blending',
  inputs: {
    ...PATTERN_INPUTS,
    offset: input.vector({
      title: 'Offset',
      help: 'Moves the pattern, in features.',
      default: [0, 0, 0],
      soft: [-4, 4],
    }),
  },
  options: {
    basis: option('Basis', 'What is blended at the lattice.', {
      gradient: ['Gradient', 'Slopes: even, without blocks.'],
      value: ['Value', 'Heights: softer, blockier.'],
    }),
    per: perOption,
  },
  outputs: {
    value: output.scalar('Value', '0 to 1, mean ½.'),
    signed: output.scalar('Signed', '−1 to 1, mean 0.'),
    vector: output.vector('Vector', 'Three unrelated noises, each 0 to 1.'),
  },
  lower: (b, { at, scale, seed, offset }, { basis, per }, model) => {
    const p = zip3(patternCoordinates(b, at, scale, per, model), offset, (x, y) => b.add(x, y));
    const whole = b.toInt(seed);
    const layer = (k: number): F32 =>
      signedNoise(b, basis, p, seedWord(b, b.iadd(whole, b.i(k * 7919))));
    const unit = (n: F32): F32 => b.saturate(b.add(b.mul(n, b.f(0.5)), b.f(0.5)));
    const signed = layer(0);
    return { value: unit(signed), signed, vector: [unit(signed), unit(layer(1)), unit(layer(2))] };
  },
});

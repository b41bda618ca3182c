import type { Builder } from '../builder';
import type { F32, I32, Lanes3, Value } from '../types';
import { HASH_X, HASH_Y, HASH_Z, foldLattice, latticePair } from './hash';

/** The lattice noise that is summed. */
export type NoiseBasis = 'gradient' | 'value';

/**
 * 1 / the largest magnitude of the raw gradient noise, so that the result stays within −1…1.
 */
export const GRADIENT_NOISE_SCALE = 0.964921414852142333984375;

/**
 * t³(t(6t − 15) + 10): first and second derivative vanish at 0 and 1. Source: K. Perlin,
 * Improving Noise, SIGGRAPH 2002.
 */
const fade = (b: Builder, t: F32): F32 =>
  b.mul(b.mul(b.mul(t, t), t), b.add(b.mul(t, b.sub(b.mul(t, b.f(6)), b.f(15))), b.f(10)));

interface Corner {
  readonly bits: I32;
  readonly x: F32;
  readonly y: F32;
  readonly z: F32;
}

/** Where the first and the second third of all words end, as signed numbers. */
const FIRST_THIRD = -715827883;
const SECOND_THIRD = 715827882;

/**
 * The dot product with one of twelve edge directions of a cube, each as likely as the others: the
 * third in which the word lies chooses the axis left out, its two lowest bits the signs. Sixteen
 * directions with four of them doubled would favour an axis by a fifth.
 */
function edgeGradient(b: Builder, { bits, x, y, z }: Corner): F32 {
  const u = b.select(b.ilt(bits, b.i(FIRST_THIRD)), y, x);
  const v = b.select(b.ilt(bits, b.i(SECOND_THIRD)), z, y);
  return b.add(b.flipSign(u, bits), b.flipSign(v, b.ishrUnsigned(bits, 1)));
}

/** A number in [−1, 1) from the upper 24 bits of a word. */
function signedFromBits(b: Builder, bits: I32): F32 {
  return b.sub(b.mul(b.toFloat(b.ishrUnsigned(bits, 8)), b.f(2 / 16777216)), b.f(1));
}

function cornerValue(b: Builder, basis: NoiseBasis, corner: Corner): F32 {
  return basis === 'gradient' ? edgeGradient(b, corner) : signedFromBits(b, corner.bits);
}

/** The body of lattice noise: eight corners, blended with the fade curve. */
function latticeNoise(b: Builder, basis: NoiseBasis, [x, y, z]: Lanes3, seed: I32): F32 {
  const cell = [b.floor(x), b.floor(y), b.floor(z)] as const;
  const near = [b.sub(x, cell[0]), b.sub(y, cell[1]), b.sub(z, cell[2])] as const;
  const far = near.map((t) => b.sub(t, b.f(1))) as unknown as Lanes3;
  const hx = latticePair(b, b.toInt(cell[0]), HASH_X);
  const hy = latticePair(b, b.toInt(cell[1]), HASH_Y);
  const hz = latticePair(b, b.toInt(cell[2]), HASH_Z).map((word) => b.ixor(word, seed)) as [
    I32,
    I32,
  ];
  const [u, v, w] = near.map((t) => fade(b, t)) as unknown as Lanes3;
  const side = (axis: 0 | 1 | 2, upper: number): F32 => (upper ? far[axis] : near[axis]);
  const at = (i: 0 | 1, j: 0 | 1, k: 0 | 1): F32 =>
    cornerValue(b, basis, {
      bits: foldLattice(b, hx[i], hy[j], hz[k]),
      x: side(0, i),
      y: side(1, j),
      z: side(2, k),
    });
  const row = (j: 0 | 1, k: 0 | 1): F32 => b.mix(at(0, j, k), at(1, j, k), u);
  const blended = b.mix(b.mix(row(0, 0), row(1, 0), v), b.mix(row(0, 1), row(1, 1), v), w);
  return basis === 'gradient' ? b.mul(blended, b.f(GRADIENT_NOISE_SCALE)) : blended;
}

/**
 * Smooth noise with one feature per unit of the coordinates, within −1…1. `seed` is a word from
 * `seedWord`. Source (gradient): K. Perlin, Improving Noise, SIGGRAPH 2002, with an integer hash in
 * place of the table.
 */
export function signedNoise(b: Builder, basis: NoiseBasis, at: Lanes3, seed: I32): F32 {
  const func = b.define(`${basis}Noise`, ['f32', 'f32', 'f32', 'i32'], ([x, y, z, s]) => [
    latticeNoise(b, basis, [x as F32, y as F32, z as F32], s as I32),
  ]);
  return b.call(func, [...at, seed])[0] as F32;
}

/** What becomes of each octave before it is summed. */
export type NoiseFold = 'none' | 'ridged' | 'billow';

/** How octaves of noise are summed. */
export interface FractalOptions {
  readonly basis: NoiseBasis;
  readonly fold: NoiseFold;
  readonly octaves: F32;
  readonly lacunarity: F32;
  readonly diminish: F32;
  readonly erode: F32;
  readonly seed: I32;
}

/** The most octaves a fractal noise may sum. */
export const MAXIMUM_OCTAVES = 12;

/**
 * Rounds of an octave loop: as many as needed when the same everywhere, else all of them (the rest
 * weigh nothing).
 */
export function octaveCount(b: Builder, octaves: F32): I32 {
  return octaves.laneUniform ? b.toInt(b.ceil(octaves)) : b.i(MAXIMUM_OCTAVES);
}

/**
 * A sum of octaves of noise, divided by the sum of their amplitudes so that it stays within
 * −1…1. A fractional number of octaves weighs the last one. Folding turns each octave over:
 * ridged 1 − 2|n|, billow 2|n| − 1. `erode` lets finer octaves act only where the sum so far is
 * high.
 * Source: D. Ebert et al., Texturing and Modeling, 2003, chapter 16 (summation and its erosion
 * variant).
 */
export function fractalNoise(b: Builder, at: Lanes3, options: FractalOptions): F32 {
  const octaves = b.clamp(options.octaves, b.f(1), b.f(MAXIMUM_OCTAVES));
  const [zero, one] = [b.f(0), b.f(1)];
  const initial: Value[] = [zero, zero, one, one, one, options.seed];
  const [sum, weight] = b.loop(octaveCount(b, octaves), initial, (index, carried) => {
    const [total, amplitudes, amplitude, frequency, gate] = carried as F32[] as [
      F32,
      F32,
      F32,
      F32,
      F32,
    ];
    const seed = carried[5] as I32;
    const raw = signedNoise(
      b,
      options.basis,
      at.map((c) => b.mul(c, frequency)) as unknown as Lanes3,
      seed,
    );
    const folded = fold(b, options.fold, raw);
    const share = b.mul(amplitude, b.saturate(b.sub(octaves, b.toFloat(index))));
    const height = b.saturate(b.add(b.mul(folded, b.f(0.5)), b.f(0.5)));
    return [
      b.add(total, b.mul(b.mul(share, gate), folded)),
      b.add(amplitudes, share),
      b.mul(amplitude, options.diminish),
      b.mul(frequency, options.lacunarity),
      b.mul(gate, b.mix(one, height, options.erode)),
      b.iadd(seed, b.i(0x3c6ef35f)),
    ];
  }) as F32[] as [F32, F32];
  return b.div(sum, b.max(weight, b.f(1e-6)));
}

function fold(b: Builder, mode: NoiseFold, n: F32): F32 {
  if (mode === 'none') return n;
  const doubled = b.mul(b.abs(n), b.f(2));
  return mode === 'ridged' ? b.sub(b.f(1), doubled) : b.sub(doubled, b.f(1));
}

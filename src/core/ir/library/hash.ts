import type { Builder } from '../builder';
import type { I32 } from '../types';

/**
 * Multipliers that fold three lattice coordinates into one word, and the mixer that follows.
 * Frozen: changing one changes every saved pattern. Source of the multipliers: Teschner et al.
 * style spatial hashing; of the mixer: C. Wellons, Prospecting for Hash Functions, 2018 (public
 * domain), the 15-12-15 mixer.
 */
export const HASH_X = 0x8da6b343;
/** Multiplier of the second coordinate: an odd number, so that no bit is lost. */
export const HASH_Y = 0xd8163841;
/** Multiplier of the third coordinate: an odd number, so that no bit is lost. */
export const HASH_Z = 0xcb1ab31f;
const HASH_SEED = 0x9e3779b9;

/** Mixes a word so that every bit of the result depends on every bit given. */
export function mixBits(b: Builder, word: I32): I32 {
  let h = b.ixor(word, b.ishrUnsigned(word, 15));
  h = b.imul(h, b.i(0x2c1b3c6d));
  h = b.ixor(h, b.ishrUnsigned(h, 12));
  h = b.imul(h, b.i(0x297a2d39));
  return b.ixor(h, b.ishrUnsigned(h, 15));
}

/** A word for a seed, so that neighbouring seeds share nothing. */
export function seedWord(b: Builder, seed: I32): I32 {
  return mixBits(b, b.imul(b.iadd(seed, b.i(1)), b.i(HASH_SEED)));
}

/** The two products of a lattice coordinate and its successor with a multiplier. */
export function latticePair(b: Builder, coordinate: I32, multiplier: number): readonly [I32, I32] {
  const low = b.imul(coordinate, b.i(multiplier));
  return [low, b.iadd(low, b.i(multiplier))];
}

/**
 * The word of a cell from its three products, the seed already folded into the third. The products
 * are added: joined bit by bit, the cells (x, y, 0) and (−x, −y, 0) would share a word. With
 * these multipliers the least lattice vector of sum zero is 1565 cells long, in a coordinate plane
 * 28,493.
 */
export function foldLattice(b: Builder, x: I32, y: I32, zAndSeed: I32): I32 {
  return mixBits(b, b.iadd(b.iadd(x, y), zAndSeed));
}

/** The word of a lattice cell. */
export function latticeWord(b: Builder, [x, y, z]: readonly [I32, I32, I32], seed: I32): I32 {
  return foldLattice(
    b,
    b.imul(x, b.i(HASH_X)),
    b.imul(y, b.i(HASH_Y)),
    b.ixor(b.imul(z, b.i(HASH_Z)), seed),
  );
}

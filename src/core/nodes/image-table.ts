import type { F32 } from '../ir/types';

/**
 * An image among those a program reads, with what is known of it: sizes in texels, its smallest
 * size, its mean colour.
 */
export interface ImageTable {
  readonly slot: number;
  readonly width: F32;
  readonly height: F32;
  readonly rows: F32;
  readonly lastLevel: F32;
  readonly mean: readonly [F32, F32, F32, F32];
}

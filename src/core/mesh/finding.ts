import type { Vec3 } from '../base/vector';

export const CURES = ['smooth', 'weld', 'unwrap', 'flip'] as const;

export type Cure = (typeof CURES)[number];

export const FINDING_CODES = [
  'open',
  'non-manifold',
  'flipped',
  'inside-out',
  'inverted-normals',
  'leaning',
  'faceted',
  'overlap',
  'coverage',
  'flat',
  'duplicate',
  'automatic',
  'size',
] as const;

export type FindingCode = (typeof FINDING_CODES)[number];

/** Something about a model that a mask will show, and what mends it. */
export interface Finding {
  readonly code: FindingCode;
  readonly title: string;
  /** What it does to masks, in a sentence. */
  readonly effect: string;
  readonly cure?: Cure;
  /** `fact`: nothing is amiss. */
  readonly tone: 'fault' | 'fact';
}

export interface Diagnosis {
  readonly triangles: number;
  readonly vertices: number;
  readonly parts: readonly string[];
  readonly attributes: readonly { readonly name: string; readonly width: number }[];
  /** Extent along each axis, and the diameter of the smallest enclosing sphere, metres. */
  readonly extent: Vec3;
  readonly size: number;
  readonly findings: readonly Finding[];
}

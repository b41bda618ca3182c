import type { Vec3 } from '../base/vector';

/** What corrects a model each time it is read. */
export const CURES = ['smooth', 'weld', 'unwrap', 'flip'] as const;

/** One of the cures. */
export type Cure = (typeof CURES)[number];

/** Everything that is looked for in a model; codes are never reused. */
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

/** A code of FINDING_CODES. */
export type FindingCode = (typeof FINDING_CODES)[number];

/** Something about a model that a mask will show, and what corrects it. */
export interface Finding {
  readonly code: FindingCode;
  readonly title: string;
  /** What it does to masks, in a sentence. */
  readonly effect: string;
  readonly cure?: Cure;
  /** `fact`: nothing is amiss. */
  readonly tone: 'fault' | 'fact';
}

/** What a model is, and what was found about it. */
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

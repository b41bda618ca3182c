import type { Builder } from '../ir/builder';
import type { F32 } from '../ir/types';

/**
 * What a value stands for. A strand between two of them converts, where there is a formula, and
 * says so; otherwise it warns.
 */
export const QUANTITIES = [
  'mask',
  'distance',
  'count',
  'coordinate',
  'roughness',
  'gloss',
  'opacity',
  'refractive index',
  'reflectance',
  'specular level',
  'degrees',
  'normal',
] as const;
/** What a number stands for beyond being a number. */
export type Quantity = (typeof QUANTITIES)[number];

/** Of these any number may be made, and they of any number: nothing is to be said of a strand. */
const FREE: ReadonlySet<Quantity> = new Set(['mask', 'distance', 'count', 'coordinate']);
/** Whether a strand from one to the other needs a word: they differ, and neither is free. */
export const differsInKind = (from: Quantity, to: Quantity): boolean =>
  from !== to && !FREE.has(from) && !FREE.has(to);

/** What has every right to lie outside 0–1: to limit it would make another thing of it. */
const BEYOND_ONE: ReadonlySet<Quantity> = new Set([
  'distance',
  'count',
  'coordinate',
  'refractive index',
  'specular level',
  'degrees',
  'normal',
]);
/** Whether a value is a share of something, so that below 0 and above 1 it means nothing more. */
export const isShare = (quantity: Quantity | undefined): boolean =>
  quantity === undefined || !BEYOND_ONE.has(quantity);

/** Reflectance at normal incidence of specular level 1: one half gives the usual 0.04. */
export const LEVEL_ONE = 0.08;
/** Beyond this reflectance the index of a clear body means nothing any more. */
export const MOST_REFLECTANCE = 0.9;

/** √F0 out of a refractive index: (n − 1)/(n + 1); an index below 1 counts as 1. */
export const rootOfIndex = (b: Builder, n: F32): F32 => {
  const index = b.max(n, b.f(1));
  return b.div(b.sub(index, b.f(1)), b.add(index, b.f(1)));
};
/** (1 + √F0)/(1 − √F0), the reflectance limited to 0–0.9 first. */
function indexOf(b: Builder, reflectance: F32): F32 {
  const root = b.sqrt(b.clamp(reflectance, b.f(0), b.f(MOST_REFLECTANCE)));
  return b.div(b.add(b.f(1), root), b.sub(b.f(1), root));
}
const reflectanceOf = (b: Builder, n: F32): F32 => {
  const root = rootOfIndex(b, n);
  return b.mul(root, root);
};
const opposite = (b: Builder, x: F32): F32 => b.sub(b.f(1), b.saturate(x));

/** How one quantity becomes another: in lanes, and as text. */
export interface QuantityConversion {
  readonly formula: string;
  readonly convert: (b: Builder, x: F32) => F32;
}
const CONVERSIONS: Readonly<Record<string, QuantityConversion>> = {
  'gloss > roughness': { formula: '1 − gloss', convert: opposite },
  'roughness > gloss': { formula: '1 − roughness', convert: opposite },
  'refractive index > reflectance': { formula: '((n − 1)/(n + 1))²', convert: reflectanceOf },
  'refractive index > specular level': {
    formula: '((n − 1)/(n + 1))²/0.08',
    convert: (b, n) => b.mul(reflectanceOf(b, n), b.f(1 / LEVEL_ONE)),
  },
  'reflectance > refractive index': { formula: '(1 + √F0)/(1 − √F0)', convert: indexOf },
  'reflectance > specular level': {
    formula: 'F0/0.08',
    convert: (b, share) => b.mul(share, b.f(1 / LEVEL_ONE)),
  },
  'specular level > reflectance': {
    formula: '0.08·level',
    convert: (b, level) => b.mul(level, b.f(LEVEL_ONE)),
  },
  'specular level > refractive index': {
    formula: '(1 + √F0)/(1 − √F0), F0 = 0.08·level',
    convert: (b, level) => indexOf(b, b.mul(level, b.f(LEVEL_ONE))),
  },
};

/** How one quantity becomes another; null where nothing is known of that. */
export const quantityConversion = (from: Quantity, to: Quantity): QuantityConversion | null =>
  CONVERSIONS[`${from} > ${to}`] ?? null;

import type { OpacityMode } from '../graph/document';
import { PLAIN_SURFACE, SURFACE_LANES } from '../nodes/surface-parameters';
import type { SurfaceParameter } from '../nodes/surface-parameters';

/**
 * Which lane stands in which channel of the stage's surface buffer; 1 is the constant 1, which
 * tells that a pixel is covered. The first four targets draw plain paint and metal; the others are
 * needed only for what `surfaceFeatures` finds.
 */
const TARGETS: readonly (readonly (string | 1)[])[] = [
  ['baseColour.r', 'baseColour.g', 'baseColour.b', 'opacity'],
  ['metalness', 'roughness', 'unlit', 1],
  ['emission.r', 'emission.g', 'emission.b', 1],
  ['normal.x', 'normal.y', 'normal.z', 1],
  ['specularColour.r', 'specularColour.g', 'specularColour.b', 'specular'],
  ['transmissionColour.r', 'transmissionColour.g', 'transmissionColour.b', 'transmission'],
  ['sheen.r', 'sheen.g', 'sheen.b', 'sheenRoughness'],
  ['refractiveIndex', 'dispersion', 'coat', 'coatRoughness'],
];
export const PLAIN_TARGETS = 4;
export const ALL_TARGETS = TARGETS.length;
/** The target that holds directions: it needs full precision, the others half. */
export const NORMAL_TARGET = 3;

/** Per target, the index of the lane in each channel; −1 is the constant 1. */
export const SURFACE_PLACES: readonly (readonly number[])[] = TARGETS.map((channels) =>
  channels.map((name) => (name === 1 ? -1 : SURFACE_LANES.indexOf(name))),
);

/** The lanes that the first targets need. */
export const PLAIN_LANES: ReadonlySet<number> = new Set(
  SURFACE_PLACES.slice(0, PLAIN_TARGETS).flat(),
);

/**
 * Statements that write a surface's lanes (`$0`, `$1`, …) into so many targets. Half precision
 * ends at 65504.
 */
export const surfaceWrites = (targets: number): string =>
  SURFACE_PLACES.slice(0, targets)
    .map(
      (lanes, t) =>
        `target${String(t)} = ` +
        `min(vec4(${lanes.map((lane) => (lane < 0 ? '1.0' : `$${String(lane)}`)).join(', ')}), ` +
        'vec4(65000.0));',
    )
    .join('\n');

/** What the shading of a surface needs beyond plain paint and metal. */
export interface SurfaceFeatures {
  readonly reflection: boolean;
  readonly transmission: boolean;
  readonly coat: boolean;
  readonly sheen: boolean;
  readonly dispersion: boolean;
}
export const NO_FEATURES: SurfaceFeatures = {
  reflection: false,
  transmission: false,
  coat: false,
  sheen: false,
  dispersion: false,
};
const WITNESSES: Readonly<Record<keyof SurfaceFeatures, readonly SurfaceParameter[]>> = {
  reflection: ['refractiveIndex', 'specular', 'specularColour'],
  transmission: ['transmission'],
  coat: ['coat'],
  sheen: ['sheen'],
  dispersion: ['dispersion'],
};

/**
 * Which parameters of a surface differ, anywhere among the points at hand, from what changes
 * nothing. `lanes` as SURFACE_LANES.
 */
export function usedParameters(lanes: readonly Float32Array[]): ReadonlySet<SurfaceParameter> {
  const used = new Set<SurfaceParameter>();
  SURFACE_LANES.forEach((name, index) => {
    const plain = Math.fround(PLAIN_SURFACE[index] ?? 0);
    if (lanes[index]?.some((value) => Math.abs(value - plain) > 1e-4))
      used.add(name.split('.')[0] as SurfaceParameter);
  });
  return used;
}

const featuresOf = (used: ReadonlySet<SurfaceParameter>): SurfaceFeatures =>
  Object.fromEntries(
    Object.entries(WITNESSES).map(([feature, names]) => [
      feature,
      names.some((name) => used.has(name)),
    ]),
  ) as unknown as SurfaceFeatures;

/** Finds which features a surface uses anywhere among the points at hand. */
export const surfaceFeatures = (lanes: readonly Float32Array[]): SurfaceFeatures =>
  featuresOf(usedParameters(lanes));

/** The opacity below which a point counts as a hole in the mode `cut-off`. */
export const CUT_OFF = 0.5;

/** All that decides how the stage shades a finished surface. */
export interface Appearance {
  readonly features: SurfaceFeatures;
  readonly opacityMode: OpacityMode;
}

/**
 * How opacity is best shown: `opaque` where it is 1 everywhere, `cut-off` where nearly all of it is
 * 0 or 1 (a hole with soft borders), `dithered` where half-open parts lie beside holes, so that
 * nothing needs sorting, else `blend`.
 */
export function chooseOpacityMode(opacity: ArrayLike<number>): OpacityMode {
  let open = 0,
    half = 0;
  for (let k = 0; k < opacity.length; k++) {
    const value = opacity[k] as number;
    if (value < 0.02) open++;
    else if (value < 0.98) half++;
  }
  if (open + half === 0) return 'opaque';
  if (half <= 0.15 * (open + half) && open > 0) return 'cut-off';
  return open > 0.1 * opacity.length ? 'dithered' : 'blend';
}

/** Looks over a finished surface; `lanes` as SURFACE_LANES. */
export const appearanceOf = (lanes: readonly Float32Array[]): Appearance => ({
  features: surfaceFeatures(lanes),
  opacityMode: chooseOpacityMode(lanes[SURFACE_LANES.indexOf('opacity')] ?? []),
});

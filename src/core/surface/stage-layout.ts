import { assert } from '../base/assert';
import type { OpacityMode } from '../graph/document';
import type { ParameterDefinition, StageShading } from '../nodes/parameters/define';
import type { SurfaceParameter } from '../nodes/parameters/lanes';
import {
  PLAIN_SURFACE,
  SURFACE_ENTRIES,
  SURFACE_LANES,
  laneIndices,
} from '../nodes/surface-parameters';

/** Targets a program may write at once, on every machine that draws more than plain surfaces. */
const MOST_TARGETS = 8;
const CHANNELS = 4;

interface Shaded {
  readonly name: SurfaceParameter;
  readonly parameter: ParameterDefinition;
  readonly shading: StageShading;
}
const SHADED: readonly Shaded[] = SURFACE_ENTRIES.flatMap(([name, parameter]) =>
  parameter.shading ? [{ name, parameter, shading: parameter.shading }] : [],
);
const isPlainShading = ({ shading }: Shaded): boolean => shading.feature === undefined;

/** Where a parameter stands: its target, and its first channel there. */
interface Place {
  readonly target: number;
  readonly channel: number;
}
/**
 * Gives every parameter that is drawn a place: directions a target of their own, which needs full
 * precision; then colours, then numbers where there is room. What plain paint and metal need stands
 * in the first targets, so that nothing else has to be written for them.
 */
function packTargets(): { places: ReadonlyMap<SurfaceParameter, Place>; plain: number } {
  const used: number[] = [];
  const places = new Map<SurfaceParameter, Place>();
  const place = ({ name, parameter: { lanes, encoding } }: Shaded, first: number): void => {
    const isAlone = encoding === 'direction';
    const room = (target: number): boolean => CHANNELS - (used[target] ?? 0) >= lanes;
    const own = used.findIndex((_, target) => target >= first && room(target));
    const shared = used.findIndex((_, target) => room(target));
    const target = own >= 0 && !isAlone ? own : used.length < MOST_TARGETS ? used.length : shared;
    assert(target >= 0, `no target has room for ${name}`);
    places.set(name, { target, channel: used[target] ?? 0 });
    used[target] = isAlone ? CHANNELS : (used[target] ?? 0) + lanes;
  };
  const widestFirst = (a: Shaded, b: Shaded): number => b.parameter.lanes - a.parameter.lanes;
  for (const each of SHADED.filter(isPlainShading).sort(widestFirst)) place(each, 0);
  const plain = used.length;
  for (const each of SHADED.filter((one) => !isPlainShading(one)).sort(widestFirst))
    place(each, plain);
  return { places, plain };
}
const { places: PLACES, plain } = packTargets();

/** Targets that plain paint and metal need. */
export const PLAIN_TARGETS = plain;
/** Targets that all parameters need. */
export const ALL_TARGETS = Math.max(...[...PLACES.values()].map(({ target }) => target)) + 1;
/**
 * The target that holds directions: it needs full precision, the others half. Its last channel is
 * the constant 1, which tells that a pixel is covered.
 */
export const NORMAL_TARGET = PLACES.get('normal')?.target ?? 0;

/** Per target, the index of the lane in each channel; −1 is the constant 1. */
export const SURFACE_PLACES: readonly (readonly number[])[] = Array.from(
  { length: ALL_TARGETS },
  (_, target) => {
    const channels = Array.from({ length: CHANNELS }, () => -1);
    for (const [name, place] of PLACES)
      if (place.target === target)
        laneIndices(name).forEach((lane, k) => {
          channels[place.channel + k] = lane;
        });
    return channels;
  },
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

/**
 * Statements of a fragment shader that read a surface's parameters at `place`, out of textures
 * `surface0`, `surface1`, …, under the names of their shading; only those in the first `targets`.
 */
export const surfaceReads = (targets: number): string =>
  SHADED.flatMap(({ name, parameter, shading }) => {
    const { target, channel } = PLACES.get(name) ?? { target: targets, channel: 0 };
    if (target >= targets) return [];
    const channels = 'xyzw'.slice(channel, channel + parameter.lanes);
    const type = parameter.lanes === 3 ? 'vec3' : 'float';
    return [
      `${type} ${shading.name} = texelFetch(surface${String(target)}, place, 0).${channels};`,
    ];
  }).join('\n');

/** What the shading of a surface must do beyond plain paint and metal, by name, in order. */
export type SurfaceFeatures = readonly string[];
/** What of the drawing library's physical material turns these features on. */
export const featureSwitches = (features: SurfaceFeatures): Readonly<Record<string, number>> =>
  Object.assign(
    {},
    ...SHADED.map(({ shading: { feature, needs, switches } }) =>
      feature && features.includes(feature) && (!needs || features.includes(needs)) ? switches : {},
    ),
  ) as Readonly<Record<string, number>>;

/**
 * Which parameters of a surface differ, anywhere among the points at hand, from what changes
 * nothing. `lanes` as SURFACE_LANES.
 */
export const usedParameters = (lanes: readonly Float32Array[]): ReadonlySet<SurfaceParameter> =>
  new Set(
    SURFACE_ENTRIES.flatMap(([name]) =>
      laneIndices(name).some((index) => {
        const plainValue = Math.fround(PLAIN_SURFACE[index] ?? 0);
        return lanes[index]?.some((value) => Math.abs(value - plainValue) > 1e-4);
      })
        ? [name]
        : [],
    ),
  );

/** Finds which features a surface uses anywhere among the points at hand. */
export function surfaceFeatures(lanes: readonly Float32Array[]): SurfaceFeatures {
  const used = usedParameters(lanes);
  return [
    ...new Set(
      SHADED.flatMap(({ name, shading: { feature } }) =>
        feature && used.has(name) ? [feature] : [],
      ),
    ),
  ];
}

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
export const computeAppearance = (lanes: readonly Float32Array[]): Appearance => ({
  features: surfaceFeatures(lanes),
  opacityMode: chooseOpacityMode(lanes[SURFACE_LANES.indexOf('opacity')] ?? []),
});

import type { F32, Lanes3 } from '../ir/types';

/** What there is to know of one parameter of a surface. */
export interface Parameter<N extends 1 | 3 = 1 | 3> {
  readonly lanes: N;
  /** The value that changes nothing; the normal has none: it is the model's. */
  readonly plain: readonly number[];
  /**
   * The parameter that says how much of this one there is, where it means nothing without that one.
   */
  readonly shareOf?: 'transmission' | 'coat';
}
const one = (plain: number, shareOf?: Parameter['shareOf']): Parameter<1> => ({
  lanes: 1,
  plain: [plain],
  ...(shareOf ? { shareOf } : {}),
});
const three = (plain: number, shareOf?: Parameter['shareOf']): Parameter<3> => ({
  lanes: 3,
  plain: [plain, plain, plain],
  ...(shareOf ? { shareOf } : {}),
});

/**
 * Every parameter of a surface, in the order in which programs write their lanes. Colours linear
 * Rec. 709; the normal a unit vector in object space; shares 0–1. Sources: glTF 2.0 with
 * KHR_materials_ior, _specular, _transmission, _dispersion (20/Abbe number), _clearcoat, _sheen,
 * _unlit; where OpenPBR agrees, so do the meanings.
 */
export const SURFACE_PARAMETERS = {
  baseColour: three(0.5),
  metalness: one(0),
  roughness: one(0.6),
  emission: three(0),
  opacity: one(1),
  normal: three(0),
  refractiveIndex: one(1.5),
  specular: one(1),
  specularColour: three(1),
  transmission: one(0),
  transmissionColour: three(1, 'transmission'),
  dispersion: one(0, 'transmission'),
  coat: one(0),
  coatRoughness: one(0.1, 'coat'),
  sheen: three(0),
  sheenRoughness: one(0.3),
  /** 0 lit, 1 shows its base colour as it is. */
  unlit: one(0),
  /** In the units of the height inputs; read by bakes and by layers. */
  height: one(0),
} as const satisfies Record<string, Parameter>;

export type SurfaceParameter = keyof typeof SURFACE_PARAMETERS;
/** The lanes of a surface, as SURFACE_PARAMETERS describes them. */
export type SurfaceLanes = {
  readonly [N in SurfaceParameter]: (typeof SURFACE_PARAMETERS)[N]['lanes'] extends 3
    ? Lanes3
    : F32;
};

/** The parameters one by one, in order. */
export const SURFACE_ENTRIES = Object.entries(SURFACE_PARAMETERS) as readonly (readonly [
  SurfaceParameter,
  Parameter,
])[];
const AXES: Partial<Record<SurfaceParameter, readonly string[]>> = { normal: ['x', 'y', 'z'] };

/** The names of all lanes, like `baseColour.r`, in the order in which programs write them. */
export const SURFACE_LANES: readonly string[] = SURFACE_ENTRIES.flatMap(([name, { lanes }]) =>
  lanes === 1 ? [name] : (AXES[name] ?? ['r', 'g', 'b']).map((axis) => `${name}.${axis}`),
);

/** The value of each lane that changes nothing, in the order of SURFACE_LANES. */
export const PLAIN_SURFACE: readonly number[] = SURFACE_ENTRIES.flatMap(([, { plain }]) => plain);

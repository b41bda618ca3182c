import type { Builder } from '../../ir/builder';
import type { F32, Lanes3 } from '../../ir/types';
import type { ModelReads } from '../model-reads';
import type { AnyLowered, InputPort, LoweredInputs, Ports } from '../ports';
import type { SurfaceParameter } from './lanes';

/** The input of a layer that says how much of the upper surface's parameter is taken. */
export type LayerShare =
  'colour' | 'finish' | 'relief' | 'glow' | 'clarity' | 'coat' | 'sheen' | 'opacity';

/** How the stage's shading gets the parameter; null where it needs none. */
export interface StageShading {
  /** The name under which the shading reads it at a pixel. */
  readonly name: string;
  /**
   * What the shading must do besides plain paint and metal wherever the parameter differs from what
   * changes nothing. Absent: nothing more; null: it counts only where another parameter does.
   */
  readonly feature?: string | null;
  /** What of the drawing library's physical material turns the feature on. */
  readonly switches?: Readonly<Record<string, number>>;
  /** Another feature without which this one is not seen. */
  readonly needs?: string;
}

/** How numbers are stored, 0 to 1: a share as it is, a colour in sRGB, a direction halved. */
export type Encoding = 'share' | 'colour' | 'direction';

/** The place of a parameter in the textures of a baked model. */
export interface ModelTexturePlace {
  readonly texture: string;
  readonly channels: 'rgb' | 'r' | 'g' | 'b' | 'a';
  /** Another parameter takes its place by the share of a third. */
  readonly replacedBy?: { readonly colour: SurfaceParameter; readonly share: SurfaceParameter };
  /** Stored as a share of the brightest value of the whole surface, at least 1. */
  readonly isRelative?: true;
}

/** What a parameter is over a whole surface, where it is baked. */
export interface BakedValues {
  readonly mean: number;
  readonly largest: number;
  /** Whether it differs from what changes nothing. */
  readonly isUsed: boolean;
  readonly isVarying: boolean;
  /** Share of the surface, 0 to 1, with values below 0 or above 1. */
  readonly beyond: number;
}
/** Stands in glTF members for the index of a texture of the baked model. */
export interface TextureReference {
  readonly texture: string;
}
type GltfValue = number | readonly number[] | TextureReference;
/** Members of glTF extensions of a material, by the name of the extension. */
export type GltfExtensions = Readonly<Record<string, Readonly<Record<string, GltfValue>>>>;

interface ParameterText<N extends 1 | 3, I extends Ports> {
  /** One lane, or three. */
  readonly lanes: N;
  /** The value that changes nothing, in each lane; the normal has none: it is the model's. */
  readonly plain: number;
  /** Where it stands among the parameters, and its inputs on the surface node; ascending. */
  readonly order: number;
  readonly axes?: readonly [string, string, string];
  /** The parameter that says how much of this one there is, where it means nothing without it. */
  readonly shareOf?: SurfaceParameter;
  readonly layer: LayerShare;
  /** The inputs of the surface node that decide it. */
  readonly inputs: I;
  /** Its lanes from those inputs, limited to what it may be. */
  readonly lower: (
    b: Builder,
    given: LoweredInputs<I>,
    model: ModelReads,
  ) => N extends 3 ? Lanes3 : F32;
  readonly shading: StageShading | null;
  readonly encoding: Encoding;
  /** What a picture holds beyond the surface, stored, in each channel. */
  readonly empty: readonly number[];
  /**
   * The map that is baked of it, and the parameters one of which must be used for that; null where
   * there is no such map.
   */
  readonly map: { readonly name: string; readonly when: readonly SurfaceParameter[] } | null;
  /** Its place in the baked model; `when` as for maps. */
  readonly model: (ModelTexturePlace & { readonly when: readonly SurfaceParameter[] }) | null;
  /**
   * What a glTF material says of it in extensions. `hasTexture` tells which textures are written.
   */
  readonly gltf?: (
    values: BakedValues,
    hasTexture: (texture: string) => boolean,
  ) => GltfExtensions | null;
  /** What the files of a bake do not hold of it, in a sentence. */
  readonly loss?: (values: BakedValues) => string | null;
}

/** Everything there is to know of a parameter of a surface. */
export interface ParameterDefinition<N extends 1 | 3 = 1 | 3> extends Omit<
  ParameterText<N, Ports>,
  'lower'
> {
  readonly inputs: Readonly<Record<string, InputPort>>;
  readonly lower: (
    b: Builder,
    given: Readonly<Record<string, AnyLowered>>,
    model: ModelReads,
  ) => N extends 3 ? Lanes3 : F32;
}

/**
 * A parameter of a surface: one file `<name>.parameter.ts` in this folder is all there is to it,
 * but for what a new way to shade it takes.
 */
export const defineParameter = <const N extends 1 | 3, I extends Ports>(
  text: ParameterText<N, I>,
): ParameterDefinition<N> => text as unknown as ParameterDefinition<N>;

import type { F32, Lanes3 } from '../ir/types';
import type { MeshMapKind } from './map-kinds.generated';

/**
 * The id of a fixed input or of an option, a number, a choice made for good, or a number that is
 * the same all over the model.
 */
export type MapSetting =
  string | number | { readonly choice: string } | { readonly everywhere: F32 };
/**
 * A light as nodes read it: `at` a unit direction towards it when it is far, else its place in
 * metres; colour times intensity.
 */
export interface LightLanes {
  readonly at: Lanes3;
  readonly isNear: F32;
  readonly colour: Lanes3;
}
/**
 * What a node may read of the model at the point at hand. Lengths in metres, object space, Y up.
 */
export interface ModelReads {
  readonly position: Lanes3;
  readonly normal: Lanes3;
  readonly faceNormal: Lanes3;
  readonly textureCoordinates: Lanes3;
  /**
   * How the texture coordinates change along the surface: the gradients of u and of v, object
   * space, per metre.
   */
  textureSlopes(): readonly [Lanes3, Lanes3];
  /** From the model's own space to that of the scene. */
  readonly inWorld: {
    readonly position: (place: Lanes3) => Lanes3;
    readonly direction: (direction: Lanes3) => Lanes3;
  };
  /** Diameter of the smallest enclosing sphere. */
  readonly size: F32;
  readonly boundsMinimum: Lanes3;
  readonly boundsExtent: Lanes3;
  /**
   * The width of what one sample stands for on the surface, in metres: a pixel on the stage, a
   * texel in a bake. Null where values are wanted at points and nothing is antialiased.
   */
  footprint(of: 'images' | 'steps'): F32 | null;
  /**
   * A value of a mesh map; `settings` names the fixed inputs and options that decide the map;
   * `which` tells several of one node apart; `detail` names the input whose normals are measured in
   * place of the surface's, when it is wired.
   */
  meshMap(
    kind: MeshMapKind,
    settings: Readonly<Record<string, MapSetting>>,
    more?: { readonly which?: string; readonly detail?: string },
  ): F32;
  /** The unit direction from the point to the eye; where nobody looks, the normal. */
  view(): Lanes3;
  /** The part the point lies on, counted from 0, and the middle of its bounds. */
  part(): { readonly id: F32; readonly centre: Lanes3 };
  /**
   * A named attribute of the model: its width (0 where the model has none of that name) and up to
   * four numbers.
   */
  attribute(name: string): { readonly width: F32; readonly lanes: readonly [F32, F32, F32, F32] };
  /** The lights of the scene; those that are not there are black. */
  lights(): readonly LightLanes[];
  /**
   * Whether anything depends on one of the node's outputs. Outputs that need the same loop are
   * computed in one, and what none of them needs is left out of it.
   */
  isUsed(output: string): boolean;
  /** Whether a strand enters one of the node's inputs. */
  isWired(input: string): boolean;
  /**
   * The same, but a strand that begins at an input of a group counts only where that is wired
   * outside.
   */
  isFed(input: string): boolean;
}

import { normalise } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { lobeFilter } from './split-sum';
import { studioRadiance } from './studio';

/** One level of a cube: six square faces, row by row, in the order +X −X +Y −Y +Z −Z. */
export interface CubeLevel {
  /** Texels along a face. */
  readonly side: number;
  readonly faces: readonly Float32Array[];
}

/** The windows of the studio have soft edges of 20°, and a texel here is seen under 0.7°. */
const SIDE = 128;
/** Levels below the sharp one; the last is that of roughness 1. */
const ROUGH_LEVELS = 4;

/** Right, down and outwards of a face, as OpenGL ES 3.0 (table 3.21) lays cubes out. */
const FACES: readonly (readonly [Vec3, Vec3, Vec3])[] = [
  [
    [0, 0, -1],
    [0, -1, 0],
    [1, 0, 0],
  ],
  [
    [0, 0, 1],
    [0, -1, 0],
    [-1, 0, 0],
  ],
  [
    [1, 0, 0],
    [0, 0, 1],
    [0, 1, 0],
  ],
  [
    [1, 0, 0],
    [0, 0, -1],
    [0, -1, 0],
  ],
  [
    [1, 0, 0],
    [0, -1, 0],
    [0, 0, 1],
  ],
  [
    [-1, 0, 0],
    [0, -1, 0],
    [0, 0, -1],
  ],
];

function fillFace(
  [right, down, out]: readonly [Vec3, Vec3, Vec3],
  side: number,
  radiance: (direction: Vec3) => number,
): Float32Array {
  return Float32Array.from({ length: side * side }, (_, at) => {
    const a = (2 * ((at % side) + 0.5)) / side - 1,
      b = (2 * (Math.floor(at / side) + 0.5)) / side - 1;
    return radiance(
      normalise([
        out[0] + a * right[0] + b * down[0],
        out[1] + a * right[1] + b * down[1],
        out[2] + a * right[2] + b * down[2],
      ]),
    );
  });
}

/** The roughness a level is filtered for: the stage reads level `levels · r · (2 − r)`. */
export const roughnessOfLevel = (level: number): number => 1 - Math.sqrt(1 - level / ROUGH_LEVELS);

/**
 * The studio's radiance as cubes for the stage: sharp first, then as lobes of growing roughness
 * gather it, each half as wide. It takes about a tenth of a second on the processor; a graphics
 * processor that is simulated takes seconds to filter the same.
 */
export const studioCube = (): readonly CubeLevel[] =>
  Array.from({ length: ROUGH_LEVELS + 1 }, (_, level) => {
    const radiance = level === 0 ? studioRadiance : lobeFilter(roughnessOfLevel(level));
    const side = SIDE >> level;
    return { side, faces: FACES.map((face) => fillFace(face, side, radiance)) };
  });

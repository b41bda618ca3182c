import type { ResultKey } from '../base/ids';
import type { NetworkDocument } from '../graph/document';
import { seePoints } from './camera';
import type { Camera } from './camera';
import type { LoadedModel } from './loaded-model';
import { EvaluationSession } from './session';

/**
 * A result as a camera sees it, rows from the top, lane by lane: one of a scalar, three of a vector
 * or colour. Not a number where there is no surface.
 */
export interface SeenValues {
  readonly width: number;
  readonly height: number;
  readonly lanes: readonly Float32Array<ArrayBuffer>[];
}

/**
 * The values of one result at the points of the surface that a camera sees.
 * @param key of anything but a surface
 * @param width in pixels; the height follows from the camera
 * @throws CompileError when the document has errors
 */
export function seeValues(
  { analysis, mesh, maps }: LoadedModel,
  document: NetworkDocument,
  key: ResultKey,
  camera: Camera,
  width: number,
): SeenValues {
  const height = Math.max(1, Math.round(width / camera.aspect));
  const seen = seePoints(analysis, camera, width, height);
  const session = new EvaluationSession({ surface: false, taps: [key], antialias: [] });
  const lanes = session.evaluate(document, mesh, seen.points, maps).map((lane) => {
    const values = new Float32Array(width * height).fill(Number.NaN);
    seen.pixels.forEach((pixel, k) => {
      values[pixel] = lane[k] ?? Number.NaN;
    });
    return values;
  });
  return { width, height, lanes };
}

/**
 * Where the first lane of the seen values crosses a level: pieces of line, each x0, y0, x1, y1 in
 * pixels of the grid. Squares that leave the surface are left out, and so are those with a jump
 * wider than `jump` between neighbours, where one part of the model hides another.
 *
 * Source: W. E. Lorensen and H. E. Cline, Marching Cubes (1987), in two dimensions.
 */
export function levelLine(
  { width, height, lanes }: SeenValues,
  level: number,
  jump = Infinity,
): readonly (readonly [number, number, number, number])[] {
  const pieces: [number, number, number, number][] = [];
  const at = (x: number, y: number): number => lanes[0]?.[y * width + x] ?? Number.NaN;
  for (let y = 0; y + 1 < height; y++)
    for (let x = 0; x + 1 < width; x++) {
      const corners = [at(x, y), at(x + 1, y), at(x + 1, y + 1), at(x, y + 1)];
      if (corners.some(Number.isNaN)) continue;
      if (Math.max(...corners) - Math.min(...corners) > jump) continue;
      const crossings = CORNERS.flatMap(([dx, dy], k) => {
        const [from = 0, to = 0] = [corners[k], corners[(k + 1) % 4]];
        const [nextX, nextY] = CORNERS[(k + 1) % 4] ?? [0, 0];
        if (from >= level === to >= level) return [];
        const share = (level - from) / (to - from);
        return [[x + 0.5 + dx + (nextX - dx) * share, y + 0.5 + dy + (nextY - dy) * share]];
      });
      for (let k = 0; k + 1 < crossings.length; k += 2)
        pieces.push([
          ...((crossings[k] ?? [0, 0]) as [number, number]),
          ...((crossings[k + 1] ?? [0, 0]) as [number, number]),
        ]);
    }
  return pieces;
}
const CORNERS: readonly (readonly [number, number])[] = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
];

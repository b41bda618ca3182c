import { ShapeSketch } from '../shape-sketch';
import type { Sketch } from '../shape-sketch';
import { seededRandom } from '../../base/random';
import type { Vec3 } from '../../base/vector';
import { rounded } from './profile';

/**
 * A corner of a quay: stone blocks, three steps and a mooring post. Comes without texture
 * coordinates.
 */
export function quay(): Sketch {
  const shape = new ShapeSketch();
  const random = seededRandom(4);
  let blocks = 0;
  const block = (centre: Vec3, half: Vec3, seed: number): void => {
    shape
      .nextPart(`block ${String(++blocks)}`)
      .box(centre, [half[0] - 0.006, half[1] - 0.006, half[2] - 0.006], 0.025, 5, 0.018, seed);
  };
  for (let row = 0; row < 3; row++)
    for (let k = 0; k < 4; k++) {
      block(
        [-0.75 + k * 0.5 + (row % 2) * 0.12, -0.4 + row * 0.3, -0.45 + (random() - 0.5) * 0.02],
        [0.25, 0.15, 0.3],
        row * 10 + k + 1,
      );
    }
  for (let row = 0; row < 3; row++)
    for (let k = 0; k < 2; k++)
      block(
        [-0.72, -0.4 + row * 0.3, 0.1 + k * 0.5 + (row % 2) * 0.1],
        [0.28, 0.15, 0.25],
        50 + row * 10 + k,
      );
  for (let step = 0; step < 3; step++)
    block(
      [0.2, -0.45 + step * 0.14, 0.35 - step * 0.22],
      [0.62, 0.1 + step * 0.01, 0.13],
      90 + step,
    );
  shape.nextPart('mooring post').lathe(
    rounded(
      [
        [0, 0],
        [0.1, 0],
        [0.1, 0.16],
        [0.07, 0.2],
        [0.07, 0.26],
        [0.13, 0.3],
        [0.13, 0.35],
        [0.06, 0.39],
        [0, 0.4],
      ],
      0.02,
      3,
    ),
    48,
    [0.45, 0.35, -0.5],
  );
  // Worn stone: its bevels are round, and what is rough about it is no facet.
  return shape.finish(1.2);
}

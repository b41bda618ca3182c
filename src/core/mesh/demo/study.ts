import { ShapeSketch } from '../shape-sketch';
import type { Sketch } from '../shape-sketch';
import { rounded } from './profile';

/**
 * One test shape with soft and hard edges, a cavity, a thin fin, a contact gap and a low-polygon
 * half.
 */
export function study(): Sketch {
  return new ShapeSketch()
    .nextPart('plinth')
    .lathe(
      rounded(
        [
          [0, -0.4],
          [0.62, -0.4],
          [0.66, -0.37],
          [0.68, -0.32],
          [0.68, -0.27],
          [0.6, -0.25],
          [0.6, -0.2],
          [0, -0.2],
        ],
        0.012,
        2,
      ),
      84,
    )
    .nextPart('bowl')
    .lathe(
      rounded(
        [
          [0, -0.2],
          [0.16, -0.2],
          [0.27, -0.17],
          [0.31, -0.05],
          [0.31, 0.05],
          [0.27, 0.17],
          [0.2, 0.21],
          [0.17, 0.2],
          [0.15, 0.12],
          [0.1, 0.02],
          [0, -0.01],
        ],
        0.04,
        3,
      ),
      72,
      [-0.22, 0.02, 0.05],
    )
    .nextPart('ball')
    .sphere([0.3, 0.05, -0.12], 0.25, 10)
    .nextPart('fin')
    .box([-0.05, 0.06, -0.42], [0.34, 0.26, 0.016], 0.004, 4)
    .nextPart('sharp block')
    .box([0.16, -0.09, 0.38], [0.11, 0.11, 0.11], 0.001, 3)
    .nextPart('round block')
    .box([0.4, -0.05, 0.34], [0.12, 0.15, 0.12], 0.045, 3)
    .nextPart('cord')
    .torus([-0.22, 0.06, 0.05], [0, 1, 0], 0.315, 0.03, 64)
    .finish(0.5);
}

import { ShapeSketch } from '../shape-sketch';
import type { Sketch } from '../shape-sketch';
import { rounded } from './profile';

/** A mooring bell with a flared lip, a crown loop and a clapper, about half a metre high. */
export function bell(): Sketch {
  return new ShapeSketch()
    .nextPart('bell')
    .lathe(
      rounded(
        [
          [0.19, -0.22],
          [0.205, -0.235],
          [0.24, -0.24],
          [0.255, -0.225],
          [0.245, -0.2],
          [0.2, -0.12],
          [0.175, -0.02],
          [0.168, -0.02],
          [0.168, 0],
          [0.172, 0],
          [0.16, 0.09],
          [0.13, 0.16],
          [0.07, 0.195],
          [0.045, 0.2],
          [0.045, 0.235],
          [0, 0.24],
        ],
        0.009,
        3,
      ),
      96,
    )
    .lathe(
      [
        [0, 0.16],
        [0.06, 0.155],
        [0.11, 0.125],
        [0.138, 0.07],
        [0.15, -0.02],
        [0.175, -0.12],
        [0.19, -0.22],
      ],
      96,
    )
    .nextPart('crown loop')
    .torus([0, 0.275, 0], [0, 0, 1], 0.05, 0.014, 54)
    .nextPart('clapper')
    .tube(
      [
        [0, 0.15, 0],
        [0.015, -0.05, 0],
        [0.03, -0.2, 0],
      ],
      0.009,
      12,
    )
    .sphere([0.032, -0.225, 0], 0.036, 28)
    .finish(0.6);
}

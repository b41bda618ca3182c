import { ShapeSketch } from '../shape-sketch';
import type { Sketch } from '../shape-sketch';
import { ring, rounded } from './profile';
import type { Profile } from './profile';

const HULL: Profile = [
  [0, -0.62],
  [0.2, -0.6],
  [0.36, -0.52],
  [0.47, -0.36],
  [0.5, -0.2],
  [0.5, -0.12],
  [0.535, -0.12],
  [0.535, -0.04],
  [0.5, -0.04],
  [0.5, 0.1],
  [0.48, 0.16],
  [0.42, 0.2],
  [0.42, 0.25],
  [0.455, 0.25],
  [0.455, 0.3],
  [0.36, 0.3],
  [0.3, 0.36],
  [0.21, 0.66],
  [0.21, 0.7],
  [0.24, 0.7],
  [0.24, 0.75],
  [0.17, 0.75],
  [0.17, 0.78],
  [0, 0.78],
];
const BOLT: Profile = [
  [0, -0.02],
  [0.026, -0.02],
  [0.026, 0.018],
  [0.021, 0.026],
  [0, 0.026],
];
const LANTERN: Profile = [
  [0, 0.77],
  [0.075, 0.79],
  [0.085, 0.84],
  [0.075, 0.93],
  [0.03, 0.97],
  [0, 0.98],
];
const CAP: Profile = [
  [0.0, 1.045],
  [0.075, 1.05],
  [0.07, 1.08],
  [0.02, 1.1],
  [0, 1.12],
];

/** A channel buoy of riveted bands, with a ring bracket and a lantern cage, about 1.7 m high. */
export function buoy(): Sketch {
  const shape = new ShapeSketch().lathe(rounded(HULL, 0.011), 72);
  shape.nextPart('rivets');
  for (const [x, y, z] of ring(16, 0.545, -0.08)) shape.sphere([x, y, z], 0.022, 18);
  shape.nextPart('bolts');
  for (const [x, y, z] of ring(12, 0.405, 0.315)) shape.lathe(BOLT, 6, [x, y, z]);
  shape
    .nextPart('ring bracket')
    .torus([0, -0.3, 0.56], [1, 0, 0], 0.085, 0.018, 48)
    .box([0, -0.3, 0.48], [0.03, 0.05, 0.03], 0.008);
  shape.nextPart('lantern cage');
  for (const [x, , z] of ring(4, 0.13, 0, 0.5))
    shape.tube(
      [
        [x, 0.76, z],
        [x, 0.9, z],
        [x * 0.9, 1.0, z * 0.9],
        [x * 0.4, 1.06, z * 0.4],
      ],
      0.012,
      14,
    );
  shape.lathe(rounded(LANTERN, 0.03, 3), 40);
  shape.lathe(rounded(CAP, 0.006), 40);
  return shape.finish(0.62);
}

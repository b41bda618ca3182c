import type { Vec3 } from '../base/vector';
import { seededRandom } from '../base/random';
import { ShapeSketch } from './shape-sketch';
import type { Sketch } from './shape-sketch';

const ring = (count: number, radius: number, y: number, turn = 0): Vec3[] =>
  Array.from({ length: count }, (_, k) => {
    const angle = ((k + turn) / count) * 2 * Math.PI;
    return [radius * Math.cos(angle), y, radius * Math.sin(angle)];
  });

type Profile = readonly (readonly [number, number])[];

/**
 * A profile whose inner corners are rounded by arcs of a radius, or less where a side is short:
 * edges of things that were made catch the light, and curvature has something to find.
 */
function rounded(profile: Profile, radius: number, steps = 2): Profile {
  return profile.flatMap((here, k): Profile => {
    const before = profile[k - 1],
      after = profile[k + 1];
    if (!before || !after) return [here];
    const cut = (other: readonly [number, number]): readonly [number, number] => {
      const length = Math.hypot(other[0] - here[0], other[1] - here[1]);
      const share = Math.min(0.45, radius / Math.max(length, 1e-9));
      return [here[0] + (other[0] - here[0]) * share, here[1] + (other[1] - here[1]) * share];
    };
    const [from, to] = [cut(before), cut(after)];
    // A quadratic curve with its middle at the corner.
    return Array.from({ length: steps + 1 }, (_, s) => {
      const t = s / steps;
      return [0, 1].map(
        (axis) =>
          (from[axis as 0] * (1 - t) + here[axis as 0] * t) * (1 - t) +
          (here[axis as 0] * (1 - t) + to[axis as 0] * t) * t,
      ) as unknown as readonly [number, number];
    });
  });
}

/** A channel buoy of riveted bands, with a ring bracket and a lantern cage, about 1.7 m high. */
function buoy(): Sketch {
  const shape = new ShapeSketch().lathe(
    rounded(
      [
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
      ],
      0.011,
    ),
    72,
  );
  shape.nextPart('rivets');
  for (const [x, y, z] of ring(16, 0.545, -0.08)) shape.sphere([x, y, z], 0.022, 18);
  shape.nextPart('bolts');
  for (const [x, y, z] of ring(12, 0.405, 0.315))
    shape.lathe(
      [
        [0, -0.02],
        [0.026, -0.02],
        [0.026, 0.018],
        [0.021, 0.026],
        [0, 0.026],
      ],
      6,
      [x, y, z],
    );
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
  shape.lathe(
    rounded(
      [
        [0, 0.77],
        [0.075, 0.79],
        [0.085, 0.84],
        [0.075, 0.93],
        [0.03, 0.97],
        [0, 0.98],
      ],
      0.03,
      3,
    ),
    40,
  );
  shape.lathe(
    rounded(
      [
        [0.0, 1.045],
        [0.075, 1.05],
        [0.07, 1.08],
        [0.02, 1.1],
        [0, 1.12],
      ],
      0.006,
    ),
    40,
  );
  return shape.finish(0.62);
}

/** A mooring bell with a flared lip, a crown loop and a clapper, about half a metre high. */
function bell(): Sketch {
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

/** Nine cork floats of a net on a sagging line. */
function floats(): Sketch {
  const shape = new ShapeSketch().nextPart('line');
  const at = (t: number): Vec3 => [
    t * 1.6,
    0.35 * t * t - 0.1 + 0.03 * Math.sin(t * 9),
    0.05 * Math.sin(t * 5),
  ];
  shape.tube(
    Array.from({ length: 80 }, (_, k) => at((k / 79) * 2 - 1)),
    0.014,
    10,
  );
  const random = seededRandom(9);
  for (let k = 0; k < 9; k++) {
    const [x, y, z] = at((k / 8) * 1.8 - 0.9);
    const r = 0.085 + random() * 0.03;
    // Round the hole for the line the float turns inwards and meets itself there.
    shape.nextPart(`float ${String(k + 1)}`).lathe(
      [
        [0.016, r * 0.9],
        [0.016, -r * 0.9],
        ...rounded(
          [
            [0.016, -r * 0.9],
            [0.03, -r * 0.92],
            [r * 0.75, -r * 0.6],
            [r, -r * 0.1],
            [r, r * 0.1],
            [r * 0.75, r * 0.6],
            [0.03, r * 0.92],
            [0.016, r * 0.9],
          ],
          r * 0.3,
          3,
        ).slice(1),
      ],
      40,
      [x, y, z],
    );
  }
  return shape.finish(0.8);
}

/**
 * A corner of a quay: stone blocks, three steps and a mooring post. Comes without texture
 * coordinates.
 */
function quay(): Sketch {
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

/** A flat square metre. */
function tile(): Sketch {
  const row = (z: number): Vec3[] => Array.from({ length: 17 }, (_, k) => [k / 16 - 0.5, 0, z]);
  return new ShapeSketch()
    .sheet(
      Array.from({ length: 17 }, (_, k) => row(k / 16 - 0.5)),
      false,
    )
    .finish();
}

/**
 * One test shape with soft and hard edges, a cavity, a thin fin, a contact gap and a low-polygon
 * half.
 */
function study(): Sketch {
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

export interface DemoModel {
  readonly name: string;
  readonly title: string;
  readonly hasUvs: boolean;
  readonly make: () => Sketch;
}

/** The models of the demo scenario, made by this code. */
export const DEMO_MODELS: readonly DemoModel[] = [
  { name: 'study', title: 'Study form', hasUvs: true, make: study },
  { name: 'buoy', title: 'Channel buoy', hasUvs: true, make: buoy },
  { name: 'bell', title: 'Mooring bell', hasUvs: true, make: bell },
  { name: 'floats', title: 'String of floats', hasUvs: true, make: floats },
  { name: 'quay', title: 'Quay corner', hasUvs: false, make: quay },
  { name: 'tile', title: 'Tile', hasUvs: true, make: tile },
];

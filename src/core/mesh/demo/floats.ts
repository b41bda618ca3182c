import { ShapeSketch } from '../shape-sketch';
import type { Sketch } from '../shape-sketch';
import { seededRandom } from '../../base/random';
import type { Vec3 } from '../../base/vector';
import { rounded } from './profile';

/** Nine cork floats of a net on a sagging line. */
export function floats(): Sketch {
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

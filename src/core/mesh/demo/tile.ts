import { ShapeSketch } from '../shape-sketch';
import type { Sketch } from '../shape-sketch';
import type { Vec3 } from '../../base/vector';

/** A flat square metre. */
export function tile(): Sketch {
  const row = (z: number): Vec3[] => Array.from({ length: 17 }, (_, k) => [k / 16 - 0.5, 0, z]);
  return new ShapeSketch()
    .sheet(
      Array.from({ length: 17 }, (_, k) => row(k / 16 - 0.5)),
      false,
    )
    .finish();
}

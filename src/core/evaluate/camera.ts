import { add, cross, normalise, scale, sub } from '../base/vector';
import type { Vec3 } from '../base/vector';
import type { MeshAnalysis } from '../mesh/analysis';
import { RAY } from '../mesh/mesh-kernel';
import { PointCollector } from '../mesh/sample-points';
import type { SamplePoints } from '../mesh/sample-points';

/** A perspective camera: field of view across the height, radians. */
export interface Camera {
  readonly eye: Vec3;
  readonly target: Vec3;
  readonly fieldRad: number;
  readonly aspect: number;
}

/**
 * The points of the surface that a camera sees, by rays through the middles of a grid of pixels.
 */
export interface VisiblePoints {
  readonly width: number;
  readonly height: number;
  readonly points: SamplePoints;
  /** The pixel (row × width + column, rows from the top) of each point. */
  readonly pixels: Uint32Array<ArrayBuffer>;
  /** Unit vectors from each point to the eye, three numbers each. */
  readonly views: Float32Array<ArrayBuffer>;
}

/** A camera for a square picture of the middle of what another sees, as wide as fits in that. */
export const squareCamera = (camera: Camera): Camera => ({
  ...camera,
  fieldRad: 2 * Math.atan(Math.tan(camera.fieldRad / 2) * Math.min(1, camera.aspect)),
  aspect: 1,
});

/** How far a camera sees, metres. */
const FARTHEST = 1e30;

/** A camera that frames a whole model from the front right, slightly above. */
export function framingCamera(centre: Vec3, size: number, aspect = 1): Camera {
  const fieldRad = 0.6;
  const distance = (size * 0.52) / Math.tan(fieldRad / 2) / Math.min(1, aspect);
  return {
    eye: add(centre, scale(normalise([0.62, 0.42, 1]), distance)),
    target: centre,
    fieldRad,
    aspect,
  };
}

/**
 * Unit vectors of a camera in object space: where the right and the upper side of its picture are,
 * and where it looks.
 */
export function cameraAxes({ eye, target }: Pick<Camera, 'eye' | 'target'>): {
  readonly right: Vec3;
  readonly up: Vec3;
  readonly forward: Vec3;
} {
  const forward = normalise(sub(target, eye));
  const right = normalise(cross(forward, Math.abs(forward[1]) > 0.9999 ? [0, 0, 1] : [0, 1, 0]));
  return { right, up: cross(right, forward), forward };
}

/**
 * The ray of a camera through a place of its picture, `across` and `down` it from 0 to 1; not of
 * unit length.
 */
export function rayAt(
  camera: Camera,
  across: number,
  down: number,
): { readonly from: Vec3; readonly towards: Vec3 } {
  const { right, up, forward } = cameraAxes(camera);
  const half = Math.tan(camera.fieldRad / 2);
  const sideways = scale(right, (across * 2 - 1) * half * camera.aspect),
    upwards = scale(up, (1 - down * 2) * half);
  return { from: camera.eye, towards: add(add(forward, sideways), upwards) };
}

/** Casts a ray through each pixel of a grid and gathers the points of the surface it meets. */
export function seePoints(
  analysis: MeshAnalysis,
  camera: Camera,
  width: number,
  height: number,
): VisiblePoints {
  const { right, up, forward } = cameraAxes(camera);
  const half = Math.tan(camera.fieldRad / 2);
  const collector = new PointCollector(analysis.mesh, width * height);
  const pixels: number[] = [],
    views: number[] = [];
  const rays = new Float32Array(width * height * RAY);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const sx = (((x + 0.5) / width) * 2 - 1) * half * camera.aspect,
        sy = (1 - ((y + 0.5) / height) * 2) * half;
      const [dx, dy, dz] = normalise([
        forward[0] + right[0] * sx + up[0] * sy,
        forward[1] + right[1] * sx + up[1] * sy,
        forward[2] + right[2] * sx + up[2] * sy,
      ]);
      rays.set([...camera.eye, dx, dy, dz, FARTHEST, 0], (y * width + x) * RAY);
    }
  const { triangles, weights } = analysis.kernel.castRays(rays);
  for (let pixel = 0; pixel < triangles.length; pixel++) {
    if ((triangles[pixel] as number) < 0) continue;
    collector.add(
      triangles[pixel] as number,
      weights[pixel * 2] as number,
      weights[pixel * 2 + 1] as number,
    );
    pixels.push(pixel);
    for (let axis = 3; axis < 6; axis++) views.push(-(rays[pixel * RAY + axis] as number));
  }
  return {
    width,
    height,
    points: { ...collector.take(), sample: { eye: camera.eye, pixelRad: (2 * half) / height } },
    pixels: Uint32Array.from(pixels),
    views: Float32Array.from(views),
  };
}

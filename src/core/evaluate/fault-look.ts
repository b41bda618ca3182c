import { add, dot, normalise, scale } from '../base/vector';
import type { Vec3 } from '../base/vector';
import type { MeshAnalysis } from '../mesh/analysis';
import { markFinding } from '../mesh/fault-places';
import type { FindingCode } from '../mesh/finding';
import { computeFaceNormals } from '../mesh/sample-points';
import { triangleAreas, vertexAt } from '../mesh/surface-mesh';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import { framingCamera, seePoints } from './camera';
import type { Camera, VisiblePoints } from './camera';
import { halve, paintValues } from './picture';
import type { Picture } from './picture';

/** Plain grey, and madder for what is amiss: linear colours. */
const PLAIN: Vec3 = [0.2, 0.2, 0.2],
  FAULTY: Vec3 = [0.75, 0.1, 0.07];
/** How far around a faulty pixel its neighbours are marked too, so that the smallest is seen. */
const WIDEN = 2;

/**
 * Where a finding is on a model: its triangles in madder on plain grey, seen from the side they
 * face, `size` pixels square.
 * @returns null for a finding that has no place
 */
export function drawFault(analysis: MeshAnalysis, code: FindingCode, size: number): Picture | null {
  const { mesh } = analysis;
  const marked = markFinding(mesh, code);
  if (!marked) return null;
  const camera = cameraTowards(mesh, marked);
  const seen = seePoints(analysis, camera, size * 2, size * 2);
  const faulty = widen(seen, marked);
  const lanes = [0, 1, 2].map(() => new Float32Array(seen.points.count));
  const faces = computeFaceNormals(mesh);
  const light = normalise(add(cameraBack(camera), [0.3, 0.6, 0]));
  for (let k = 0; k < seen.points.count; k++) {
    const lit = Math.abs(dot(vertexAt(faces, seen.points.triangles[k] as number), light));
    const dye = faulty[seen.pixels[k] as number] === 1 ? FAULTY : PLAIN;
    for (const channel of [0, 1, 2] as const)
      (lanes[channel] as Float32Array)[k] = dye[channel] * (0.35 + 0.65 * lit);
  }
  return halve(paintValues(seen, lanes, true));
}

const cameraBack = ({ eye, target }: Camera): Vec3 =>
  normalise([eye[0] - target[0], eye[1] - target[1], eye[2] - target[2]]);

/** The usual camera, from the side that most of the marked surface faces. */
function cameraTowards(mesh: SurfaceMesh, marked: Uint8Array): Camera {
  const usual = framingCamera(mesh.centre, mesh.size);
  const faces = computeFaceNormals(mesh),
    areas = triangleAreas(mesh);
  let sum: Vec3 = [0, 0, 0],
    total = 0;
  for (let t = 0; t < marked.length; t++) {
    if (marked[t] === 0) continue;
    const area = areas[t] as number;
    sum = add(sum, scale(vertexAt(faces, t), area));
    total += area;
  }
  const leaning = Math.hypot(...sum);
  // What faces all sides alike is seen from the usual one.
  if (leaning < total * 0.1 || dot(normalise(sum), cameraBack(usual)) > 0.3) return usual;
  const distance = Math.hypot(...usual.eye.map((x, axis) => x - (usual.target[axis] as number)));
  const back = normalise(add(normalise(sum), scale(cameraBack(usual), 0.35)));
  return { ...usual, eye: add(usual.target, scale(back, distance)) };
}

/** Pixels that show a marked triangle, and those close to one. */
function widen({ width, height, points, pixels }: VisiblePoints, marked: Uint8Array): Uint8Array {
  const faulty = new Uint8Array(width * height);
  pixels.forEach((pixel, k) => {
    if (marked[points.triangles[k] as number] !== 1) return;
    const x = pixel % width,
      y = (pixel / width) | 0;
    for (let row = Math.max(0, y - WIDEN); row <= Math.min(height - 1, y + WIDEN); row++)
      for (let column = Math.max(0, x - WIDEN); column <= Math.min(width - 1, x + WIDEN); column++)
        faulty[row * width + column] = 1;
  });
  return faulty;
}

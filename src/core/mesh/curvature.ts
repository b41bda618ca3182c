import { add, cross, dot, length, normalise, scale, sub } from '../base/vector';
import type { Vec3 } from '../base/vector';
import type { Bvh } from './bvh';
import type { SamplePoints } from './sample-points';
import { cornersOf, triangleCount, vertexAt } from './surface-mesh';
import type { SurfaceMesh } from './surface-mesh';
import { edgesOf, nextCorner } from './topology';

/**
 * What curvature is gathered from: per triangle its area and the mean curvature of its normal field (half the divergence
 * of the linearly interpolated normals, exact on spheres and cylinders however coarse), plus, on edges where the normals
 * jump, half the angle of the jump per length. Summed up the hierarchy, so that whole branches inside a ball count at once.
 * Source: D. Cohen-Steiner and J.-M. Morvan, Restricted Delaunay Triangulations and Normal Cycle, 2003, for the edge
 * measure; the divergence term replaces it inside smooth-shaded triangles.
 */
export interface CurvatureField {
  /** Per triangle: area, then mean curvature. */
  readonly densities: Float64Array;
  /** Per triangle and edge: the angle (radians, convex positive) of the normals' jump, counted on one of its two sides. */
  readonly jumps: Float32Array;
  /** Per node of the hierarchy: total area, total curvature integral. */
  readonly sums: Float64Array;
}

const AREA = 0, CURVATURE = 1;

export function prepareCurvature(mesh: SurfaceMesh, bvh: Bvh): CurvatureField {
  const count = triangleCount(mesh);
  const densities = new Float64Array(count * 2);
  for (let t = 0; t < count; t++) {
    const [area, curvature] = triangleCurvature(mesh, t);
    densities[t * 2 + AREA] = area;
    densities[t * 2 + CURVATURE] = curvature;
  }
  const jumps = findJumps(mesh);
  return { densities, jumps, sums: sumUp(mesh, bvh, densities, jumps) };
}

function triangleCurvature(mesh: SurfaceMesh, t: number): readonly [number, number] {
  const [a, b, c] = cornersOf(mesh, t);
  const face = cross(sub(b, a), sub(c, a));
  const doubled = length(face);
  if (doubled < 1e-24) return [0, 0];
  const n = scale(face, 1 / doubled);
  const normal = (k: number): Vec3 => vertexAt(mesh.normals, mesh.indices[t * 3 + k] as number);
  // The gradient of a corner's barycentric weight is n × (opposite edge) / 2·area.
  const divergence = (dot(normal(0), cross(n, sub(c, b))) + dot(normal(1), cross(n, sub(a, c))) + dot(normal(2), cross(n, sub(b, a)))) / doubled;
  return [doubled / 2, divergence / 2];
}

/** The angle between the normals across every edge that two triangles share, counted at one of its two corners. */
function findJumps(mesh: SurfaceMesh): Float32Array {
  const { across } = edgesOf(mesh);
  const jumps = new Float32Array(mesh.indices.length);
  for (let k = 0; k < jumps.length; k++) {
    const other = across[k] as number;
    if (other >= 0 && other < k && !runsAlike(mesh, k, other)) jumps[k] = jumpAngle(mesh, k, nextCorner(k), other);
  }
  return jumps;
}

/** Whether two triangles run along their edge in the same direction: one of them is turned round, and its normals tell nothing. */
function runsAlike(mesh: SurfaceMesh, corner: number, other: number): boolean {
  const at = (k: number): Vec3 => vertexAt(mesh.positions, mesh.indices[k] as number);
  return length(sub(at(corner), at(other))) < length(sub(at(corner), at(nextCorner(other))));
}

function jumpAngle(mesh: SurfaceMesh, k: number, next: number, other: number): number {
  const otherNext = nextCorner(other);
  const normal = (corner: number): Vec3 => vertexAt(mesh.normals, mesh.indices[corner] as number);
  const here = normalise(add(normal(k), normal(next)));
  const there = normalise(add(normal(other), normal(otherNext)));
  const edge = normalise(sub(vertexAt(mesh.positions, mesh.indices[next] as number), vertexAt(mesh.positions, mesh.indices[k] as number)));
  const turn = cross(here, there);
  const angle = Math.atan2(length(turn), dot(here, there));
  return dot(turn, edge) >= 0 ? angle : -angle;
}

function edgeIntegral(mesh: SurfaceMesh, t: number, jumps: Float32Array): number {
  const corners = cornersOf(mesh, t);
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const jump = jumps[t * 3 + k] as number;
    if (jump !== 0) sum += jump * 0.5 * length(sub(corners[(k + 1) % 3] as Vec3, corners[k] as Vec3));
  }
  return sum;
}

function sumUp(mesh: SurfaceMesh, bvh: Bvh, densities: Float64Array, jumps: Float32Array): Float64Array {
  const nodes = bvh.links.length / 2;
  const sums = new Float64Array(nodes * 2);
  for (let node = nodes - 1; node >= 0; node--) {
    const first = bvh.links[node * 2] as number, count = bvh.links[node * 2 + 1] as number;
    let area = 0, integral = 0;
    if (count === 0) {
      for (const child of [node + 1, first]) { area += sums[child * 2] as number; integral += sums[child * 2 + 1] as number; }
    } else for (let place = first; place < first + count; place++) {
      const t = bvh.order[place] as number;
      area += densities[t * 2 + AREA] as number;
      integral += (densities[t * 2 + AREA] as number) * (densities[t * 2 + CURVATURE] as number) + edgeIntegral(mesh, t, jumps);
    }
    sums[node * 2] = area;
    sums[node * 2 + 1] = integral;
  }
  return sums;
}

/**
 * ρ times the mean curvature averaged over the surface inside a ball of radius ρ around each point; convex positive,
 * ρ/R on a sphere, ρ/2R on a cylinder, 0 on a plane; on a sharp right-angled edge ½, falling to 0 at distance ρ from it.
 */
export function computeCurvature(mesh: SurfaceMesh, bvh: Bvh, field: CurvatureField, points: SamplePoints, radius: number, first = 0, count = points.count): Float32Array<ArrayBuffer> {
  const result = new Float32Array(count);
  const gather = new BallGatherer(mesh, bvh, field, radius);
  for (let k = 0; k < count; k++) {
    const [area, integral] = gather.at(vertexAt(points.positions, first + k));
    result[k] = area > 0 ? radius * integral / area : 0;
  }
  return result;
}

/** Sums over the part of the surface inside a ball. Written out in scalars: it runs for every texel of a map. */
class BallGatherer {
  private readonly stack = new Uint32Array(128);
  private area = 0;
  private integral = 0;
  /** Per place of the hierarchy: unit normal, mean curvature, then the three jumps. */
  private readonly facts: Float64Array;
  private readonly squared: number;

  constructor(mesh: SurfaceMesh, private readonly bvh: Bvh, private readonly field: CurvatureField, radius: number) {
    this.squared = radius * radius;
    this.facts = new Float64Array(bvh.order.length * 7);
    bvh.order.forEach((t, place) => {
      const [a, b, c] = cornersOf(mesh, t);
      const n = normalise(cross(sub(b, a), sub(c, a)));
      this.facts.set([...n, field.densities[t * 2 + CURVATURE] as number, ...field.jumps.subarray(t * 3, t * 3 + 3)], place * 7);
    });
  }

  at([x, y, z]: Vec3): readonly [number, number] {
    const { bvh, field, stack, squared } = this;
    this.area = 0;
    this.integral = 0;
    if (bvh.links.length === 0) return [0, 0];
    let depth = 0;
    stack[depth++] = 0;
    while (depth > 0) {
      const node = stack[--depth] as number;
      const b = node * 6;
      const lx = (bvh.bounds[b] as number) - x, ly = (bvh.bounds[b + 1] as number) - y, lz = (bvh.bounds[b + 2] as number) - z;
      const hx = x - (bvh.bounds[b + 3] as number), hy = y - (bvh.bounds[b + 4] as number), hz = z - (bvh.bounds[b + 5] as number);
      const nx = Math.max(lx, hx, 0), ny = Math.max(ly, hy, 0), nz = Math.max(lz, hz, 0);
      if (nx * nx + ny * ny + nz * nz > squared) continue;
      const fx = Math.max(-lx, -hx), fy = Math.max(-ly, -hy), fz = Math.max(-lz, -hz);
      if (fx * fx + fy * fy + fz * fz <= squared) {
        this.area += field.sums[node * 2] as number;
        this.integral += field.sums[node * 2 + 1] as number;
        continue;
      }
      const first = bvh.links[node * 2] as number, count = bvh.links[node * 2 + 1] as number;
      if (count === 0) {
        stack[depth++] = first;
        stack[depth++] = node + 1;
      } else for (let place = first; place < first + count; place++) this.addTriangle(place, x, y, z);
    }
    return [this.area, this.integral];
  }

  /** Adds area and curvature integral of the part of a triangle inside the ball around (x, y, z). */
  private addTriangle(place: number, x: number, y: number, z: number): void {
    const { facts } = this;
    const { triangles } = this.bvh;
    const f = place * 7, t = place * 9;
    const nx = facts[f] as number, ny = facts[f + 1] as number, nz = facts[f + 2] as number;
    // Corners relative to the foot of the centre on the triangle's plane.
    let ax = (triangles[t] as number) - x, ay = (triangles[t + 1] as number) - y, az = (triangles[t + 2] as number) - z;
    const height = ax * nx + ay * ny + az * nz;
    const disc = this.squared - height * height;
    if (disc <= 0) return;
    ax -= nx * height; ay -= ny * height; az -= nz * height;
    const bx = ax + (triangles[t + 3] as number), by = ay + (triangles[t + 4] as number), bz = az + (triangles[t + 5] as number);
    const cx = ax + (triangles[t + 6] as number), cy = ay + (triangles[t + 7] as number), cz = az + (triangles[t + 8] as number);
    const inside = this.side(ax, ay, az, bx, by, bz, nx, ny, nz, disc, facts[f + 4] as number)
      + this.side(bx, by, bz, cx, cy, cz, nx, ny, nz, disc, facts[f + 5] as number)
      + this.side(cx, cy, cz, ax, ay, az, nx, ny, nz, disc, facts[f + 6] as number);
    if (inside <= 0) return;
    this.area += inside;
    this.integral += inside * (facts[f + 3] as number);
  }

  /**
   * Signed area of the intersection of the triangle (foot, p, q) with the disc around the foot; adds the measure of the
   * edge pq inside the disc where the normals jump across it.
   */
  private side(px: number, py: number, pz: number, qx: number, qy: number, qz: number, nx: number, ny: number, nz: number, disc: number, jump: number): number {
    const dx = qx - px, dy = qy - py, dz = qz - pz;
    const a = dx * dx + dy * dy + dz * dz;
    const b = px * dx + py * dy + pz * dz;
    const p2 = px * px + py * py + pz * pz;
    const turn = (py * qz - pz * qy) * nx + (pz * qx - px * qz) * ny + (px * qy - py * qx) * nz;
    const discriminant = b * b - a * (p2 - disc);
    if (a === 0) return 0;
    const root = discriminant > 0 ? Math.sqrt(discriminant) : 0;
    const from = Math.max(0, (-b - root) / a), to = Math.min(1, (-b + root) / a);
    if (discriminant <= 0 || from >= to) return Math.atan2(turn, p2 + b) * disc / 2;
    if (jump !== 0) this.integral += jump * 0.5 * (to - from) * Math.sqrt(a);
    // Points on one line through the triangle: the cross product of any two is their share of p × q.
    let area = turn * (to - from) / 2;
    if (from > 0) area += Math.atan2(turn * from, p2 + b * from) * disc / 2;
    if (to < 1) area += Math.atan2(turn * (1 - to), p2 + b * (1 + to) + a * to) * disc / 2;
    return area;
  }
}

import { cross, dot, normalise, sub } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { MeshKernel } from './mesh-kernel';
import { computeFaceNormals } from './sample-points';
import type { SamplePoints } from './sample-points';
import { getCorners } from './surface-mesh';
import type { SurfaceMesh } from './surface-mesh';
import { getEdges, nextCorner } from './topology';

/**
 * Per corner, whether the edge it begins is bent by more than an angle (radians). Open edges are
 * not bent.
 */
export function findCreases(mesh: SurfaceMesh, angleRad: number): Uint8Array {
  const { across } = getEdges(mesh);
  const faces = computeFaceNormals(mesh);
  const least = Math.cos(angleRad);
  return Uint8Array.from(across, (other, k) => {
    if (other < 0) return 0;
    const t = ((k / 3) | 0) * 3,
      u = ((other / 3) | 0) * 3;
    const along =
      (faces[t] as number) * (faces[u] as number) +
      (faces[t + 1] as number) * (faces[u + 1] as number) +
      (faces[t + 2] as number) * (faces[u + 2] as number);
    return along < least ? 1 : 0;
  });
}

/**
 * Triangles waiting to be unfolded, nearest first: a binary heap of (distance, corner entered by,
 * its edge in the plane).
 */
class Unfolding {
  private keys = new Float64Array(256);
  private rows = new Float64Array(256 * 5);
  count = 0;

  get nearest(): number {
    return this.keys[0] as number;
  }

  push(distance: number, corner: number, ax: number, ay: number, bx: number, by: number): void {
    if (this.count === this.keys.length) this.grow();
    let at = this.count++;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if ((this.keys[parent] as number) <= distance) break;
      this.move(parent, at);
      at = parent;
    }
    this.keys[at] = distance;
    const row = at * 5;
    this.rows[row] = corner;
    this.rows[row + 1] = ax;
    this.rows[row + 2] = ay;
    this.rows[row + 3] = bx;
    this.rows[row + 4] = by;
  }

  /** Takes the nearest into `row`. */
  pop(row: Float64Array): void {
    for (let k = 0; k < 5; k++) row[k] = this.rows[k] as number;
    const last = --this.count;
    const key = this.keys[last] as number;
    let at = 0;
    for (;;) {
      let child = at * 2 + 1;
      if (child >= last) break;
      if (child + 1 < last && (this.keys[child + 1] as number) < (this.keys[child] as number))
        child++;
      if ((this.keys[child] as number) >= key) break;
      this.move(child, at);
      at = child;
    }
    if (at !== last) this.move(last, at);
  }

  private move(from: number, to: number): void {
    this.keys[to] = this.keys[from] as number;
    for (let k = 0; k < 5; k++) this.rows[to * 5 + k] = this.rows[from * 5 + k] as number;
  }

  private grow(): void {
    const keys = new Float64Array(this.keys.length * 2),
      rows = new Float64Array(this.rows.length * 2);
    keys.set(this.keys);
    rows.set(this.rows);
    this.keys = keys;
    this.rows = rows;
  }
}

/** Distance from the origin to a segment in the plane. */
function toSegment(ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax,
    dy = by - ay;
  const squared = dx * dx + dy * dy;
  const t = squared > 0 ? Math.min(1, Math.max(0, -(ax * dx + ay * dy) / squared)) : 0;
  return Math.hypot(ax + dx * t, ay + dy * t);
}

/**
 * Distance along the surface from points to the nearest crease, at most `width`, as a share of it.
 * Triangles around a point are unfolded into its plane, nearest first, across edges that are no
 * creases: exact on flat and on developable surfaces, whatever the size of triangles; elsewhere as
 * good as the unfolding. Source of the unfolding: J. Mitchell, D. Mount, C. Papadimitriou, The
 * Discrete Geodesic Problem, 1987, here with one image for each triangle.
 */
export class CreaseDistance {
  private readonly across: Int32Array;
  private readonly creases: Uint8Array;
  private readonly shapes: Float64Array;
  private readonly seen: Uint32Array;
  private readonly heap = new Unfolding();
  private readonly row = new Float64Array(5);
  private round = 0;
  /**
   * The creases alone: what lies farther from them in space than the width lies farther along the
   * surface, too. Null: there are none.
   */
  private readonly edges: MeshKernel | null;

  constructor(
    private readonly mesh: SurfaceMesh,
    angleRad: number,
    private readonly width: number,
  ) {
    this.across = getEdges(mesh).across;
    this.creases = findCreases(mesh, angleRad);
    this.shapes = apexes(mesh);
    this.seen = new Uint32Array(mesh.indices.length / 3);
    this.edges = edgesAsTriangles(mesh, this.creases);
  }

  measure(points: SamplePoints, first: number, count: number): Float32Array<ArrayBuffer> {
    const result = new Float32Array(count).fill(1);
    const apart = this.edges?.distances(points, 0, false, this.width, first, count);
    for (let k = 0; k < count; k++) {
      if (!apart || (apart[k] as number) >= this.width) continue;
      const at = (first + k) * 3;
      result[k] =
        this.at(points.triangles[first + k] as number, [
          points.positions[at] as number,
          points.positions[at + 1] as number,
          points.positions[at + 2] as number,
        ]) / this.width;
    }
    return result;
  }

  private at(triangle: number, point: Vec3): number {
    const { heap, row } = this;
    this.round++;
    heap.count = 0;
    this.seen[triangle] = this.round;
    const places = flatten(getCorners(this.mesh, triangle), point);
    let best = this.width;
    for (let k = 0; k < 3; k++)
      best = this.meet(
        triangle * 3 + k,
        places[k * 2] as number,
        places[k * 2 + 1] as number,
        places[((k + 1) % 3) * 2] as number,
        places[((k + 1) % 3) * 2 + 1] as number,
        best,
      );
    while (heap.count > 0 && heap.nearest < best) {
      heap.pop(row);
      const corner = row[0] as number;
      const entered = (corner / 3) | 0;
      if (this.seen[entered] === this.round) continue;
      this.seen[entered] = this.round;
      const ax = row[1] as number,
        ay = row[2] as number,
        bx = row[3] as number,
        by = row[4] as number;
      // The apex lies on the far side of the edge, at its place along and away from it.
      const dx = bx - ax,
        dy = by - ay;
      const s = this.shapes[corner * 2] as number,
        h = this.shapes[corner * 2 + 1] as number;
      const cx = ax + dx * s - dy * h,
        cy = ay + dy * s + dx * h;
      const next = nextCorner(corner);
      best = this.meet(next, bx, by, cx, cy, best);
      best = this.meet(nextCorner(next), cx, cy, ax, ay, best);
    }
    return best;
  }

  /**
   * Looks at an edge seen from inside its triangle: a crease ends the way, another edge leads on.
   */
  private meet(
    corner: number,
    ax: number,
    ay: number,
    bx: number,
    by: number,
    best: number,
  ): number {
    const distance = toSegment(ax, ay, bx, by);
    if (distance >= best) return best;
    if (this.creases[corner] === 1) return distance;
    const other = this.across[corner] as number;
    if (other >= 0 && this.seen[(other / 3) | 0] !== this.round)
      this.heap.push(distance, other, bx, by, ax, ay);
    return best;
  }
}

function edgesAsTriangles(
  { positions, indices, size }: SurfaceMesh,
  creases: Uint8Array,
): MeshKernel | null {
  const corners: number[] = [];
  creases.forEach((isCrease, k) => {
    if (isCrease === 1)
      corners.push(
        indices[k] as number,
        indices[nextCorner(k)] as number,
        indices[nextCorner(k)] as number,
      );
  });
  return corners.length === 0
    ? null
    : new MeshKernel({
        positions,
        indices: Uint32Array.from(corners),
        size,
        parts: new Uint32Array(corners.length / 3),
      });
}

/** The corners of a triangle in its plane, around a point on it. */
function flatten([a, b, c]: readonly [Vec3, Vec3, Vec3], point: Vec3): Float64Array {
  const u = normalise(sub(b, a));
  const n = normalise(cross(sub(b, a), sub(c, a)));
  const v = cross(n, u);
  return Float64Array.from(
    [a, b, c].flatMap((corner) => {
      const d = sub(corner, point);
      return [dot(d, u), dot(d, v)];
    }),
  );
}

/**
 * Per corner, where the third corner lies over the edge that begins there: along it in edge
 * lengths, and beside it, to the left as seen on the surface from outside.
 */
function apexes(mesh: SurfaceMesh): Float64Array {
  const shapes = new Float64Array(mesh.indices.length * 2);
  for (let t = 0; t < mesh.indices.length / 3; t++) {
    const corners = getCorners(mesh, t);
    for (let k = 0; k < 3; k++) {
      const a = corners[k] as Vec3;
      const edge = sub(corners[(k + 1) % 3] as Vec3, a),
        side = sub(corners[(k + 2) % 3] as Vec3, a);
      const squared = dot(edge, edge);
      const away = cross(edge, side);
      if (squared > 0) {
        shapes[(t * 3 + k) * 2] = dot(edge, side) / squared;
        shapes[(t * 3 + k) * 2 + 1] = Math.sqrt(dot(away, away)) / squared;
      }
    }
  }
  return shapes;
}

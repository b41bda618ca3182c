import { FACTS, curvatureFacts } from './curvature';
import type { SamplePoints } from './sample-points';
import type { SurfaceMesh } from './surface-mesh';
import { aligned, pack, portableSine } from './kernel-batches';
import { instantiate } from './mesh-kernel-module';

/** What the kernel reads of a mesh; normals for curvature, parts for distances. */
export type KernelMesh = Pick<SurfaceMesh, 'positions' | 'indices' | 'size'> &
  Partial<Pick<SurfaceMesh, 'normals' | 'parts'>>;

/**
 * Numbers of a ray: origin, direction (not necessarily unit), how far it looks in lengths of its
 * direction, one spare.
 */
export const RAY = 8;
/** Rays, or points, handed to the kernel at once. */
const BATCH = 4096;
/** Shares of the object's size that rays start off the surface. */
const LIFT = 2e-5;
const PAGE = 65536;

/** What rays met first: one entry a ray, distances in lengths of its direction. */
export interface Hits {
  readonly distances: Float32Array<ArrayBuffer>;
  /** −1 where nothing was met. */
  readonly triangles: Int32Array<ArrayBuffer>;
  /** Barycentric weights of the second and third corner, two per ray. */
  readonly weights: Float32Array<ArrayBuffer>;
}

/** How openness is measured. */
export interface OpennessOptions {
  /** How far rays look, metres. */
  readonly reach: number;
  /** Half angle of the cone, radians. */
  readonly coneRad: number;
  /** 0: every hit counts alike; larger: distant hits count less. */
  readonly falloff: number;
  readonly side: 'open' | 'solid' | 'both';
  readonly rays: number;
  /** Height of a plane that counts as met from above, metres; absent: there is none. */
  readonly floor?: number;
  /** Unit normals to look along in place of the surface's own, three numbers a point. */
  readonly detail?: Float32Array;
}

/**
 * Rays, sums and distances against one mesh, in WebAssembly SIMD: one hierarchy of four boxes a
 * node, watertight triangles. Results depend on nothing but the mesh and what is asked: they are
 * the same on every machine, to the bit.
 */
export class MeshKernel {
  private readonly kernel = instantiate();
  private readonly root: number;
  /** Where what is handed over for one call begins. */
  private free: number;
  /** Whether sums of curvature were made, and where the parts of triangles lie. */
  private hasSums = false;
  private partsAt = 0;
  private readonly size: number;

  constructor(private readonly mesh: KernelMesh) {
    const { positions, indices, size } = mesh;
    this.size = size;
    const triangles = indices.length / 3;
    const vertices = aligned(this.kernel.freeFrom()),
      corners = aligned(vertices + positions.byteLength + 4),
      scratch = aligned(corners + indices.byteLength);
    this.reserve(scratch + this.kernel.scratchBytes(triangles));
    new Float32Array(this.kernel.memory.buffer, vertices, positions.length).set(positions);
    new Uint32Array(this.kernel.memory.buffer, corners, indices.length).set(indices);
    this.root = this.kernel.build(vertices, corners, triangles, scratch);
    this.free = aligned(this.kernel.bytesUsed());
  }

  /** Bytes of memory held. */
  get bytes(): number {
    return this.kernel.memory.buffer.byteLength;
  }

  private reserve(until: number): void {
    const missing = until - this.kernel.memory.buffer.byteLength;
    if (missing > 0) this.kernel.memory.grow(Math.ceil(missing / PAGE));
  }

  /** How many of the rays (eight numbers each) meet something. */
  countMet(rays: Float32Array): number {
    this.reserve(this.free + BATCH * RAY * 4);
    let met = 0;
    for (let from = 0; from < rays.length; from += BATCH * RAY) {
      const batch = rays.subarray(from, from + BATCH * RAY);
      new Float32Array(this.kernel.memory.buffer, this.free, batch.length).set(batch);
      met += this.kernel.countMet(this.root, this.free, batch.length / RAY);
    }
    return met;
  }

  /** What each ray (eight numbers) meets first. */
  castRays(rays: Float32Array): Hits {
    const count = rays.length / RAY;
    const hits = {
      distances: new Float32Array(count),
      triangles: new Int32Array(count),
      weights: new Float32Array(count * 2),
    };
    const out = this.free + BATCH * RAY * 4;
    this.reserve(out + BATCH * 16);
    for (let from = 0; from < count; from += BATCH) {
      const batch = Math.min(BATCH, count - from);
      const { buffer } = this.kernel.memory;
      new Float32Array(buffer, this.free, batch * RAY).set(
        rays.subarray(from * RAY, (from + batch) * RAY),
      );
      this.kernel.castRays(this.root, this.free, batch, out);
      const numbers = new Float32Array(buffer, out, batch * 4),
        words = new Int32Array(buffer, out, batch * 4);
      for (let k = 0; k < batch; k++) {
        hits.distances[from + k] = numbers[k * 4] as number;
        hits.triangles[from + k] = words[k * 4 + 1] as number;
        hits.weights[(from + k) * 2] = numbers[k * 4 + 2] as number;
        hits.weights[(from + k) * 2 + 1] = numbers[k * 4 + 3] as number;
      }
    }
    return hits;
  }

  /**
   * Openness per point, 0 covered to 1 open: the cosine-weighted share of rays that meet nothing
   * within reach; a hit at distance d counts (d/reach)^(1/falloff) as open when falloff is above 0.
   * Rays below the triangle itself are left out; with `detail` normals (three numbers a point),
   * those below the surface's own normal count as met.
   */
  openness(
    points: SamplePoints,
    options: OpennessOptions,
    first = 0,
    count = points.count,
  ): Float32Array<ArrayBuffer> {
    const table = this.free,
      out = aligned(table + options.rays * 12),
      packed = aligned(out + BATCH * 4);
    this.reserve(packed + BATCH * 48);
    this.kernel.fillDirections(table, options.rays, portableSine(options.coneRad));
    const signs = options.side === 'both' ? [1, -1] : [options.side === 'open' ? 1 : -1];
    const result = new Float32Array(count);
    for (let from = 0; from < count; from += BATCH) {
      const batch = Math.min(BATCH, count - from);
      pack(
        new Float32Array(this.kernel.memory.buffer, packed, batch * 12),
        points,
        options.detail ?? points.normals,
        first + from,
        batch,
      );
      for (const sign of signs) {
        this.kernel.openness(
          this.root,
          packed,
          first + from,
          batch,
          out,
          table,
          options.rays,
          sign,
          this.size * LIFT,
          options.reach,
          options.falloff,
          options.floor ?? -Infinity,
          options.detail ? 1 : 0,
        );
        const values = new Float32Array(this.kernel.memory.buffer, out, batch);
        for (let k = 0; k < batch; k++)
          result[from + k] = (result[from + k] as number) + (values[k] as number) / signs.length;
      }
    }
    return result;
  }

  /** Keeps numbers for good, and gives their address. */
  private keep(values: Float32Array | Uint32Array, extra = 0): number {
    const at = this.free;
    this.free = aligned(at + values.byteLength + extra);
    this.reserve(this.free);
    new Uint8Array(this.kernel.memory.buffer, at, values.byteLength).set(
      new Uint8Array(values.buffer, values.byteOffset, values.byteLength),
    );
    return at;
  }

  /**
   * ρ times the mean curvature averaged over the surface inside a ball of radius ρ around each
   * point; convex positive, ρ/R on a sphere, ρ/2R on a cylinder, 0 on a plane; on a sharp
   * right-angled edge ½, falling to 0 at distance ρ from it.
   */
  curvature(
    { positions }: Pick<SamplePoints, 'positions'>,
    radius: number,
    first: number,
    count: number,
  ): Float32Array<ArrayBuffer> {
    const { normals } = this.mesh;
    if (!this.hasSums && normals) {
      const room = aligned(this.kernel.bytesUsed()) - this.root * 16;
      const facts = this.keep(curvatureFacts({ ...this.mesh, normals }), room / 2 + 64);
      this.kernel.sumUp(
        this.root,
        facts,
        aligned(facts + (this.mesh.indices.length / 3) * FACTS * 4),
      );
      this.hasSums = true;
    }
    return this.inBatches(count, 12, (points, from, batch) => {
      new Float32Array(this.kernel.memory.buffer, points, batch * 3).set(
        positions.subarray((first + from) * 3, (first + from + batch) * 3),
      );
      this.kernel.gather(this.root, points, batch, points + BATCH * 16, radius);
    });
  }

  /**
   * Metres from each point to the nearest triangle of a part by its number (−1: of all parts but
   * the one the point lies on), at most `most`.
   */
  distances(
    { positions, triangles }: Pick<SamplePoints, 'positions' | 'triangles'>,
    part: number,
    isOther: boolean,
    most: number,
    first: number,
    count: number,
  ): Float32Array<ArrayBuffer> {
    const { parts } = this.mesh;
    if (this.partsAt === 0 && parts) this.partsAt = this.keep(parts);
    return this.inBatches(count, 16, (points, from, batch) => {
      const numbers = new Float32Array(this.kernel.memory.buffer, points, batch * 4),
        words = new Int32Array(this.kernel.memory.buffer, points, batch * 4);
      for (let k = 0; k < batch; k++) {
        const at = first + from + k;
        for (let axis = 0; axis < 3; axis++)
          numbers[k * 4 + axis] = positions[at * 3 + axis] as number;
        words[k * 4 + 3] = isOther ? (parts?.[triangles[at] as number] ?? 0) : part;
      }
      this.kernel.measureDistances(
        this.root,
        points,
        batch,
        points + BATCH * 16,
        this.partsAt,
        isOther,
        most,
      );
    });
  }

  /** Hands points over in batches; `work` leaves a number for each behind the room for a batch. */
  private inBatches(
    count: number,
    bytes: number,
    work: (points: number, from: number, batch: number) => void,
  ): Float32Array<ArrayBuffer> {
    const result = new Float32Array(count),
      points = this.free;
    this.reserve(points + BATCH * (Math.max(16, bytes) + 4));
    for (let from = 0; from < count; from += BATCH) {
      const batch = Math.min(BATCH, count - from);
      work(points, from, batch);
      result.set(new Float32Array(this.kernel.memory.buffer, points + BATCH * 16, batch), from);
    }
    return result;
  }
}

import { add, cross, normalise, scale, sub, tangentFrame } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { seededRandom } from '../base/random';
import { smoothNormals } from './smooth-normals';

/** A shape made by code: three numbers a vertex, metres, and a part for each triangle. */
export interface Sketch {
  readonly positions: Float32Array<ArrayBuffer>;
  readonly normals: Float32Array<ArrayBuffer>;
  readonly indices: Uint32Array<ArrayBuffer>;
  readonly parts: Uint32Array<ArrayBuffer>;
  readonly partNames: readonly string[];
}

/** Gathers triangles of simple solids; lengths in metres, Y up. */
export class ShapeSketch {
  private readonly positions: number[] = [];
  private readonly indices: number[] = [];
  private readonly parts: number[] = [];
  private part = 0;
  private readonly names: string[] = ['body'];

  /** What follows belongs to the next part. */
  nextPart(name: string): this {
    if (this.parts.length > 0) this.part++;
    this.names[this.part] = name;
    return this;
  }

  private vertex(p: Vec3): number {
    return this.positions.push(...p) / 3 - 1;
  }
  private triangle(a: number, b: number, c: number): void {
    this.indices.push(a, b, c);
    this.parts.push(this.part);
  }

  /**
   * A grid of points, rows by columns, as a sheet; `around` closes the columns. Wound so that row
   * × column faces out.
   */
  sheet(rows: readonly (readonly Vec3[])[], around: boolean): this {
    const ids = rows.map((row) => row.map((p) => this.vertex(p)));
    for (let r = 0; r + 1 < ids.length; r++) {
      const [low, high] = [ids[r] as number[], ids[r + 1] as number[]];
      const columns = low.length;
      for (let c = 0; c < (around ? columns : columns - 1); c++) {
        const next = (c + 1) % columns;
        const [a, b, d, e] = [
          low[c] as number,
          low[next] as number,
          high[c] as number,
          high[next] as number,
        ];
        if (!this.same(a, b)) this.triangle(a, d, b);
        if (!this.same(d, e)) this.triangle(b, d, e);
      }
    }
    return this;
  }
  private same(a: number, b: number): boolean {
    return [0, 1, 2].every(
      (k) =>
        Math.abs((this.positions[a * 3 + k] as number) - (this.positions[b * 3 + k] as number)) <
        1e-9,
    );
  }

  /**
   * Turns a profile of (radius, height) pairs, from bottom to top on the outside, about the
   * vertical through `centre`.
   */
  lathe(
    profile: readonly (readonly [number, number])[],
    segments: number,
    centre: Vec3 = [0, 0, 0],
  ): this {
    return this.sheet(
      profile.map(([radius, y]) =>
        Array.from({ length: segments }, (_, k): Vec3 => {
          const angle = (k / segments) * 2 * Math.PI;
          return [
            centre[0] + radius * Math.cos(angle),
            centre[1] + y,
            centre[2] + radius * Math.sin(angle),
          ];
        }),
      ),
      true,
    );
  }

  sphere(centre: Vec3, radius: number, segments: number, squash = 1): this {
    const rings = Math.max(3, Math.round(segments / 2));
    return this.lathe(
      Array.from({ length: rings + 1 }, (_, k) => {
        const angle = -Math.PI / 2 + (k / rings) * Math.PI;
        return [
          k === 0 || k === rings ? 0 : radius * Math.cos(angle),
          radius * squash * Math.sin(angle),
        ] as const;
      }),
      segments,
      centre,
    );
  }

  /** A round rod along a path; closed paths make rings. */
  tube(path: readonly Vec3[], radius: number, segments: number, closed = false): this {
    const count = path.length;
    const rings = path.map((p, k) => {
      const before = path[closed ? (k + count - 1) % count : Math.max(0, k - 1)] as Vec3;
      const after = path[closed ? (k + 1) % count : Math.min(count - 1, k + 1)] as Vec3;
      const along = normalise(sub(after, before));
      const guide: Vec3 = Math.abs(along[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0];
      const u = normalise(cross(along, guide)),
        v = cross(along, u);
      return Array.from({ length: segments }, (_, s) => {
        const angle = (s / segments) * 2 * Math.PI;
        return add(p, add(scale(u, radius * Math.cos(angle)), scale(v, -radius * Math.sin(angle))));
      });
    });
    if (closed) return this.sheet([...rings, rings[0] as Vec3[]], true);
    const ends = [path[0] as Vec3, path[count - 1] as Vec3].map((p) =>
      Array.from({ length: segments }, () => p),
    );
    return this.sheet([ends[0] as Vec3[], ...rings, ends[1] as Vec3[]], true);
  }

  torus(centre: Vec3, axis: Vec3, radius: number, thickness: number, segments: number): this {
    const [u, v] = tangentFrame(normalise(axis));
    return this.tube(
      Array.from({ length: segments }, (_, k) => {
        const angle = (k / segments) * 2 * Math.PI;
        return add(
          centre,
          add(scale(u, radius * Math.cos(angle)), scale(v, radius * Math.sin(angle))),
        );
      }),
      thickness,
      Math.max(8, Math.round(segments / 3)),
      true,
    );
  }

  /**
   * A box with bevelled edges; `divisions` per side; `rough` shifts points along their faces'
   * normals.
   */
  box(centre: Vec3, half: Vec3, bevel: number, divisions = 2, rough = 0, seed = 1): this {
    const random = seededRandom(seed);
    const bumps = new Map<string, number>();
    for (const [axis, sign] of [
      [0, 1],
      [0, -1],
      [1, 1],
      [1, -1],
      [2, 1],
      [2, -1],
    ] as const) {
      const u = (axis + 1) % 3,
        v = (axis + 2) % 3;
      const steps = [
        -1,
        ...Array.from({ length: divisions + 1 }, (_, k) => (k / divisions) * 2 - 1),
        1,
      ];
      const rows = steps.map((s, i) =>
        steps.map((t, j): Vec3 => {
          const p = [0, 0, 0] as [number, number, number];
          const edge = (k: number): boolean => k === 0 || k === steps.length - 1;
          // Faces meet in the middle of the bevel: on a rounded edge at 45°, in a corner at equal
          // shares of three axes.
          const inset = bevel * (edge(i) && edge(j) ? 0.423 : 0.293);
          p[u] = s * ((half[u] as number) - (edge(i) ? inset : bevel));
          p[v] = t * ((half[v] as number) - (edge(j) ? inset : bevel));
          p[axis] = sign * (half[axis] - (edge(i) || edge(j) ? inset : 0));
          if (rough > 0 && !edge(i) && !edge(j)) {
            const key = p.map((x) => Math.round(x * 1e5)).join(',');
            const bump = bumps.get(key) ?? (random() - 0.5) * rough;
            bumps.set(key, bump);
            p[axis] += sign * bump;
          }
          return add(p, centre);
        }),
      );
      this.sheet(sign > 0 ? rows : transpose(rows), false);
    }
    return this;
  }

  finish(creaseRad = 0.7): Sketch {
    const shaded = smoothNormals(
      { positions: Float32Array.from(this.positions), indices: Uint32Array.from(this.indices) },
      creaseRad,
    );
    return {
      positions: shaded.positions,
      normals: shaded.normals,
      indices: shaded.indices,
      parts: Uint32Array.from(this.parts),
      partNames: this.names,
    };
  }
}

function transpose(rows: readonly (readonly Vec3[])[]): Vec3[][] {
  return (rows[0] ?? []).map((_, c) => rows.map((row) => row[c] as Vec3));
}

import { cross, dot, length, normalise, scale, sub, tangentFrame } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { atlasTangents } from './atlas';
import type { SamplePoints } from './sample-points';
import type { SurfaceMesh } from './surface-mesh';
import { getCorners, triangleCount, vertexAt } from './surface-mesh';

/**
 * Numbers kept per triangle: how positions change along u, then along v; all 0 for one without area
 * in the atlas.
 */
const ROW = 6;
const tables = new WeakMap<Float32Array, Float64Array>();

function tangentTable(mesh: SurfaceMesh): Float64Array {
  let table = tables.get(mesh.atlas);
  if (!table) {
    table = new Float64Array(triangleCount(mesh) * ROW);
    for (let t = 0; t < triangleCount(mesh); t++) {
      const tangents = atlasTangents(mesh, t);
      if (tangents) table.set([...tangents[0], ...tangents[1]], t * ROW);
    }
    tables.set(mesh.atlas, table);
  }
  return table;
}

/**
 * Turns object-space normals, one lane per axis, into the tangent space of the atlas in place, +Y
 * up, as glTF wants it (MikkTSpace handedness from the atlas). Written out in scalars, without
 * inner functions: it runs for every texel of a bake.
 */
export function toTangentSpace(
  mesh: SurfaceMesh,
  points: SamplePoints,
  normals: readonly Float32Array[],
): void {
  const table = tangentTable(mesh);
  const { triangles, normals: shading, count } = points;
  const [x, y, z] = normals as readonly [Float32Array, Float32Array, Float32Array];
  for (let k = 0; k < count; k++) {
    const row = (triangles[k] as number) * ROW;
    const sx = shading[k * 3] as number,
      sy = shading[k * 3 + 1] as number,
      sz = shading[k * 3 + 2] as number;
    let tx = table[row] as number,
      ty = table[row + 1] as number,
      tz = table[row + 2] as number;
    // The part of the u direction along the surface.
    const along = tx * sx + ty * sy + tz * sz;
    tx -= sx * along;
    ty -= sy * along;
    tz -= sz * along;
    const squared = tx * tx + ty * ty + tz * tz;
    if (!(squared > 0)) {
      x[k] = 0;
      y[k] = 0;
      z[k] = 1;
      continue;
    }
    const inverse = 1 / Math.sqrt(squared);
    tx *= inverse;
    ty *= inverse;
    tz *= inverse;
    const bx = sy * tz - sz * ty,
      by = sz * tx - sx * tz,
      bz = sx * ty - sy * tx;
    // v runs down the picture; the bitangent of a normal map runs up.
    const side =
      bx * (table[row + 3] as number) +
        by * (table[row + 4] as number) +
        bz * (table[row + 5] as number) <
      0
        ? 1
        : -1;
    const nx = x[k] as number,
      ny = y[k] as number,
      nz = z[k] as number;
    x[k] = nx * tx + ny * ty + nz * tz;
    y[k] = (nx * bx + ny * by + nz * bz) * side;
    z[k] = nx * sx + ny * sy + nz * sz;
  }
}

/**
 * Unit tangents along u and the side of the bitangent (±1) for every vertex, four numbers each, as
 * glTF stores them: the frame of `toTangentSpace`, meaned over a vertex's triangles by their area
 * and set upright on its normal.
 */
export function vertexTangents(
  mesh: Pick<SurfaceMesh, 'positions' | 'indices' | 'normals' | 'atlas'>,
): Float32Array<ArrayBuffer> {
  const count = mesh.positions.length / 3;
  const sums = new Float64Array(count * 3),
    sides = new Float64Array(count);
  for (let t = 0; t < mesh.indices.length / 3; t++) {
    const tangents = atlasTangents(mesh, t);
    if (!tangents) continue;
    const [along, down] = tangents;
    const area = length(cross(...edgesAt(mesh, t)));
    const weight = area / Math.max(length(along), 1e-30);
    for (let k = 0; k < 3; k++) {
      const v = mesh.indices[t * 3 + k] as number;
      const normal = vertexAt(mesh.normals, v);
      along.forEach((value, axis) => {
        sums[v * 3 + axis] = (sums[v * 3 + axis] as number) + value * weight;
      });
      // v runs down the picture; the bitangent of a normal map runs up.
      sides[v] = (sides[v] as number) - Math.sign(dot(cross(normal, along), down)) * area;
    }
  }
  const tangents = new Float32Array(count * 4);
  for (let v = 0; v < count; v++) {
    const normal = normalise(vertexAt(mesh.normals, v));
    const sum: Vec3 = [sums[v * 3] as number, sums[v * 3 + 1] as number, sums[v * 3 + 2] as number];
    const upright = sub(sum, scale(normal, dot(sum, normal)));
    tangents.set(length(upright) > 1e-20 ? normalise(upright) : tangentFrame(normal)[0], v * 4);
    tangents[v * 4 + 3] = (sides[v] as number) < 0 ? -1 : 1;
  }
  return tangents;
}

function edgesAt(
  mesh: Pick<SurfaceMesh, 'positions' | 'indices'>,
  t: number,
): readonly [Vec3, Vec3] {
  const [a, b, c] = getCorners(mesh, t);
  return [sub(b, a), sub(c, a)];
}

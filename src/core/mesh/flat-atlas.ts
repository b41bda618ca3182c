import { tangentFrame } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { rasteriseAtlas } from './atlas';
import { growCharts } from './charts';
import type { ChartedMesh, Charts } from './charts';
import { packCharts } from './pack-charts';

/** An atlas: new vertices by the ones they were made from, their u, v, and the triangles by new vertices. */
export interface FlatAtlas { readonly sources: Uint32Array<ArrayBuffer>; readonly atlas: Float32Array<ArrayBuffer>; readonly indices: Uint32Array<ArrayBuffer>; readonly charts: number }

/** Beyond so many charts a layout of single triangles is as good. */
const MOST_CHARTS = 20_000;
/** A triangle with more of its texels under others than this gets a chart of its own. */
const COVERED = 0.25;
const LOOK = 1024;

/**
 * A fast atlas: charts seen from their mean direction, packed by their outlines. Stretch stays under 1 / cos 66° = 2.5, most of it far
 * below. Null where the mesh falls into too many charts.
 */
export function flatAtlas(mesh: ChartedMesh): FlatAtlas | null {
  const charts = growCharts(mesh);
  if (charts.count > MOST_CHARTS) return null;
  const first = layFlat(mesh, charts);
  const split = splitOverlaps(first, charts);
  return split && split.count <= MOST_CHARTS ? layFlat(mesh, split) : first;
}

function layFlat({ positions, indices }: ChartedMesh, charts: Charts): FlatAtlas {
  const frames = new Float64Array(charts.count * 6);
  for (let c = 0; c < charts.count; c++) {
    const [u, v] = tangentFrame([charts.directions[c * 3] as number, charts.directions[c * 3 + 1] as number, charts.directions[c * 3 + 2] as number]);
    frames.set([...u, ...v], c * 6);
  }
  const made = splitVertices(indices, charts.of);
  const uv = new Float32Array(made.sources.length * 2);
  for (let v = 0; v < made.sources.length; v++) {
    const p = (made.sources[v] as number) * 3, f = (made.charts[v] as number) * 6;
    for (let axis = 0; axis < 2; axis++) for (let k = 0; k < 3; k++) uv[v * 2 + axis] = (uv[v * 2 + axis] as number) + (positions[p + k] as number) * (frames[f + axis * 3 + k] as number);
  }
  packCharts({ uv, indices: made.indices, of: charts.of, count: charts.count });
  return { sources: made.sources, atlas: uv, indices: made.indices, charts: charts.count };
}

/** A vertex of its own for each vertex and chart that use each other. */
function splitVertices(indices: Uint32Array, of: Int32Array): { sources: Uint32Array<ArrayBuffer>; charts: Int32Array; indices: Uint32Array<ArrayBuffer> } {
  const order = Uint32Array.from({ length: of.length }, (_, t) => t).sort((a, b) => (of[a] as number) - (of[b] as number) || a - b);
  let most = 0;
  for (const vertex of indices) if (vertex >= most) most = vertex + 1;
  const seenBy = new Int32Array(most).fill(-1), number = new Uint32Array(most);
  const sources = new Uint32Array(indices.length), charts = new Int32Array(indices.length), made = new Uint32Array(indices.length);
  let next = 0;
  for (const t of order) for (let k = t * 3; k < t * 3 + 3; k++) {
    const vertex = indices[k] as number, chart = of[t] as number;
    if (seenBy[vertex] !== chart) { seenBy[vertex] = chart; number[vertex] = next; sources[next] = vertex; charts[next++] = chart; }
    made[k] = number[vertex] as number;
  }
  return { sources: sources.slice(0, next), charts: charts.slice(0, next), indices: made };
}

/** Charts in which triangles that others cover (a spiral seen along its axis) stand alone; null where nothing overlaps. */
function splitOverlaps({ atlas, indices }: FlatAtlas, charts: Charts): Charts | null {
  const seen = rasteriseAtlas({ atlas, indices }, LOOK);
  const shown = new Uint32Array(charts.of.length);
  for (const t of seen.triangles) shown[t] = (shown[t] as number) + 1;
  const of = charts.of.slice();
  let count = charts.count;
  const alone: number[] = [];
  for (let t = 0; t < of.length; t++) {
    const wanted = areaInTexels(atlas, indices, t);
    if (wanted < 6 || (shown[t] as number) >= wanted * (1 - COVERED) - 4) continue;
    of[t] = count++;
    alone.push(t);
  }
  if (alone.length === 0) return null;
  const directions = new Float64Array(count * 3);
  directions.set(charts.directions);
  for (const t of alone) { const from = (charts.of[t] as number) * 3; directions.set(charts.directions.subarray(from, from + 3), (of[t] as number) * 3); }
  return { of, directions, count };
}

function areaInTexels(atlas: Float32Array, indices: Uint32Array, t: number): number {
  const at = (k: number): Vec3 => { const v = (indices[t * 3 + k] as number) * 2; return [atlas[v] as number, atlas[v + 1] as number, 0]; };
  const [a, b, c] = [at(0), at(1), at(2)];
  return Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) / 2 * LOOK * LOOK;
}

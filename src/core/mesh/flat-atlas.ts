import { tangentFrame } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { rasteriseAtlas } from './atlas';
import { growCharts } from './charts';
import type { ChartedMesh, Charts } from './charts';
import { packCharts } from './pack-charts';

/**
 * An atlas: new vertices by the ones they were made from, their u, v, and the triangles by new
 * vertices.
 */
export interface FlatAtlas {
  readonly sources: Uint32Array<ArrayBuffer>;
  readonly atlas: Float32Array<ArrayBuffer>;
  readonly indices: Uint32Array<ArrayBuffer>;
  readonly charts: number;
}

/** Beyond so many charts a layout of single triangles is as good. */
const MOST_CHARTS = 20_000;
/** A triangle with more of its texels under others than this gets a chart of its own. */
const COVERED = 0.25;
const LOOK = 1024;

/**
 * A fast atlas: charts seen from their mean direction, packed by their outlines. Stretch stays
 * under 1 / cos 66° = 2.5, most of it far below. Null where the mesh falls into too many charts,
 * or into some that are longer than the others by far.
 */
export function flatAtlas(mesh: ChartedMesh): FlatAtlas | null {
  const charts = growCharts(mesh);
  if (charts.count > MOST_CHARTS) return null;
  const first = layFlat(mesh, charts);
  if (!first) return null;
  const split = splitOverlaps(first, charts);
  return (split && split.count <= MOST_CHARTS ? layFlat(mesh, split) : null) ?? first;
}

function layFlat({ positions, indices }: ChartedMesh, charts: Charts): FlatAtlas | null {
  const frames = new Float64Array(charts.count * 6);
  for (let c = 0; c < charts.count; c++) {
    const [u, v] = tangentFrame([
      charts.directions[c * 3] as number,
      charts.directions[c * 3 + 1] as number,
      charts.directions[c * 3 + 2] as number,
    ]);
    frames.set([...u, ...v], c * 6);
  }
  const made = splitVertices(indices, charts.of);
  const uv = new Float32Array(made.sources.length * 2);
  for (let v = 0; v < made.sources.length; v++) {
    const p = (made.sources[v] as number) * 3,
      f = (made.charts[v] as number) * 6;
    for (let axis = 0; axis < 2; axis++)
      for (let k = 0; k < 3; k++)
        uv[v * 2 + axis] =
          (uv[v * 2 + axis] as number) +
          (positions[p + k] as number) * (frames[f + axis * 3 + k] as number);
  }
  const isPacked = packCharts({
    uv,
    owner: made.charts,
    ...outlines(made.indices, charts),
    count: charts.count,
  });
  if (!isPacked) return null;
  return { sources: made.sources, atlas: uv, indices: made.indices, charts: charts.count };
}

/**
 * The edges at which charts end, by their two vertices, chart after chart: `starts` counts edges.
 */
function outlines(
  indices: Uint32Array,
  { of, across, count }: Charts,
): { starts: Int32Array; edges: Uint32Array } {
  const isEnd = (k: number): boolean => {
    const other = across[k] as number;
    return other < 0 || of[(other - (other % 3)) / 3] !== of[(k - (k % 3)) / 3];
  };
  const starts = new Int32Array(count + 1);
  for (let k = 0; k < indices.length; k++)
    if (isEnd(k)) {
      const c = (of[(k - (k % 3)) / 3] as number) + 1;
      starts[c] = (starts[c] as number) + 1;
    }
  for (let c = 0; c < count; c++) starts[c + 1] = (starts[c + 1] as number) + (starts[c] as number);
  const next = starts.slice(),
    edges = new Uint32Array((starts[count] as number) * 2);
  for (let k = 0; k < indices.length; k++) {
    if (!isEnd(k)) continue;
    const chart = of[(k - (k % 3)) / 3] as number,
      at = next[chart] as number;
    edges[at * 2] = indices[k] as number;
    edges[at * 2 + 1] = indices[k % 3 === 2 ? k - 2 : k + 1] as number;
    next[chart] = at + 1;
  }
  return { starts, edges };
}

/** A vertex of its own for each vertex and chart that use each other. */
function splitVertices(
  indices: Uint32Array,
  of: Int32Array,
): { sources: Uint32Array<ArrayBuffer>; charts: Int32Array; indices: Uint32Array<ArrayBuffer> } {
  const order = byChart(of);
  let most = 0;
  for (const vertex of indices) if (vertex >= most) most = vertex + 1;
  const seenBy = new Int32Array(most).fill(-1),
    number = new Uint32Array(most);
  const sources = new Uint32Array(indices.length),
    charts = new Int32Array(indices.length),
    made = new Uint32Array(indices.length);
  let next = 0;
  for (const t of order)
    for (let k = t * 3; k < t * 3 + 3; k++) {
      const vertex = indices[k] as number,
        chart = of[t] as number;
      if (seenBy[vertex] !== chart) {
        seenBy[vertex] = chart;
        number[vertex] = next;
        sources[next] = vertex;
        charts[next++] = chart;
      }
      made[k] = number[vertex] as number;
    }
  return { sources: sources.slice(0, next), charts: charts.slice(0, next), indices: made };
}

/** All triangles, chart after chart. */
function byChart(of: Int32Array): Uint32Array {
  let count = 0;
  for (const chart of of) if (chart >= count) count = chart + 1;
  const next = new Uint32Array(count + 1),
    order = new Uint32Array(of.length);
  for (const chart of of) next[chart + 1] = (next[chart + 1] as number) + 1;
  for (let c = 0; c < count; c++) next[c + 1] = (next[c + 1] as number) + (next[c] as number);
  for (let t = 0; t < of.length; t++) {
    const chart = of[t] as number,
      at = next[chart] as number;
    order[at] = t;
    next[chart] = at + 1;
  }
  return order;
}

/**
 * Charts in which triangles that others cover (a spiral seen along its axis) stand alone; null
 * where nothing overlaps.
 */
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
  for (const t of alone) {
    const from = (charts.of[t] as number) * 3;
    directions.set(charts.directions.subarray(from, from + 3), (of[t] as number) * 3);
  }
  return { of, directions, across: charts.across, count };
}

function areaInTexels(atlas: Float32Array, indices: Uint32Array, t: number): number {
  const at = (k: number): Vec3 => {
    const v = (indices[t * 3 + k] as number) * 2;
    return [atlas[v] as number, atlas[v + 1] as number, 0];
  };
  const [a, b, c] = [at(0), at(1), at(2)];
  return (
    (Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) / 2) * LOOK * LOOK
  );
}

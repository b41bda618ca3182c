/**
 * Flat charts to be laid out: u, v per vertex in metres, each vertex's chart, and the edges at
 * which charts end, two vertices each, chart after chart (`starts` counts edges).
 */
export interface FlatCharts {
  readonly uv: Float32Array<ArrayBuffer>;
  readonly owner: Int32Array;
  readonly edges: Uint32Array;
  readonly starts: Int32Array;
  readonly count: number;
}

const { ceil, cos, floor, max, min, sin, sqrt } = Math;

/** The grid charts are laid out on, and how many cells stay free around each. */
const CELLS = 1024,
  GAP = 3;
/** How much smaller everything becomes when it did not fit, and how often that is tried. */
const SHRINK = 0.96,
  TRIES = 120,
  TRIES_IN_ORDER = 12;
/**
 * The share of the grid that free cells around charts may take: beyond, too little is left for what
 * they hold.
 */
const MOST_MARGINS = 0.55;
const ANGLES = 12;
/** How many vertices of a chart are looked at for the best turn. */
const LOOKED_AT = 400;

/** A chart's outline as a height per column: the free space below and above it. */
interface Silhouette {
  readonly chart: number;
  readonly width: number;
  readonly height: number;
  readonly low: Int32Array;
  readonly high: Int32Array;
}

/**
 * Lays charts out in the unit square without overlaps, all at one scale: each is dropped onto the
 * horizon of those before, where it reaches least high. Changes `uv` in place.
 * @returns false where they fit at no scale, as some are longer than the others by far; `uv` is
 *   then of no use
 * Source: B. Lévy et al., Least Squares Conformal Maps for Automatic Texture Atlas
 * Generation, 2002, section 4.
 */
export function packCharts(flat: FlatCharts): boolean {
  const bounds = turnUpright(flat);
  const byHeight = Array.from({ length: flat.count }, (_, chart) => chart).sort(
    (a, b) => heightOf(bounds, b) - heightOf(bounds, a) || a - b,
  );
  const margin = 2 * GAP + 1;
  if (flat.count * (margin + 1) ** 2 > CELLS * CELLS * MOST_MARGINS) return false;
  let area = 0,
    longest = 0,
    sides = 0;
  for (let c = 0; c < flat.count; c++) {
    const width = (bounds[c * 4 + 2] as number) - (bounds[c * 4] as number);
    area += heightOf(bounds, c) * width;
    sides += heightOf(bounds, c) + width;
    longest = max(longest, heightOf(bounds, c));
  }
  const usable = CELLS - 2 * GAP - 2;
  const begin = min(sqrt((CELLS * CELLS) / max(area, 1e-30)) * 0.97, usable / max(longest, 1e-15));
  const fitted = findFit((attempt) => {
    const scale = begin * SHRINK ** attempt;
    // Charts reach into each other's corners, but not so far.
    const boxes = area * scale * scale + sides * scale * margin + flat.count * margin * margin;
    return boxes > 2 * CELLS * CELLS ? null : layOut(flat, bounds, byHeight, scale);
  });
  if (!fitted) return false;
  move(flat, bounds, fitted.places, begin * SHRINK ** fitted.attempt);
  return true;
}

interface Fit {
  readonly attempt: number;
  readonly places: Int32Array;
}

/**
 * The first attempt that fits: one after the other while few are needed, then by halving what is
 * left, as a mesh of thousands of loose charts takes long for each.
 */
function findFit(layOutAt: (attempt: number) => Int32Array | null): Fit | null {
  for (let attempt = 0; attempt < TRIES_IN_ORDER; attempt++) {
    const places = layOutAt(attempt);
    if (places) return { attempt, places };
  }
  let best: Fit | null = null;
  for (let low = TRIES_IN_ORDER, high = TRIES - 1; low <= high;) {
    const attempt = (low + high) >> 1;
    const places = layOutAt(attempt);
    if (places) {
      best = { attempt, places };
      high = attempt - 1;
    } else low = attempt + 1;
  }
  return best;
}

const heightOf = (bounds: Float64Array, chart: number): number =>
  (bounds[chart * 4 + 3] as number) - (bounds[chart * 4 + 1] as number);

/**
 * Turns every chart so that its bounds are smallest and its longer side stands; returns low u, low
 * v, high u, high v per chart.
 */
function turnUpright({ uv, owner, count }: FlatCharts): Float64Array {
  const sizes = new Int32Array(count);
  for (const chart of owner) sizes[chart] = (sizes[chart] as number) + 1;
  const sample: number[] = [],
    passed = new Int32Array(count);
  for (let v = 0; v < owner.length; v++) {
    const chart = owner[v] as number,
      nth = passed[chart] as number;
    passed[chart] = nth + 1;
    if (nth % ceil((sizes[chart] as number) / LOOKED_AT) === 0) sample.push(v);
  }
  const best = new Float64Array(count).fill(Infinity),
    turn = new Int32Array(count);
  for (let k = 0; k < ANGLES * 2; k++) {
    const bounds = boundsAt(
      uv,
      owner,
      count,
      Uint32Array.from(sample),
      ((k / ANGLES) * Math.PI) / 2,
    );
    for (let chart = 0; chart < count; chart++) {
      const width = (bounds[chart * 4 + 2] as number) - (bounds[chart * 4] as number),
        height = heightOf(bounds, chart);
      if (height >= width * 0.999 && width * height < (best[chart] as number) * 0.999) {
        best[chart] = width * height;
        turn[chart] = k;
      }
    }
  }
  for (let v = 0; v < owner.length; v++) {
    const angle = (((turn[owner[v] as number] as number) / ANGLES) * Math.PI) / 2,
      c = cos(angle),
      s = sin(angle);
    const x = uv[v * 2] as number,
      y = uv[v * 2 + 1] as number;
    uv[v * 2] = x * c - y * s;
    uv[v * 2 + 1] = x * s + y * c;
  }
  return boundsAt(uv, owner, count, null, 0);
}

/** Bounds of all charts turned by an angle, over the vertices named, or over all. */
function boundsAt(
  uv: Float32Array,
  owner: Int32Array,
  count: number,
  vertices: Uint32Array | null,
  angle: number,
): Float64Array {
  const c = cos(angle),
    s = sin(angle);
  const bounds = new Float64Array(count * 4);
  for (let chart = 0; chart < count; chart++)
    bounds.set([Infinity, Infinity, -Infinity, -Infinity], chart * 4);
  const until = vertices ? vertices.length : owner.length;
  for (let k = 0; k < until; k++) {
    const v = vertices ? (vertices[k] as number) : k;
    const at = (owner[v] as number) * 4;
    const x = (uv[v * 2] as number) * c - (uv[v * 2 + 1] as number) * s,
      y = (uv[v * 2] as number) * s + (uv[v * 2 + 1] as number) * c;
    if (x < (bounds[at] as number)) bounds[at] = x;
    if (y < (bounds[at + 1] as number)) bounds[at + 1] = y;
    if (x > (bounds[at + 2] as number)) bounds[at + 2] = x;
    if (y > (bounds[at + 3] as number)) bounds[at + 3] = y;
  }
  return bounds;
}

/** Cell positions of all charts at a scale (cells per metre); null when they do not fit. */
function layOut(
  flat: FlatCharts,
  bounds: Float64Array,
  order: readonly number[],
  scale: number,
): Int32Array | null {
  const horizon = new Int32Array(CELLS);
  const places = new Int32Array(flat.count * 2);
  for (const chart of order) {
    const shape = silhouette(flat, bounds, chart, scale);
    const place = shape.width <= CELLS ? lowestPlace(horizon, shape) : null;
    if (!place || place.y + shape.height > CELLS) return null;
    places[chart * 2] = place.x;
    places[chart * 2 + 1] = place.y;
    for (let c = 0; c < shape.width; c++)
      horizon[place.x + c] = max(
        horizon[place.x + c] as number,
        place.y + (shape.high[c] as number),
      );
  }
  return places;
}

function silhouette(
  { uv, edges, starts }: FlatCharts,
  bounds: Float64Array,
  chart: number,
  scale: number,
): Silhouette {
  const left = bounds[chart * 4] as number,
    bottom = bounds[chart * 4 + 1] as number;
  const width = ceil(((bounds[chart * 4 + 2] as number) - left) * scale) + 2 * GAP + 1,
    height = ceil(heightOf(bounds, chart) * scale) + 2 * GAP + 1;
  const low = new Int32Array(width).fill(height),
    high = new Int32Array(width);
  for (let e = starts[chart] as number; e < (starts[chart + 1] as number); e++) {
    const a = (edges[e * 2] as number) * 2,
      b = (edges[e * 2 + 1] as number) * 2;
    spanEdge(
      ((uv[a] as number) - left) * scale,
      ((uv[a + 1] as number) - bottom) * scale,
      ((uv[b] as number) - left) * scale,
      ((uv[b + 1] as number) - bottom) * scale,
      low,
      high,
    );
  }
  return { chart, width, height, low, high };
}

/** Marks the columns an edge passes, and the gap around it. */
function spanEdge(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  low: Int32Array,
  high: Int32Array,
): void {
  if (ax > bx) {
    spanEdge(bx, by, ax, ay, low, high);
    return;
  }
  const slope = bx > ax ? (by - ay) / (bx - ax) : 0;
  for (let column = floor(ax); column <= floor(bx); column++) {
    const from = max(ax, column),
      to = min(bx, column + 1);
    const y0 = bx > ax ? ay + (from - ax) * slope : ay,
      y1 = bx > ax ? ay + (to - ax) * slope : by;
    const bottom = floor(min(y0, y1)),
      top = floor(max(y0, y1)) + 2 * GAP + 1;
    for (let c = max(0, column); c <= min(low.length - 1, column + 2 * GAP); c++) {
      if (bottom < (low[c] as number)) low[c] = bottom;
      if (top > (high[c] as number)) high[c] = top;
    }
  }
}

/** Where a silhouette comes to lie lowest on the horizon, the leftmost of several. */
function lowestPlace(
  horizon: Int32Array,
  { width, height, low }: Silhouette,
): { x: number; y: number } | null {
  let best = Infinity,
    x = -1;
  for (let at = 0; at + width <= CELLS; at++) {
    let y = 0;
    for (let c = 0; c < width && y < best; c++)
      y = max(y, (horizon[at + c] as number) - (low[c] as number));
    if (y < best) {
      best = y;
      x = at;
    }
  }
  return x < 0 || best + height > CELLS ? null : { x, y: best };
}

function move(
  { uv, owner }: FlatCharts,
  bounds: Float64Array,
  places: Int32Array,
  scale: number,
): void {
  for (let v = 0; v < owner.length; v++) {
    const chart = owner[v] as number;
    uv[v * 2] =
      (((uv[v * 2] as number) - (bounds[chart * 4] as number)) * scale +
        (places[chart * 2] as number) +
        GAP) /
      CELLS;
    uv[v * 2 + 1] =
      (((uv[v * 2 + 1] as number) - (bounds[chart * 4 + 1] as number)) * scale +
        (places[chart * 2 + 1] as number) +
        GAP) /
      CELLS;
  }
}

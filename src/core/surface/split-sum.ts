import { radicalInverse2 } from '../base/random';
import type { Vec3 } from '../base/vector';
import { tangentFrame } from '../base/vector';
import { studioRadiance } from './studio';

const { PI, acos, atan2, cos, floor, max, min, sin, sqrt } = Math;

/**
 * Light of surroundings that a rough surface reflects, as a product of two tables: what arrives in
 * its lobe, and what the lobe reflects of that. Source: B. Karis, course
 * notes on physically based shading, SIGGRAPH 2013; the lobe is that of glTF 2.0, appendix B.
 */
const LEVELS = 8;
const WIDTH = 48;
const HEIGHT = 24;
const SAMPLES = 96;

/** Directions around Z of a lobe, and the weight of each, for a roughness above 0. */
function lobeSamples(roughness: number): readonly { readonly l: Vec3; readonly weight: number }[] {
  const alpha2 = roughness ** 4;
  return Array.from({ length: SAMPLES }, (_, k) => {
    const x = (k + 0.5) / SAMPLES,
      phi = 2 * PI * radicalInverse2(k);
    // The half vector of visible normals seen straight on; the light is the view mirrored at it.
    const cosine2 = (1 - x) / (1 + (alpha2 - 1) * x);
    const cosine = 2 * cosine2 - 1,
      sine = sqrt(max(0, 1 - cosine * cosine));
    return { l: [sine * cos(phi), sine * sin(phi), cosine] as Vec3, weight: max(0, cosine) };
  });
}

/** A unit direction for a texel of a level: rows from the top, columns around Y. */
function texelDirection(column: number, row: number): Vec3 {
  const polar = (PI * row) / (HEIGHT - 1),
    around = (2 * PI * column) / WIDTH;
  return [sin(polar) * cos(around), cos(polar), sin(polar) * sin(around)];
}

/** What the lobe of a roughness above 0 gathers of the studio, by direction. */
export function lobeFilter(roughness: number): (direction: Vec3) => number {
  const samples = lobeSamples(roughness).filter(({ weight }) => weight > 0);
  const whole = samples.reduce((sum, { weight }) => sum + weight, 0);
  return (n) => {
    const [u, v] = tangentFrame(n);
    let sum = 0;
    for (const { l, weight } of samples)
      sum +=
        weight *
        studioRadiance([
          u[0] * l[0] + v[0] * l[1] + n[0] * l[2],
          u[1] * l[0] + v[1] * l[1] + n[1] * l[2],
          u[2] * l[0] + v[2] * l[1] + n[2] * l[2],
        ]);
    return sum / whole;
  };
}

function filterLevel(roughness: number): Float32Array {
  const gather = lobeFilter(roughness);
  return Float32Array.from({ length: WIDTH * HEIGHT }, (_, at) =>
    gather(texelDirection(at % WIDTH, floor(at / WIDTH))),
  );
}

// What runs for every pixel makes no functions and few arrays of its own.
function between(table: Float32Array | Float64Array, a: number, b: number, share: number): number {
  const from = table[a] ?? 0;
  return from + ((table[b] ?? 0) - from) * share;
}

const levels: (Float32Array | undefined)[] = [];
/** Level k stands for a roughness of k / LEVELS; it is computed when first needed. */
function readLevel(k: number, direction: Vec3): number {
  if (k === 0) return studioRadiance(direction);
  const level = (levels[k] ??= filterLevel(k / LEVELS));
  const row = (acos(min(1, max(-1, direction[1]))) / PI) * (HEIGHT - 1);
  const column = ((atan2(direction[2], direction[0]) / (2 * PI) + 1) % 1) * WIDTH;
  const r0 = min(HEIGHT - 2, floor(row)),
    c0 = floor(column) % WIDTH,
    c1 = (c0 + 1) % WIDTH;
  const s = column - floor(column),
    t = row - r0;
  const upper = between(level, r0 * WIDTH + c0, r0 * WIDTH + c1, s);
  const lower = between(level, (r0 + 1) * WIDTH + c0, (r0 + 1) * WIDTH + c1, s);
  return upper + (lower - upper) * t;
}

/**
 * The studio's radiance as a lobe around a unit direction gathers it; roughness 0 to 1. At 1 it is
 * the irradiance divided by π.
 */
export function filteredRadiance(direction: Vec3, roughness: number): number {
  const place = min(1, max(0, roughness)) * LEVELS;
  const k = min(LEVELS - 1, floor(place)),
    share = place - k;
  const sharper = readLevel(k, direction);
  return share === 0 ? sharper : sharper + (readLevel(k + 1, direction) - sharper) * share;
}

const SIDE = 16;
const DRAWS = 256;
/** Scale and bias of a lobe's reflectance at normal incidence, by integration. */
function integrate(roughness: number, nv: number): readonly [number, number] {
  const alpha2 = max(1e-3, roughness) ** 4;
  const view: Vec3 = [sqrt(1 - nv * nv), 0, nv];
  let scale = 0,
    bias = 0;
  for (let k = 0; k < DRAWS; k++) {
    const x = (k + 0.5) / DRAWS,
      phi = 2 * PI * radicalInverse2(k);
    const nh = sqrt((1 - x) / (1 + (alpha2 - 1) * x)),
      sine = sqrt(1 - nh * nh);
    const vh = max(0, view[0] * sine * cos(phi) + view[2] * nh);
    const nl = 2 * vh * nh - nv;
    if (nl <= 0) continue;
    const visibility =
      0.5 /
      (nl * sqrt(nv * nv * (1 - alpha2) + alpha2) + nv * sqrt(nl * nl * (1 - alpha2) + alpha2));
    const seen = (4 * visibility * nl * vh) / nh,
      fresnel = (1 - vh) ** 5;
    scale += (1 - fresnel) * seen;
    bias += fresnel * seen;
  }
  return [scale / DRAWS, bias / DRAWS];
}

/** For both numbers of a lobe's reflectance a table: rows by the cosine, columns by roughness. */
let reflectance: readonly [Float64Array, Float64Array] | null = null;
function tabulate(): readonly [Float64Array, Float64Array] {
  const pairs = Array.from({ length: SIDE * SIDE }, (_, at) =>
    integrate(((at % SIDE) + 0.5) / SIDE, (floor(at / SIDE) + 0.5) / SIDE),
  );
  return [
    Float64Array.from(pairs, ([scale]) => scale),
    Float64Array.from(pairs, ([, bias]) => bias),
  ];
}

function readCell(table: Float64Array, first: number, s: number, t: number): number {
  const lower = between(table, first, first + 1, s);
  return lower + (between(table, first + SIDE, first + SIDE + 1, s) - lower) * t;
}

/**
 * What a lobe reflects of even light: `f0 · scale + f90 · bias`.
 * @param nv cosine between normal and view, 0 to 1
 */
export function lobeReflectance(roughness: number, nv: number): readonly [number, number] {
  const [scales, biases] = (reflectance ??= tabulate());
  const across = min(SIDE - 1, max(0, roughness * SIDE - 0.5)),
    up = min(SIDE - 1, max(0, nv * SIDE - 0.5));
  const c = min(SIDE - 2, floor(across)),
    r = min(SIDE - 2, floor(up));
  const first = r * SIDE + c;
  return [readCell(scales, first, across - c, up - r), readCell(biases, first, across - c, up - r)];
}

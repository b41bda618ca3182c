import { WasmRunner } from '@/core/backends/wasm/runner';
import { compileNetwork, uniformsFor } from '@/core/compile/compile';
import { emptyDocument } from '@/core/graph/document';
import type { InputValue } from '@/core/graph/document';

/** Side of a slice in samples, and how many features it shows across. */
export const SLICE = { side: 256, features: 64 } as const;
const SCALE = { size: 1, minimum: [0, 0, 0] as const, extent: [1, 1, 1] as const };

export interface NoiseKind {
  readonly title: string;
  readonly type: string;
  readonly output: string;
  readonly values: Readonly<Record<string, InputValue>>;
  readonly options: Readonly<Record<string, string>>;
}
export const NOISES: readonly NoiseKind[] = [
  {
    title: 'Gradient noise',
    type: 'patterns.noise',
    output: 'value',
    values: { scale: 1 },
    options: { basis: 'gradient', per: 'unit' },
  },
  {
    title: 'Value noise',
    type: 'patterns.noise',
    output: 'value',
    values: { scale: 1 },
    options: { basis: 'value', per: 'unit' },
  },
  {
    title: 'Fractal noise, 5 octaves',
    type: 'patterns.fractal-noise',
    output: 'value',
    values: { scale: 1, octaves: 5 },
    options: { per: 'unit' },
  },
  {
    title: 'Cell noise, nearest',
    type: 'patterns.cell-noise',
    output: 'nearest',
    values: { scale: 1 },
    options: { per: 'unit' },
  },
];

/** Slices through a noise in the three coordinate planes, at different depths; rows of samples. */
export function slicesOf(kind: NoiseKind, depths: readonly number[]): readonly Float32Array[] {
  const base = emptyDocument(kind.title);
  const document = {
    ...base,
    network: {
      ...base.network,
      nodes: [
        {
          id: 'n',
          type: kind.type,
          version: 1,
          at: [0, 0] as const,
          values: kind.values,
          options: kind.options,
        },
      ],
    },
  };
  const compiled = compileNetwork(document, { surface: false, taps: [`n:${kind.output}`] });
  const runner = new WasmRunner(compiled.program);
  runner.setUniforms(uniformsFor(compiled, document, SCALE));
  const count = SLICE.side * SLICE.side;
  const step = SLICE.features / SLICE.side;
  const [u, v] = [0, 1].map((axis) =>
    Float32Array.from(
      { length: count },
      (_, k) => (axis === 0 ? k % SLICE.side : Math.floor(k / SLICE.side)) * step + 0.11,
    ),
  ) as [Float32Array, Float32Array];
  return depths.flatMap((depth) =>
    [
      ['x', 'y', 'z'],
      ['y', 'z', 'x'],
      ['z', 'x', 'y'],
    ].map((axes) => {
      const lanes: Record<string, Float32Array> = {
        [`position.${axes[0] ?? ''}`]: u,
        [`position.${axes[1] ?? ''}`]: v,
        [`position.${axes[2] ?? ''}`]: new Float32Array(count).fill(depth),
      };
      const values = new Float32Array(count);
      runner.run((name) => lanes[name], count, [values]);
      return values;
    }),
  );
}

/** In place, a power of two long. Source: J. Cooley and J. Tukey, Math. Comp. 19, 1965. */
function transform(re: Float64Array, im: Float64Array): void {
  const n = re.length;
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      [re[i], re[j]] = [re[j] as number, re[i] as number];
      [im[i], im[j]] = [im[j] as number, im[i] as number];
    }
  }
  for (let length = 2; length <= n; length <<= 1) {
    const angle = (-2 * Math.PI) / length;
    for (let i = 0; i < n; i += length)
      for (let k = 0; k < length / 2; k++) {
        const [c, s] = [Math.cos(angle * k), Math.sin(angle * k)];
        const [a, b] = [i + k, i + k + length / 2];
        const x = (re[b] as number) * c - (im[b] as number) * s,
          y = (re[b] as number) * s + (im[b] as number) * c;
        re[b] = (re[a] as number) - x;
        im[b] = (im[a] as number) - y;
        re[a] = (re[a] as number) + x;
        im[a] = (im[a] as number) + y;
      }
  }
}

/**
 * Mean power over slices, without their means, windowed; (row, column) of signed frequencies,
 * wrapped.
 */
export function meanPower(slices: readonly Float32Array[]): Float64Array {
  const { side } = SLICE;
  const power = new Float64Array(side * side);
  const window = Float64Array.from(
    { length: side },
    (_, k) => 0.5 - 0.5 * Math.cos((2 * Math.PI * k) / side),
  );
  for (const slice of slices) {
    const mean = slice.reduce((sum, value) => sum + value, 0) / slice.length;
    const re = Float64Array.from(
        slice,
        (value, k) =>
          (value - mean) * (window[k % side] as number) * (window[Math.floor(k / side)] as number),
      ),
      im = new Float64Array(side * side);
    for (let row = 0; row < side; row++)
      transform(
        re.subarray(row * side, (row + 1) * side),
        im.subarray(row * side, (row + 1) * side),
      );
    const [columnRe, columnIm] = [new Float64Array(side), new Float64Array(side)];
    for (let column = 0; column < side; column++) {
      for (let row = 0; row < side; row++) {
        columnRe[row] = re[row * side + column] as number;
        columnIm[row] = im[row * side + column] as number;
      }
      transform(columnRe, columnIm);
      for (let row = 0; row < side; row++)
        power[row * side + column] =
          (power[row * side + column] as number) +
          (columnRe[row] as number) ** 2 +
          (columnIm[row] as number) ** 2;
    }
  }
  return power;
}

export interface Spectrum {
  /** Cycles per feature. */ readonly frequencies: readonly number[];
  /** Mean power at each, the largest 1. */ readonly power: readonly number[];
  /**
   * Power by direction, 12 sectors over half a turn, the mean 1.
   */
  readonly directions: readonly number[];
  /** The farthest a direction strays from the mean. */ readonly anisotropy: number;
}

/** Power by frequency and, within a band of frequencies, by direction. */
export function spectrumOf(power: Float64Array, band: readonly [number, number]): Spectrum {
  const { side, features } = SLICE;
  const bins = side / 2;
  const [sums, counts] = [new Float64Array(bins), new Float64Array(bins)];
  const [sectors, shares] = [new Float64Array(12), new Float64Array(12)];
  for (let row = 0; row < side; row++)
    for (let column = 0; column < side; column++) {
      const [fy, fx] = [row < bins ? row : row - side, column < bins ? column : column - side];
      const radius = Math.hypot(fx, fy);
      const bin = Math.round(radius);
      if (bin === 0 || bin >= bins) continue;
      const value = power[row * side + column] as number;
      sums[bin] = (sums[bin] as number) + value;
      counts[bin] = (counts[bin] as number) + 1;
      const frequency = radius / features;
      if (frequency < band[0] || frequency > band[1]) continue;
      const sector = Math.floor(((Math.atan2(fy, fx) / Math.PI + 2 + 1 / 24) % 1) * 12);
      sectors[sector] = (sectors[sector] as number) + value;
      shares[sector] = (shares[sector] as number) + 1;
    }
  const radial = Array.from(
    { length: bins - 1 },
    (_, k) => (sums[k + 1] as number) / Math.max(1, counts[k + 1] as number),
  );
  const largest = Math.max(...radial);
  const means = Array.from(sectors, (sum, k) => sum / Math.max(1, shares[k] as number));
  const mean = means.reduce((sum, value) => sum + value, 0) / 12;
  const directions = means.map((value) => value / mean);
  return {
    frequencies: radial.map((_, k) => (k + 1) / features),
    power: radial.map((value) => value / largest),
    directions,
    anisotropy: Math.max(...directions.map((value) => Math.abs(value - 1))),
  };
}

/** Share of values in equal bins from 0 to 1. */
export function sharesOf(slices: readonly Float32Array[], bins: number): readonly number[] {
  const counts = new Float64Array(bins);
  let total = 0;
  for (const slice of slices)
    for (const value of slice) {
      const bin = Math.min(bins - 1, Math.max(0, Math.floor(value * bins)));
      counts[bin] = (counts[bin] as number) + 1;
      total++;
    }
  return Array.from(counts, (count) => count / total);
}

/** Depths that lie neither on nor halfway between lattice planes. */
export const DEPTHS = [0.137, 1.613, 2.291, 3.877, 5.419, 7.703, 11.161, 13.297] as const;
/** Where the anisotropy is judged: around one feature a cycle. */
export const BAND = [0.5, 1.2] as const;

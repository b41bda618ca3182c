/**
 * An image as programs read it: linear RGBA in single precision, with all its reduced sizes in one
 * sheet. The full size stands at (0, 0), size l ≥ 1 (each side halved l times) at (width, rows
 * − rows·2^(1 − l)).
 */
export interface ImageAtlas {
  readonly width: number;
  readonly height: number;
  /** Texels in a row of the sheet, and the sheet's rows: a power of two. */
  readonly stride: number;
  readonly rows: number;
  /** The number of the smallest size. */
  readonly lastLevel: number;
  readonly mean: readonly [number, number, number, number];
  readonly data: Float32Array<ArrayBuffer>;
}

/** Side of a size, in texels. */
export const levelSide = (side: number, level: number): number =>
  Math.max(1, Math.floor(side / 2 ** level));
const placeOf = (width: number, rows: number, level: number): readonly [number, number] =>
  level === 0 ? [0, 0] : [width, rows - rows * 2 ** (1 - level)];

/**
 * Builds the sheet from linear RGBA, rows from the top. Reduced sizes are means of blocks, colours
 * weighed by alpha so that what is see-through lends no colour.
 */
export function buildAtlas(width: number, height: number, pixels: Float32Array): ImageAtlas {
  let rows = 1;
  while (rows < height) rows *= 2;
  const stride = width + Math.max(1, width >> 1);
  const lastLevel = Math.floor(Math.log2(Math.min(width, height)));
  const data = new Float32Array(stride * rows * 4);
  for (let y = 0; y < height; y++)
    data.set(pixels.subarray(y * width * 4, (y + 1) * width * 4), y * stride * 4);
  for (let level = 1; level <= lastLevel; level++)
    reduce(data, stride, [width, height], rows, level);
  return { width, height, stride, rows, lastLevel, mean: meanOf(pixels), data };
}

function reduce(
  data: Float32Array,
  stride: number,
  [width, height]: readonly [number, number],
  rows: number,
  level: number,
): void {
  const [fromX, fromY] = placeOf(width, rows, level - 1),
    [toX, toY] = placeOf(width, rows, level);
  const [w, h] = [levelSide(width, level), levelSide(height, level)];
  const [lastX, lastY] = [levelSide(width, level - 1) - 1, levelSide(height, level - 1) - 1];
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const to = ((toY + y) * stride + toX + x) * 4;
      let alpha = 0,
        weight = 0,
        red = 0,
        green = 0,
        blue = 0;
      for (let dy = 0; dy < 2; dy++)
        for (let dx = 0; dx < 2; dx++) {
          const at =
            ((fromY + Math.min(lastY, y * 2 + dy)) * stride + fromX + Math.min(lastX, x * 2 + dx)) *
            4;
          const a = data[at + 3] as number;
          const share = Math.max(a, 1e-6);
          alpha += a;
          weight += share;
          red += (data[at] as number) * share;
          green += (data[at + 1] as number) * share;
          blue += (data[at + 2] as number) * share;
        }
      data[to] = red / weight;
      data[to + 1] = green / weight;
      data[to + 2] = blue / weight;
      data[to + 3] = alpha / 4;
    }
}

function meanOf(pixels: Float32Array): readonly [number, number, number, number] {
  const sums = [0, 0, 0, 0];
  for (let k = 0; k < pixels.length; k++)
    sums[k & 3] = (sums[k & 3] as number) + (pixels[k] as number);
  const count = Math.max(1, pixels.length / 4);
  return [
    (sums[0] as number) / count,
    (sums[1] as number) / count,
    (sums[2] as number) / count,
    (sums[3] as number) / count,
  ];
}

/** What stands in for an image that is not there: one grey, opaque texel. */
export const NO_IMAGE: ImageAtlas = buildAtlas(1, 1, Float32Array.of(0.5, 0.5, 0.5, 1));

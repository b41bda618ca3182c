import { deflateSync } from 'node:zlib';

type Pixel = (x: number, y: number) => readonly number[];

/** A half-precision number's bits; exact for the small numbers tests use. */
function halfBits(value: number): number {
  if (value === 0) return 0;
  const sign = value < 0 ? 0x8000 : 0;
  const exponent = Math.floor(Math.log2(Math.abs(value)));
  return sign | ((exponent + 15) << 10) | Math.round((Math.abs(value) / 2 ** exponent - 1) * 1024);
}

/**
 * A small OpenEXR file of one part in scan lines, channels A, B, G, R. Source: OpenEXR file layout,
 * openexr.com.
 */
export function writeExr(
  width: number,
  height: number,
  pixel: Pixel,
  { half = false, zip = false }: { half?: boolean; zip?: boolean },
): Uint8Array {
  const bytes: number[] = [];
  const int = (value: number): void => {
    bytes.push(value & 255, (value >> 8) & 255, (value >> 16) & 255, (value >> 24) & 255);
  };
  const float = (value: number): void => {
    bytes.push(...new Uint8Array(Float32Array.of(value).buffer));
  };
  const text = (value: string): void => {
    bytes.push(...new TextEncoder().encode(value), 0);
  };
  const attribute = (name: string, type: string, write: () => void): void => {
    text(name);
    text(type);
    const at = bytes.length;
    int(0);
    write();
    const size = bytes.length - at - 4;
    for (let k = 0; k < 4; k++) bytes[at + k] = (size >> (8 * k)) & 255;
  };
  int(20000630);
  int(2);
  attribute('channels', 'chlist', () => {
    for (const name of ['A', 'B', 'G', 'R']) {
      text(name);
      int(half ? 1 : 2);
      bytes.push(0, 0, 0, 0);
      int(1);
      int(1);
    }
    bytes.push(0);
  });
  attribute('compression', 'compression', () => {
    bytes.push(zip ? 2 : 0);
  });
  for (const name of ['dataWindow', 'displayWindow'])
    attribute(name, 'box2i', () => {
      int(0);
      int(0);
      int(width - 1);
      int(height - 1);
    });
  attribute('lineOrder', 'lineOrder', () => {
    bytes.push(0);
  });
  attribute('pixelAspectRatio', 'float', () => {
    float(1);
  });
  attribute('screenWindowCenter', 'v2f', () => {
    float(0);
    float(0);
  });
  attribute('screenWindowWidth', 'float', () => {
    float(1);
  });
  bytes.push(0);
  const rows = Array.from({ length: height }, (_, y) => exrRow(width, y, pixel, half)).map((row) =>
    zip ? packRow(row) : row,
  );
  let at = bytes.length + height * 8;
  for (const row of rows) {
    int(at);
    int(0);
    at += 8 + row.length;
  }
  rows.forEach((row, y) => {
    int(y);
    int(row.length);
    bytes.push(...row);
  });
  return Uint8Array.from(bytes);
}

function exrRow(width: number, y: number, pixel: Pixel, half: boolean): Uint8Array {
  const values = [3, 2, 1, 0].flatMap((channel) =>
    Array.from({ length: width }, (_, x) => pixel(x, y)[channel] ?? 0),
  );
  return new Uint8Array(
    half ? Uint16Array.from(values, halfBits).buffer : Float32Array.from(values).buffer,
  );
}

/**
 * The predictor of ZIP compression: bytes parted into even and odd, then differences; stored plain
 * where that is no shorter.
 */
function packRow(row: Uint8Array): Uint8Array {
  const parted = new Uint8Array(row.length);
  const split = Math.ceil(row.length / 2);
  row.forEach((byte, k) => {
    parted[k % 2 === 0 ? k / 2 : split + (k - 1) / 2] = byte;
  });
  const differences = parted.map((byte, k) =>
    k === 0 ? byte : (byte - (parted[k - 1] as number) + 128) & 255,
  );
  const packed = new Uint8Array(deflateSync(differences));
  return packed.length < row.length ? packed : row;
}

/** A Radiance picture; rows of 8 texels and more are packed, with a run wherever a byte repeats. */
export function writeRadiance(width: number, height: number, pixel: Pixel): Uint8Array {
  const bytes: number[] = [
    ...new TextEncoder().encode(
      `#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${String(height)} +X ${String(width)}\n`,
    ),
  ];
  for (let y = 0; y < height; y++) {
    const row = Array.from({ length: width }, (_, x) => rgbe(pixel(x, y)));
    if (width < 8) {
      bytes.push(...row.flat());
      continue;
    }
    bytes.push(2, 2, width >> 8, width & 255);
    for (let c = 0; c < 4; c++)
      for (let x = 0; x < width;) {
        const value = row[x]?.[c] ?? 0;
        let run = 1;
        while (x + run < width && run < 127 && row[x + run]?.[c] === value) run++;
        if (run > 2) bytes.push(128 + run, value);
        else {
          run = 1;
          bytes.push(1, value);
        }
        x += run;
      }
  }
  return Uint8Array.from(bytes);
}

function rgbe([red = 0, green = 0, blue = 0]: readonly number[]): number[] {
  const largest = Math.max(red, green, blue);
  if (largest <= 0) return [0, 0, 0, 0];
  const exponent = Math.floor(Math.log2(largest)) + 1;
  return [
    ...[red, green, blue].map((value) => Math.min(255, Math.floor((value / 2 ** exponent) * 256))),
    exponent + 128,
  ];
}

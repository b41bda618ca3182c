import { encode as encodePng } from 'fast-png';
import { encode as encodeJpeg } from 'jpeg-js';
import { buildAtlas, levelSide } from '@/core/base/image';
import { ImageStore, makeSheet } from '@/core/evaluate/image-store';
import { decodeImage } from '@/core/exchange/images';
import type { DecodedImage } from '@/core/exchange/image-types';
import { decodeSrgb } from '@/core/surface/colour-science';
import { writeExr, writeRadiance } from '../support/image-files';

const at = (image: DecodedImage, x: number, y: number): number[] =>
  Array.from(image.pixels.subarray((y * image.width + x) * 4, (y * image.width + x) * 4 + 4));
const rgba = (
  width: number,
  height: number,
  of: (x: number, y: number) => readonly number[],
): number[] =>
  Array.from({ length: width * height }, (_, k) => of(k % width, Math.floor(k / width))).flat();

describe('reading images', () => {
  it('PNG of 8 and 16 bits, with and without alpha, grey or coloured', () => {
    const colour = decodeImage(
      encodePng({
        width: 3,
        height: 2,
        channels: 4,
        depth: 8,
        data: Uint8Array.from(rgba(3, 2, (x, y) => [x * 10, y * 20, 7, 200])),
      }),
    );
    expect([colour.format, colour.width, colour.height, colour.top, at(colour, 2, 1)]).toEqual([
      'PNG',
      3,
      2,
      255,
      [20, 20, 7, 200],
    ]);
    const deep = decodeImage(
      encodePng({
        width: 2,
        height: 1,
        channels: 3,
        depth: 16,
        data: Uint16Array.of(1, 2, 3, 65535, 40000, 5),
      }),
    );
    expect([deep.top, at(deep, 0, 0), at(deep, 1, 0)]).toEqual([
      65535,
      [1, 2, 3, 65535],
      [65535, 40000, 5, 65535],
    ]);
    const grey = decodeImage(
      encodePng({ width: 2, height: 1, channels: 1, depth: 8, data: Uint8Array.of(9, 250) }),
    );
    expect([at(grey, 0, 0), at(grey, 1, 0)]).toEqual([
      [9, 9, 9, 255],
      [250, 250, 250, 255],
    ]);
  });
  it('JPEG, close to what was stored', () => {
    const data = Uint8Array.from(rgba(16, 16, () => [200, 100, 50, 255]));
    const image = decodeImage(new Uint8Array(encodeJpeg({ width: 16, height: 16, data }, 95).data));
    at(image, 8, 8).forEach((value, k) => {
      expect(Math.abs(value - ([200, 100, 50, 255][k] ?? 0))).toBeLessThanOrEqual(3);
    });
  });
  it(
    'OpenEXR of single and half precision, plain and zipped: values above 1 and below 0 ' +
      'kept, rows from the top',
    () => {
      for (const half of [false, true])
        for (const zip of [false, true]) {
          const image = decodeImage(
            writeExr(5, 3, (x, y) => [x * 2, y - 0.5, 12.5, 0.25], { half, zip }),
          );
          expect([image.top, image.width, image.height]).toEqual([0, 5, 3]);
          expect(at(image, 4, 0)).toEqual([8, -0.5, 12.5, 0.25]);
          expect(at(image, 1, 2)).toEqual([2, 1.5, 12.5, 0.25]);
        }
    },
  );
  it('Radiance HDR, packed and flat, within its precision: 1 % of the largest channel', () => {
    for (const width of [4, 40]) {
      const image = decodeImage(writeRadiance(width, 3, (x, y) => [x + 1, 100 * (y + 1), 0.01]));
      at(image, 2, 1).forEach((value, k) => {
        expect(Math.abs(value - ([3, 200, 0.01, 1][k] ?? 1))).toBeLessThan(0.01 * 200);
      });
      expect(Math.abs((at(image, 0, 0)[1] as number) - 100)).toBeLessThan(0.5);
    }
    expect(at(decodeImage(writeRadiance(8, 1, () => [0, 0, 0])), 0, 0)).toEqual([0, 0, 0, 1]);
  });
  it('says what is wrong with a file that cannot be read', () => {
    const refused = (bytes: Uint8Array): string => {
      try {
        decodeImage(bytes);
        return 'read';
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(refused(new TextEncoder().encode('<svg></svg>'))).toMatch(
      /not a PNG, JPEG, OpenEXR or Radiance/,
    );
    const whole = encodePng({
      width: 8,
      height: 8,
      channels: 3,
      depth: 8,
      data: new Uint8Array(192),
    });
    expect(refused(whole.subarray(0, 40))).toMatch(/PNG image cannot be read/);
    expect(refused(writeExr(9, 9, () => [1, 1, 1, 1], {}).subarray(0, 200))).toMatch(
      /OpenEXR image cannot be read/,
    );
    expect(refused(writeRadiance(40, 4, () => [1, 2, 3]).subarray(0, 90))).toMatch(
      /far less than the size it states/,
    );
    // A bomb: its header says 60,000 × 60,000; refused before anything is unpacked.
    const bomb = whole.slice();
    new DataView(bomb.buffer).setUint32(16, 60000);
    new DataView(bomb.buffer).setUint32(20, 60000);
    expect(refused(bomb)).toMatch(/60000 × 60000; a side may have up to 16384/);
    new DataView(bomb.buffer).setUint32(16, 16384);
    new DataView(bomb.buffer).setUint32(20, 16384);
    expect(refused(bomb)).toMatch(/268 million pixels; the limit is 67 million/);
  });
});

describe('sheets', () => {
  it('hold every reduced size as the mean of the one before', () => {
    const pixels = Float32Array.from(rgba(6, 4, (x, y) => [x + 10 * y, 1, 0, 1]));
    const sheet = buildAtlas(6, 4, pixels);
    expect([sheet.stride, sheet.rows, sheet.lastLevel]).toEqual([9, 4, 2]);
    const texel = (x: number, y: number): number =>
      sheet.data[(y * sheet.stride + x) * 4] as number;
    expect(texel(5, 3)).toBe(35);
    expect(texel(6, 0)).toBe((0 + 1 + 10 + 11) / 4);
    expect(texel(8, 1)).toBe((24 + 25 + 34 + 35) / 4);
    expect([levelSide(6, 2), levelSide(4, 2)]).toEqual([1, 1]);
    expect(texel(6, 2)).toBe((5.5 + 7.5 + 25.5 + 27.5) / 4);
    expect(sheet.mean[0]).toBeCloseTo(17.5, 5);
  });
  it('let no colour in from where an image is clear', () => {
    const sheet = buildAtlas(
      2,
      2,
      Float32Array.from(rgba(2, 2, (x) => (x === 0 ? [1, 1, 1, 1] : [0, 0, 0, 0]))),
    );
    const small = Array.from(sheet.data.subarray(2 * 4, 3 * 4));
    expect(small[0]).toBeCloseTo(1, 4);
    expect(small[3]).toBe(0.5);
  });
  it('decode colour through the sRGB curve, data not; alpha and floats never', () => {
    const image: DecodedImage = {
      format: 'PNG',
      width: 1,
      height: 1,
      pixels: Uint8Array.of(128, 0, 255, 128),
      top: 255,
    };
    const read = (reading: 'colour' | 'data'): number[] =>
      Array.from(makeSheet(image, reading).data.subarray(0, 4));
    expect(read('data').map((x) => Math.round(x * 255))).toEqual([128, 0, 255, 128]);
    expect(read('colour')[0]).toBeCloseTo(decodeSrgb(128 / 255), 6);
    expect(read('colour')[3]).toBeCloseTo(128 / 255, 6);
    const float: DecodedImage = {
      format: 'OpenEXR',
      width: 1,
      height: 1,
      pixels: Float32Array.of(4, NaN, Infinity, 1),
      top: 0,
    };
    expect(Array.from(makeSheet(float, 'colour').data.subarray(0, 4))).toEqual([4, 0, 0, 1]);
  });
  it('are known by content, and say at what size they are read', () => {
    const store = new ImageStore();
    const bytes = encodePng({
      width: 4,
      height: 2,
      channels: 1,
      depth: 8,
      data: new Uint8Array(8),
    });
    expect(store.sheet('a', 'data')).toBeUndefined();
    expect(store.add('a', bytes)).toEqual({
      format: 'PNG',
      width: 4,
      height: 2,
      bits: 8,
      readWidth: 4,
      readHeight: 2,
    });
    expect(store.sheet('a', 'data')).toBe(store.sheet('a', 'data'));
    expect(store.sheet('a', 'colour')).not.toBe(store.sheet('a', 'data'));
    store.keepOnly(new Set(['a']), 9);
    expect(store.has('a')).toBe(true);
    store.keepOnly(new Set(['b']), 0);
    expect([store.has('a'), store.sheet('a', 'data')]).toEqual([false, undefined]);
    // A strip of one row, as wide as is allowed, and a single texel.
    expect(
      store.add(
        'strip',
        encodePng({ width: 16384, height: 1, channels: 1, depth: 8, data: new Uint8Array(16384) }),
      ),
    ).toMatchObject({ readWidth: 16384, readHeight: 1 });
    expect(
      store.add(
        'dot',
        encodePng({ width: 1, height: 1, channels: 1, depth: 8, data: Uint8Array.of(3) }),
      ),
    ).toMatchObject({ width: 1, height: 1 });
    expect(store.sheet('strip', 'data')?.lastLevel).toBe(0);
  });
});

import { deflateSync } from 'node:zlib';
import { encode as encodePng } from 'fast-png';
import { encode as encodeJpeg } from 'jpeg-js';
import { decodeImage } from '@/core/exchange/images';
import { makeChunk } from '@/core/exchange/png-strips';
import { mutate } from '../../scripts/drill/mutations';
import { writeExr, writeRadiance } from '../support/image-files';

/** How reading a file ends, and what it says. */
function ending(bytes: Uint8Array): string {
  try {
    decodeImage(bytes);
    return 'read';
  } catch (error) {
    const { name, message } = error as Error;
    return name === 'AppError' ? message : `${name}: ${message}`;
  }
}
const pixel = (x: number, y: number): readonly number[] => [x, y, 0.5, 1];
const rgba = Uint8Array.from({ length: 16 * 12 * 4 }, (_, k) => (k * 37) & 255);
const withWindow = (exr: Uint8Array, right: number, bottom: number): Uint8Array => {
  const made = exr.slice();
  const at = Buffer.from(made).indexOf('dataWindow\0box2i\0') + 'dataWindow\0box2i\0'.length + 4;
  new DataView(made.buffer).setInt32(at + 8, right, true);
  new DataView(made.buffer).setInt32(at + 12, bottom, true);
  return made;
};
const header = (width: number, height: number): Uint8Array => {
  const made = new Uint8Array(13);
  new DataView(made.buffer).setUint32(0, width);
  new DataView(made.buffer).setUint32(4, height);
  made.set([8, 6], 8);
  return made;
};
const png = (...chunks: readonly Uint8Array[]): Uint8Array =>
  Uint8Array.from([137, 80, 78, 71, 13, 10, 26, 10, ...chunks.flatMap((chunk) => [...chunk])]);

describe('hostile images', () => {
  it('an OpenEXR that ends inside its header is refused instead of being read for ever', () => {
    const whole = writeExr(4, 4, pixel, {});
    expect(ending(whole.slice(0, 9))).toMatch(/ends inside its header/);
    for (let length = 8; length < 330; length += 7)
      expect(ending(whole.slice(0, length))).toMatch(/OpenEXR image cannot be read/);
  });
  it('an OpenEXR that states far more than it holds is refused at once', () => {
    for (const zip of [false, true]) {
      expect(ending(withWindow(writeExr(4, 4, pixel, { zip }), 14999, 14999))).toMatch(
        /million pixels; the limit/,
      );
      expect(ending(withWindow(writeExr(4, 4, pixel, { zip }), 7999, 7999))).toMatch(
        /far less than the size it states/,
      );
    }
    expect(ending(withWindow(writeExr(4, 4, pixel, {}), 3, 3))).toBe('read');
  });
  it('a PNG whose data unpacks to more than its size states is unpacked no further', () => {
    const bomb = png(
      makeChunk('IHDR', [header(4, 4)]),
      makeChunk('IDAT', [deflateSync(new Uint8Array(200 * 1024 * 1024))]),
      makeChunk('IEND', []),
    );
    const before = process.memoryUsage().arrayBuffers;
    expect(ending(bomb)).toBe('read');
    expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(20 * 1024 * 1024);
  });
  it(
    'what is packed beside the pixels of a PNG is never unpacked, and one that holds too ' +
      'little is refused',
    () => {
      const profile = makeChunk('iCCP', [
        new TextEncoder().encode('x\0\0'),
        deflateSync(new Uint8Array(100 * 1024 * 1024)),
      ]);
      const data = makeChunk('IDAT', [deflateSync(new Uint8Array(4 * 17))]);
      expect(
        ending(png(makeChunk('IHDR', [header(4, 4)]), profile, data, makeChunk('IEND', []))),
      ).toBe('read');
      expect(
        ending(png(makeChunk('IHDR', [header(8000, 8000)]), data, makeChunk('IEND', []))),
      ).toMatch(/far less than the size it states/);
      expect(ending(png(makeChunk('IHDR', [header(4, 5)]), data, makeChunk('IEND', [])))).toMatch(
        /ends too early/,
      );
    },
  );
  it('a JPEG or a Radiance picture that states far more than it holds is refused', () => {
    const jpeg = new Uint8Array(encodeJpeg({ width: 16, height: 12, data: rgba }, 80).data);
    const at = Buffer.from(jpeg).indexOf(Buffer.of(0xff, 0xc0)) + 5;
    new DataView(jpeg.buffer).setUint16(at, 8000);
    new DataView(jpeg.buffer).setUint16(at + 2, 8000);
    expect(ending(jpeg)).toMatch(/far less than the size it states/);
    const radiance = Buffer.from(writeRadiance(40, 4, pixel))
      .toString('latin1')
      .replace('-Y 4 +X 40', '-Y 8000 +X 8000');
    expect(ending(new Uint8Array(Buffer.from(radiance, 'latin1')))).toMatch(
      /far less than the size it states/,
    );
  });
  it('three hundred damaged files are read or refused in words', () => {
    const files = [
      new Uint8Array(encodePng({ width: 16, height: 12, channels: 4, depth: 8, data: rgba })),
      new Uint8Array(encodeJpeg({ width: 16, height: 12, data: rgba }, 80).data),
      writeExr(16, 12, pixel, { half: true, zip: true }),
      writeRadiance(16, 12, pixel),
    ];
    const told = Array.from({ length: 300 }, (_, seed) =>
      ending(mutate(files[seed % files.length] ?? new Uint8Array(), seed)),
    );
    expect(told.filter((each) => /^[A-Za-z]*Error/.test(each))).toEqual([]);
    expect(told.filter((each) => each !== 'read').length).toBeGreaterThan(100);
  });
});

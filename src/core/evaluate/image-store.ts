import { buildAtlas } from '../base/image';
import type { ImageAtlas } from '../base/image';
import type { ImageReading } from '../compile/images';
import { decodeImage } from '../exchange/images';
import type { DecodedImage } from '../exchange/image-types';
import { decodeSrgb } from '../surface/colour-science';

/** Larger images are read at a reduced size: half each side until no more pixels are left. */
export const MOST_PIXELS = 4096 * 4096;

/** What is known of an image: bits a channel, its size, and the size it is read at, pixels. */
export interface ImageFacts {
  readonly format: string;
  readonly width: number;
  readonly height: number;
  readonly bits: number;
  readonly readWidth: number;
  readonly readHeight: number;
}

/**
 * Images by the hash of their file, unpacked once per thread, made into sheets as colour or as data
 * when first read so.
 */
export class ImageStore {
  private readonly decoded = new Map<string, DecodedImage>();
  private readonly sheets = new Map<string, ImageAtlas>();

  /** @throws AppError where the file cannot be read */
  add(hash: string, bytes: Uint8Array): ImageFacts {
    return this.put(hash, this.decoded.get(hash) ?? decodeImage(bytes));
  }

  /** Takes an image that was decoded elsewhere. */
  put(hash: string, image: DecodedImage): ImageFacts {
    this.decoded.set(hash, image);
    const halvings = halvingsFor(image.width, image.height);
    return {
      format: image.format,
      width: image.width,
      height: image.height,
      bits: image.top === 255 ? 8 : image.top === 65535 ? 16 : 32,
      readWidth: image.width >> halvings || 1,
      readHeight: image.height >> halvings || 1,
    };
  }

  /**
   * Forgets images not among those needed, once there are more than so many; they are read again
   * when they are asked for.
   */
  keepOnly(needed: ReadonlySet<string>, most: number): void {
    if (this.decoded.size <= most) return;
    for (const hash of [...this.decoded.keys()].filter((each) => !needed.has(each))) {
      this.decoded.delete(hash);
      for (const reading of ['colour', 'data']) this.sheets.delete(`${hash} ${reading}`);
    }
  }

  has(hash: string): boolean {
    return this.decoded.has(hash);
  }

  sheet(hash: string, reading: ImageReading): ImageAtlas | undefined {
    const key = `${hash} ${reading}`;
    const known = this.sheets.get(key);
    const image = this.decoded.get(hash);
    if (known || !image) return known;
    const made = makeSheet(image, reading);
    this.sheets.set(key, made);
    return made;
  }
}

/**
 * The images known to this thread. Kept by content, so that it does not matter who put them there.
 */
export const threadImages = new ImageStore();

function halvingsFor(width: number, height: number): number {
  let halvings = 0;
  while ((width >> halvings) * (height >> halvings) > MOST_PIXELS) halvings++;
  return halvings;
}

/**
 * Linear light for colours: whole numbers go through the sRGB curve, floats are linear already.
 * Data stays as it is. Alpha never goes through a curve.
 */
export function makeSheet(
  { width, height, pixels, top }: DecodedImage,
  reading: ImageReading,
): ImageAtlas {
  const linear = new Float32Array(width * height * 4);
  if (top === 0) linear.set(pixels);
  else {
    const curve = Float32Array.from({ length: top + 1 }, (_, k) =>
      reading === 'colour' ? decodeSrgb(k / top) : k / top,
    );
    for (let k = 0; k < pixels.length; k++)
      linear[k] =
        (k & 3) === 3 ? (pixels[k] as number) / top : (curve[pixels[k] as number] as number);
  }
  // Not-a-number and infinity in a file would spread over whole reduced sizes.
  for (let k = 0; k < linear.length; k++) if (!Number.isFinite(linear[k])) linear[k] = 0;
  let [w, h, data] = [width, height, linear];
  for (let k = halvingsFor(width, height); k > 0; k--) {
    const sheet = buildAtlas(w, h, data);
    const [half, tall] = [w >> 1 || 1, h >> 1 || 1];
    const next = new Float32Array(half * tall * 4);
    for (let y = 0; y < tall; y++)
      next.set(
        sheet.data.subarray((y * sheet.stride + w) * 4, (y * sheet.stride + w + half) * 4),
        y * half * 4,
      );
    [w, h, data] = [half, tall, next];
  }
  return buildAtlas(w, h, data);
}

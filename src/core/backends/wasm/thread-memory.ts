import type { ImageAtlas } from '../../base/image';

const PAGE_BYTES = 65536;
const MOST_PAGES = 65536;

/**
 * The memory that all modules of a thread share: each has its own stretch, and every image stands
 * in it once, whoever reads it. Growing it detaches views, so views are recomputed for every run.
 */
class ThreadMemory {
  readonly memory = new WebAssembly.Memory({ initial: 16, maximum: MOST_PAGES });
  private top = 0;
  private readonly free: { at: number; bytes: number }[] = [];
  private readonly images = new WeakMap<ImageAtlas, Stretch>();
  private readonly lost = new FinalizationRegistry<{ at: number; bytes: number }>((stretch) => {
    this.free.push(stretch);
  });

  /** A stretch of its own for as long as its owner lives. */
  take(owner: object, bytes: number): number {
    const stretch = this.find(Math.ceil(bytes / 64) * 64);
    this.lost.register(owner, stretch);
    return stretch.at;
  }

  /**
   * Where an image stands; it is put there when it is first asked for, and stays as long as the
   * image lives.
   */
  placeImage(image: ImageAtlas): number {
    let stretch = this.images.get(image);
    if (!stretch) {
      stretch = this.find(image.data.byteLength);
      new Float32Array(this.memory.buffer, stretch.at, image.data.length).set(image.data);
      this.images.set(image, stretch);
      this.lost.register(image, { ...stretch });
    }
    return stretch.at;
  }

  private find(bytes: number): Stretch {
    const known = this.free.findIndex(
      (stretch) => stretch.bytes >= bytes && stretch.bytes <= bytes * 1.5,
    );
    const [reused] = known >= 0 ? this.free.splice(known, 1) : [];
    if (reused) return reused;
    const at = this.top;
    const rounded = Math.ceil(bytes / 64) * 64;
    const needed = Math.ceil((at + rounded - this.memory.buffer.byteLength) / PAGE_BYTES);
    if (needed > 0) this.memory.grow(needed);
    this.top = at + rounded;
    return { at, bytes: rounded };
  }
}
interface Stretch {
  readonly at: number;
  readonly bytes: number;
}

/** The one memory of this thread, which all its programs share. */
export const threadMemory = new ThreadMemory();

import type { ImageFacts } from '../core/evaluate/image-store';
import { imagesIn } from '../core/compile/images';
import type { ImageDemand, ImageReading } from '../core/compile/images';
import type { ImageAtlas } from '../core/base/image';
import type { NetworkDocument } from '../core/graph/document';
import { settled } from '../workers/answer';
import { decodeApart } from '../workers/decode-apart';
import type { WorkerPool } from '../workers/pool';
import { readImage } from '../contract/images';
import { describeError, problemText } from '../core/base/problem';
import { bytesOf, call } from './api';
import { readOnce } from './query-client';
import { editorStore } from './editor-store';

/** What is known of an image: still coming, read, or why it cannot be. */
export type ImageState =
  | { readonly state: 'loading' }
  | { readonly state: 'ready'; readonly facts: ImageFacts }
  | { readonly state: 'failed'; readonly message: string; readonly at: number };
/** How long after a failure an image is asked for again, milliseconds. */
const RETRY = 10_000;

/** Brings the images a document names into all workers, once each. */
export class ImageKeeper {
  private readonly listeners = new Set<() => void>();
  private readonly sheets = new Map<string, Promise<ImageAtlas>>();
  private readonly atHand = new Map<string, ImageAtlas>();
  private loading = 0;

  constructor(private readonly pool: WorkerPool) {
    // A worker in the place of one that ended has no images.
    pool.onReplaced(() => {
      editorStore.setState({ images: new Map() });
      for (const listener of this.listeners) listener();
    });
  }

  onImages(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  }

  get isWorking(): boolean {
    return this.loading > 0;
  }

  request(document: NetworkDocument): void {
    for (const hash of imagesIn(document)) {
      const known = editorStore.getState().images.get(hash);
      if (!known || (known.state === 'failed' && performance.now() - known.at > RETRY))
        void this.load(hash);
    }
  }

  /** Reads bytes that are at hand already; throws what a worker says of them. */
  async adopt(hash: string, bytes: Uint8Array<ArrayBuffer>): Promise<ImageFacts> {
    const image = await decodeApart(bytes);
    const facts = await Promise.all(
      this.pool.all.map((worker) => settled(worker.takeImage(hash, image))),
    );
    const [first] = facts;
    if (!first) throw new Error('Invariant broken: no worker');
    this.tell(hash, { state: 'ready', facts: first });
    return first;
  }

  private async load(hash: string): Promise<void> {
    this.tell(hash, { state: 'loading' });
    this.loading++;
    try {
      await this.adopt(
        hash,
        await readOnce(['image', hash], async (signal) =>
          bytesOf(await call(readImage, { params: { hash }, signal })),
        ),
      );
    } catch (error) {
      this.tell(hash, {
        state: 'failed',
        message: problemText(describeError(error)),
        at: performance.now(),
      });
    } finally {
      this.loading--;
      for (const listener of this.listeners) listener();
    }
  }

  private tell(hash: string, state: ImageState): void {
    editorStore.setState({ images: new Map([...editorStore.getState().images, [hash, state]]) });
  }

  /** Sheets that are on this thread. */
  sheetAtHand(hash: string, reading: ImageReading): ImageAtlas | undefined {
    return this.atHand.get(`${hash} ${reading}`);
  }

  /** Brings sheets to this thread. @returns whether some were not there before */
  async bring(demands: readonly ImageDemand[]): Promise<boolean> {
    const missing = demands.filter(
      ({ hash, reading }) => hash !== '' && !this.sheetAtHand(hash, reading),
    );
    const fetched = await Promise.all(
      missing.map(
        async ({ hash, reading }) =>
          [`${hash} ${reading}`, await this.sheet(hash, reading)] as const,
      ),
    );
    const found = fetched.flatMap(([key, sheet]) => (sheet ? [[key, sheet] as const] : []));
    for (const [key, sheet] of found) this.atHand.set(key, sheet);
    return found.length > 0;
  }

  /** An image's sheet for the graphics processor; null while it is not there. */
  private sheet(hash: string, reading: ImageReading): Promise<ImageAtlas> | null {
    if (editorStore.getState().images.get(hash)?.state !== 'ready') return null;
    const key = `${hash} ${reading}`;
    const known = this.sheets.get(key);
    if (known) return known;
    const made = settled(this.pool.evaluator.imageSheet(hash, reading));
    this.sheets.set(key, made);
    made.catch(() => this.sheets.delete(key));
    return made;
  }
}

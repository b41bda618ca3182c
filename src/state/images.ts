import type { ImageHash } from '../core/base/ids';
import type { ImageFacts } from '../core/evaluate/image-store';
import { assert } from '../core/base/assert';
import type { DecodedImage } from '../core/exchange/image-types';
import { imagesIn } from '../core/compile/images';
import type { ImageDemand, ImageReading } from '../core/compile/images';
import type { ImageAtlas } from '../core/base/image';
import type { NetworkDocument } from '../core/graph/document';
import { unwrap } from '../workers/answer';
import { readImage } from '../contract/images';
import { describeError, problemText } from '../core/base/problem';
import { bytesOf } from './api';
import type { EditorParts } from './editor-parts';
import type { ImageState } from './stores';

/** How long after a failure an image is asked for again, milliseconds. */
const RETRY = 10_000;

/** Brings the images a document names into all workers, once each. */
export class StageImages {
  private readonly listeners = new Set<() => void>();
  private readonly sheets = new Map<string, Promise<ImageAtlas>>();
  private readonly atHand = new Map<string, ImageAtlas>();
  private loading = 0;

  /** @param decode reads a file apart from the page */
  constructor(
    private readonly parts: EditorParts,
    private readonly decode: (bytes: Uint8Array<ArrayBuffer>) => Promise<DecodedImage>,
  ) {
    // A worker in the place of one that ended has no images.
    parts.pool.onReplaced(() => {
      parts.stores.results.setState({ images: new Map() });
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
      const known = this.stateOf(hash);
      if (!known || (known.state === 'failed' && this.parts.clock.now() - known.at > RETRY))
        void this.load(hash);
    }
  }

  /** The hashes of images that are on their way. */
  get waiting(): readonly ImageHash[] {
    const { images } = this.parts.stores.results.getState();
    return [...images].flatMap(([hash, { state }]) => (state === 'loading' ? [hash] : []));
  }

  private stateOf(hash: ImageHash): ImageState | undefined {
    return this.parts.stores.results.getState().images.get(hash);
  }

  /** Gives the workers a file's image. @throws what reading it says */
  private async provide(hash: string, bytes: Uint8Array<ArrayBuffer>): Promise<ImageFacts> {
    const image = await this.decode(bytes);
    const facts = await Promise.all(
      this.parts.pool.all.map((worker) => unwrap(worker.takeImage(hash, image))),
    );
    const [first] = facts;
    assert(first !== undefined, 'a pool has workers');
    this.report(hash, { state: 'ready', facts: first });
    return first;
  }

  private async load(hash: string): Promise<void> {
    this.report(hash, { state: 'loading' });
    this.loading++;
    try {
      const { client } = this.parts;
      const bytes = await client.readOnce(['image', hash], async (signal) =>
        bytesOf(await client.call(readImage, { params: { hash }, signal })),
      );
      await this.provide(hash, bytes);
    } catch (error) {
      this.report(hash, {
        state: 'failed',
        message: problemText(describeError(error)),
        at: this.parts.clock.now(),
      });
    } finally {
      this.loading--;
      for (const listener of this.listeners) listener();
    }
  }

  private report(hash: string, state: ImageState): void {
    const { results } = this.parts.stores;
    results.setState({ images: new Map([...results.getState().images, [hash, state]]) });
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
    if (this.stateOf(hash)?.state !== 'ready') return null;
    const key = `${hash} ${reading}`;
    const known = this.sheets.get(key);
    if (known) return known;
    const made = unwrap(this.parts.pool.evaluator.imageSheet(hash, reading));
    this.sheets.set(key, made);
    made.catch(() => this.sheets.delete(key));
    return made;
  }
}

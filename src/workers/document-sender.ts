import type * as Comlink from 'comlink';
import type { NetworkDocument } from '../core/graph/document';
import { diffJson } from '../core/graph/patch';
import type { JsonPatch } from '../core/graph/patch';
import { isLost, unwrap } from './answer';
import type { DocumentNews } from './held-documents';
import type { LoomApi } from './loom-api';

type Holder = Pick<Comlink.Remote<LoomApi>, 'holdDocument'>;
interface Sent {
  readonly number: number;
  readonly document: NetworkDocument;
}
/** A patch of more steps than this is sent as the whole document. */
const MOST_STEPS = 400;

/**
 * Brings workers the open document: whole the first time, then what was edited. What is asked of a
 * worker after `bring` reaches it after the document does.
 */
export class DocumentSender {
  private readonly sent = new WeakMap<Holder, Sent>();
  private numbers = 0;
  private last: { from: NetworkDocument; to: NetworkDocument; patch: JsonPatch } | null = null;
  /** Counters for tests and benchmarks. */
  readonly counts = { wholes: 0, patches: 0 };

  /** @returns the number by which the worker knows the document */
  bring(worker: Holder, document: NetworkDocument): number {
    const before = this.sent.get(worker);
    if (before?.document === document) return before.number;
    const number = ++this.numbers;
    this.sent.set(worker, { number, document });
    const news = this.newsOf(before, document);
    unwrap(worker.holdDocument(number, news)).then(
      () => undefined,
      (error: unknown) => {
        // Should a patch not fit, the whole document is sent with the next edit.
        this.sent.delete(worker);
        if (!isLost(error)) console.error(error);
      },
    );
    return number;
  }

  private newsOf(before: Sent | undefined, document: NetworkDocument): DocumentNews {
    const patch = before && this.patchOf(before.document, document);
    if (!before || !patch || patch.length > MOST_STEPS) {
      this.counts.wholes++;
      return { whole: document };
    }
    this.counts.patches++;
    return { base: before.number, patch };
  }

  /** Made once for all workers, which are mostly one edit behind. */
  private patchOf(from: NetworkDocument, to: NetworkDocument): JsonPatch {
    if (this.last?.from !== from || this.last.to !== to)
      this.last = { from, to, patch: diffJson(from, to) };
    return this.last.patch;
  }
}

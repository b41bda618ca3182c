import type { Answer } from './answer';
import { AppError } from '../core/base/diagnostic';
import type { NetworkDocument } from '../core/graph/document';
import { applyPatch } from '../core/graph/patch';
import type { JsonPatch } from '../core/graph/patch';

/** A document as it is named in a call: itself, or the number of one the worker holds. */
export type DocumentReference = NetworkDocument | number;
/** A document to hold: whole, or as what makes it of one that is held. */
export type DocumentNews =
  { readonly whole: NetworkDocument } | { readonly base: number; readonly patch: JsonPatch };

/** Does work on a document that is named in a call. */
export type OnDocument = <T>(
  named: DocumentReference,
  work: (document: NetworkDocument) => T,
) => Promise<Answer<T>>;

/** How many are held: calls name the newest, and perhaps one that was newest a moment ago. */
const HELD = 4;

/** The documents a worker holds, so that after an edit only what was edited is sent to it. */
export class HeldDocuments {
  private readonly held = new Map<number, NetworkDocument>();

  hold(number: number, news: DocumentNews): void {
    const document =
      'whole' in news
        ? news.whole
        : // What was valid stays valid: the page makes the patch from two valid documents.
          (applyPatch(this.get(news.base), news.patch) as NetworkDocument);
    this.held.set(number, document);
    const [oldest] = this.held.keys();
    if (this.held.size > HELD && oldest !== undefined) this.held.delete(oldest);
  }

  /** @throws AppError `worker.no-document` */
  get(reference: DocumentReference): NetworkDocument {
    if (typeof reference !== 'number') return reference;
    const document = this.held.get(reference);
    if (document) return document;
    throw new AppError(
      'worker.no-document',
      'This worker does not hold the document it was asked about.',
      'Undo the last step or reload the page.',
      { kept: 'Your work is kept.' },
    );
  }
}

import type { Diagnostic } from '../core/base/diagnostic';
import type { NetworkDocument } from '../core/graph/document';
import type { FindingPlace } from '../core/graph/finding-place';

/** A finding with its place by ids, which holds while the document goes on being edited. */
export interface PlacedFinding extends Diagnostic {
  readonly place: FindingPlace;
}

/** What is wrong with the open document, beside it. */
export interface FindingsState {
  /** The document that was checked last; null before the first check. */
  readonly checked: NetworkDocument | null;
  readonly findings: readonly PlacedFinding[];
  /** The finding a person went to last, until another thing is chosen. */
  readonly shown: PlacedFinding | null;
  readonly isListOpen: boolean;
  /** Why the document could not be checked. */
  readonly failure: unknown;
}

export const emptyFindings: FindingsState = {
  checked: null,
  findings: [],
  shown: null,
  isListOpen: false,
  failure: null,
};

import type { BoardId, NetworkDocument } from '../graph/document';

/** What kind of thing changed. Words are what nothing computed depends on. */
export type ChangeKind = 'value' | 'mode' | 'wiring' | 'dial' | 'scene' | 'words';

/** One thing that differs between two documents, which can be put back alone. */
export interface DocumentChange {
  readonly kind: ChangeKind;
  readonly board: BoardId;
  /** The node it is about; null for what belongs to a board or to the whole. */
  readonly node: string | null;
  /** Where it is, in words: the group and the node. */
  readonly place: string;
  /** What changed there, in words. */
  readonly what: string;
  readonly before: string;
  readonly after: string;
  /** The later document with this alone as it was. */
  readonly undo: (after: NetworkDocument) => NetworkDocument;
}

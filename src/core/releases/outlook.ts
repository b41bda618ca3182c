import type { DocumentChange } from '../compare/change';
import { listChanges } from '../compare/document-changes';
import { measureChanges } from '../compare/change-shares';
import type { MeasuredDifference } from '../compare/change-shares';
import type { Picture } from '../evaluate/picture';
import type { NetworkDocument } from '../graph/document';
import type { PlacedRelease } from './release-groups';
import { takeRelease } from './take-release';
import type { LostSetting } from './take-release';

/** What taking a release does to one material. */
export interface Outlook extends MeasuredDifference<DocumentChange> {
  readonly pictures: readonly [Picture, Picture];
  readonly lost: readonly LostSetting[];
  /** The releases that were in use. */
  readonly from: readonly string[];
}

/** The groups of a document that are placed from an entry. */
export const placedFrom = (document: NetworkDocument, entryId: string): readonly string[] =>
  Object.values(document.groups)
    .filter(({ release }) => release?.entryId === entryId)
    .map(({ id }) => id);

/** A document in which every group placed from the entry has taken the release. */
export function takeEverywhere(
  document: NetworkDocument,
  placed: PlacedRelease,
  earlier?: NetworkDocument,
): { readonly document: NetworkDocument; readonly lost: readonly LostSetting[] } {
  return placedFrom(document, placed.entryId).reduce<{
    readonly document: NetworkDocument;
    readonly lost: readonly LostSetting[];
  }>(
    (done, groupId) => {
      const taken = takeRelease(done.document, groupId, placed, earlier);
      return { document: taken.document, lost: [...done.lost, ...taken.lost] };
    },
    { document, lost: [] },
  );
}

/**
 * Looks at a material as it is and as it would be with the release: pictures of both, what changed,
 * and how much each change accounts for.
 * @param draw a picture of a state, always of the same size and from the same camera
 * @throws CompileError when either has errors
 */
export function lookAhead(
  document: NetworkDocument,
  placed: PlacedRelease,
  draw: (document: NetworkDocument) => Picture,
): Outlook {
  const taken = takeEverywhere(document, placed);
  const changes = listChanges(document, taken.document);
  const from = placedFrom(document, placed.entryId).flatMap(
    (id) => Object.values(document.groups).find((group) => group.id === id)?.release?.version ?? [],
  );
  return {
    ...measureChanges(document, taken.document, changes, draw),
    lost: taken.lost,
    from: [...new Set(from)],
  };
}

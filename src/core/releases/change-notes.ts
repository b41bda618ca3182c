import { own } from '../base/own';
import { listChanges } from '../compare/document-changes';
import type { DocumentChange } from '../compare/change';
import type { NetworkDocument } from '../graph/document';
import { innerGroups, putInPlace } from './release-groups';
import type { PlacedRelease } from './release-groups';

/** The longest proposal, lines; what is beyond is counted. */
const MOST_LINES = 24;

/** What of a group in a document, and of the groups inside it, is not as in a release. */
export function changesSince(
  document: NetworkDocument,
  groupId: string,
  release: PlacedRelease,
): readonly DocumentChange[] {
  if (!own(document.groups, groupId)) return [];
  const before = putInPlace(document, groupId, release);
  const inside = new Set([
    groupId,
    ...innerGroups(document, groupId),
    ...innerGroups(before, groupId),
  ]);
  return listChanges(before, document).filter(({ board }) => board !== null && inside.has(board));
}

/** Whether a placed group was changed by hand inside, beside names and words. */
export const isChangedInside = (
  document: NetworkDocument,
  groupId: string,
  release: PlacedRelease,
): boolean => changesSince(document, groupId, release).some(({ kind }) => kind !== 'words');

/** One change as a line. */
export const changeLine = ({ place, what, before, after }: DocumentChange): string =>
  `${place}: ${what}, ${before} → ${after}`;

/** Notes for a release, from what changed: modes and wiring first, words last. */
export function proposeNotes(changes: readonly DocumentChange[]): string {
  const order = ['mode', 'wiring', 'value', 'dial', 'scene', 'words'];
  const lines = [...changes]
    .sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind))
    .map(changeLine);
  const shown = lines.slice(0, MOST_LINES);
  const more = lines.length - shown.length;
  return [...shown, ...(more > 0 ? [`and ${String(more)} more`] : [])].join('\n');
}

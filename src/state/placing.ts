import { AppError } from '../core/base/diagnostic';
import { getNetwork } from '../core/edit/board';
import { addNode } from '../core/edit/nodes';
import type { BoardId, NetworkDocument } from '../core/graph/document';
import { bringIn } from '../core/releases/release-groups';
import type { PlacedRelease } from '../core/releases/release-groups';
import { openEntry, openRelease } from '../contract/library';
import type { EntrySummary } from '../contract/library';
import { commit, goTo, select } from './editing';
import { read } from './query-client';
import { stores } from './stores';

/** What is to be placed: an entry of the library and one of its releases. */
export type PlacedEntry = Pick<EntrySummary, 'id' | 'name' | 'version'>;
/** Under this type an entry that is dragged tells what it is. */
export const DRAGGED_ENTRY = 'application/x-bright-loom-entry';

/**
 * Reads a release that is to be used. @throws ApiFailure; AppError where it cannot be read with
 * this release of the program
 */
export async function readRelease(entryId: string, version: string): Promise<PlacedRelease> {
  const release = await read(openRelease, { params: { id: entryId, version } });
  if (release.fault !== null)
    throw new AppError('release.unreadable', release.fault, 'Choose another release.', {
      kept: 'Nothing was placed.',
    });
  return { entryId, version, groups: release.groups };
}

type Join = (document: NetworkDocument, board: BoardId, id: string) => NetworkDocument;

/** Where a card goes that is placed at no particular spot: to the right of what is there. */
function besideAll(document: NetworkDocument, board: BoardId): readonly [number, number] {
  const { nodes } = getNetwork(document, board);
  const right = Math.max(0, ...nodes.map((node) => node.at[0]));
  return [right, Math.min(0, ...nodes.map((node) => node.at[1])) - 240];
}

/**
 * Puts a release of an entry on the open board as one step, and selects it.
 * @param at where on the board; beside all others where left out, and the board goes there
 * @param join what else is done with the new card in the same step
 * @throws ApiFailure, AppError
 */
export async function placeEntry(
  entry: PlacedEntry,
  at?: readonly [number, number],
  join: Join = (document) => document,
): Promise<void> {
  const placed = await readRelease(entry.id, entry.version);
  noteRecent(entry.id);
  let id = '';
  commit(`Placed ${entry.name}`, (document, board) => {
    const brought = bringIn(document, placed);
    const place = at ?? besideAll(document, board);
    const added = addNode(brought.document, board, 'group', place, brought.groupId);
    id = added.id;
    return join(added.document, board, added.id);
  });
  if (!id) return;
  if (at) select([id]);
  else goTo(stores.view.getState().path, { node: id });
}

/** Places the newest release of an entry, by its id. @throws ApiFailure, AppError */
export async function placeById(id: string): Promise<string> {
  const { name, version } = await read(openEntry, { params: { id } });
  if (version === null)
    throw new AppError('entry.withdrawn', `“${name}” has no release at present.`, '', {
      kept: 'Nothing was placed.',
    });
  await placeEntry({ id, name, version });
  return `${name} ${version}`;
}

const RECENT = 'bright-loom-recent-entries';
const MOST_RECENT = 12;

/** The entries that were placed last in this browser, the latest first. */
export function recentEntries(): readonly string[] {
  try {
    const kept: unknown = JSON.parse(window.localStorage.getItem(RECENT) ?? '[]');
    return Array.isArray(kept) ? kept.filter((each) => typeof each === 'string') : [];
  } catch {
    return [];
  }
}

function noteRecent(id: string): void {
  const next = [id, ...recentEntries().filter((each) => each !== id)].slice(0, MOST_RECENT);
  try {
    window.localStorage.setItem(RECENT, JSON.stringify(next));
  } catch {
    // Without room the order stays as it was.
  }
}

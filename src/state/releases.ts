import type { UseQueryResult } from '@tanstack/react-query';
import { openEntry } from '../contract/library';
import { listWaiting, readConsequences } from '../contract/shelf';
import type { OutlookView, WaitingRelease } from '../contract/shelf';
import { AppError } from '../core/base/diagnostic';
import { isChangedInside } from '../core/releases/change-notes';
import { placedFrom, takeEverywhere } from '../core/releases/outlook';
import { pinRelease, releasesUsed } from '../core/releases/take-release';
import type { LostSetting } from '../core/releases/take-release';
import { takeSuccessor } from '../core/releases/take-successor';
import { call } from './api';
import { commit } from './editing';
import { readRelease } from './placing';
import { keyOfCall, useCall } from './use-call';
import { queryClient } from './query-client';
import { stores } from './stores';
import { useDocument } from './use-stores';
import { useQuery } from '@tanstack/react-query';

type Waiting = { readonly waiting: readonly WaitingRelease[] };

/** The releases that wait for the open material; asked anew when it uses others. */
export function useWaiting(): readonly WaitingRelease[] {
  const material = useDocument((state) => state.materialId);
  // As text, so that only another release or another pin draws anew.
  const used = useDocument(({ document }) => JSON.stringify(releasesUsed(document)));
  const { data } = useCall<unknown, { material?: string }, Waiting>(
    listWaiting,
    { query: { material } },
    { enabled: material !== '' && used !== '[]' },
  );
  const releases = JSON.parse(used) as ReturnType<typeof releasesUsed>;
  // What the document says counts: it may not be saved yet.
  return (data?.waiting ?? []).flatMap((each) => {
    const own = releases.find(
      ({ entryId, version }) => entryId === each.entryId && version === each.version,
    );
    return own ? [{ ...each, pinned: own.pinned }] : [];
  });
}

/** Asks again what waits: after something was taken, or saved. */
export const askAgain = (): Promise<void> =>
  queryClient().invalidateQueries({ queryKey: [listWaiting.path] });

/** What came of taking a release in the open material. */
export interface TakenHere {
  readonly lost: readonly LostSetting[];
  /** Groups changed by hand inside: those changes are gone, and come back by undo. */
  readonly changed: readonly string[];
}

/**
 * Takes a release in the open material, as one step that can be undone.
 * @throws ApiFailure, AppError
 */
export async function takeHere(
  entryId: string,
  entryName: string,
  version: string,
): Promise<TakenHere> {
  const placed = await readRelease(entryId, version);
  const changed = await changedByHand(entryId);
  let lost: readonly LostSetting[] = [];
  commit(`Took ${entryName} ${version}`, (document) => {
    const taken = takeEverywhere(document, placed);
    lost = taken.lost;
    return taken.document;
  });
  return { lost, changed };
}

/**
 * Takes the newest release of an entry in the place of another that is given up, as one step.
 * @throws ApiFailure, AppError
 */
export async function takeSuccessorHere(
  { entryId, entryName }: Pick<WaitingRelease, 'entryId' | 'entryName'>,
  successorId: string,
): Promise<TakenHere & { readonly name: string }> {
  const { name, version } = await call(openEntry, { params: { id: successorId } });
  if (version === null)
    throw new AppError('release.none', `“${name}” has no release that is out.`, 'Choose another.');
  const placed = await readRelease(successorId, version);
  const changed = await changedByHand(entryId);
  let lost: readonly LostSetting[] = [];
  commit(`Took ${name} ${version} in place of ${entryName}`, (document) => {
    const taken = takeSuccessor(document, entryId, placed);
    lost = taken.lost;
    return taken.document;
  });
  return { lost, changed, name };
}

/** The names of groups placed from an entry that are not as their release any more. */
export async function changedByHand(entryId: string): Promise<readonly string[]> {
  const { document } = stores.document.getState();
  const names: string[] = [];
  for (const id of placedFrom(document, entryId)) {
    const group = Object.values(document.groups).find((each) => each.id === id);
    const version = group?.release?.version;
    if (!group || version === undefined) continue;
    if (isChangedInside(document, id, await readRelease(entryId, version))) names.push(group.name);
  }
  return names;
}

/** Says that a material stays at the release it has, and why; an empty reason takes that back. */
export function pinHere(entryId: string, entryName: string, reason: string): void {
  commit(reason ? `Pinned ${entryName}` : `Unpinned ${entryName}`, (document) =>
    placedFrom(document, entryId).reduce((now, id) => pinRelease(now, id, reason), document),
  );
}

/** Milliseconds between looks at consequences that are still being made. */
const AGAIN = 700;

/** What a change of an entry does, as it is found out. @param id empty: none */
export function useConsequences(id: string): UseQueryResult<OutlookView> {
  return useQuery<OutlookView>({
    queryKey: keyOfCall(readConsequences, { id }),
    queryFn: ({ signal }) => call(readConsequences, { params: { id }, signal }),
    enabled: id !== '',
    refetchInterval: ({ state }) =>
      state.data?.materials.some((each) => each.state === 'waiting') === false ? false : AGAIN,
  });
}

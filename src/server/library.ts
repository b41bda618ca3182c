import { AppError } from '@/core/base/diagnostic';
import type {
  EntryView,
  LibraryAnswer,
  LibraryQuery,
  ReleaseSummary,
  ReleaseView,
} from '@/contract/library';
import { countUsers, listUsers } from '@/db/queries/entry-uses';
import { findEntry, listReleases } from '@/db/queries/library';
import {
  areKnown,
  countFacets as readFacets,
  findEntries,
  findSimilar,
} from '@/db/queries/library-search';
import type { EntrySearch, FoundEntry } from '@/db/queries/library-search';
import { listProjects } from '@/db/queries/materials';
import type { SignedIn } from './authentication';
import { STUDIO_RACK, mayEdit, personRack, projectRack } from './rights';
import { findRelease } from './stored';
import type { StoredRelease } from './stored';

/** Entries of a page. */
const PAGE = 40;

interface Rack {
  readonly id: string;
  readonly name: string;
}

/** The racks a person sees: their own, the studio's, those of their projects. */
export async function racksOf(user: SignedIn): Promise<readonly Rack[]> {
  const projects = await listProjects(user.id);
  return [
    { id: STUDIO_RACK, name: 'Studio' },
    ...projects.map(({ id, name }) => ({ id: projectRack(id), name })),
    { id: personRack(user.id), name: 'My own' },
  ];
}

async function searchOf(
  user: SignedIn,
  given: LibraryQuery,
): Promise<{ readonly racks: readonly Rack[]; readonly search: EntrySearch }> {
  const racks = await racksOf(user);
  const projects = racks.flatMap(({ id }) => (id.startsWith('project:') ? [id.slice(8)] : []));
  return {
    racks,
    search: {
      racks: racks.map(({ id }) => id).filter((id) => !given.rack || id === given.rack),
      query: given.query ?? '',
      facets: (given.facets ?? '').split(',').filter(Boolean),
      // A project one is not in has used nothing that one may know of.
      usedBy: given.usedBy === undefined ? null : projects.filter((id) => id === given.usedBy),
      sort: given.sort ?? 'match',
      first: Number(given.first ?? 0),
      count: PAGE,
    },
  };
}

const iso = (moment: Date | string): string => new Date(moment).toISOString();
const shown = (found: FoundEntry): LibraryAnswer['entries'][number] => ({
  ...found,
  releasedAt: iso(found.releasedAt),
});

/** Entries with the words and facets that are asked for, on the racks the person may see. */
export async function searchLibrary(user: SignedIn, given: LibraryQuery): Promise<LibraryAnswer> {
  const { racks, search } = await searchOf(user, given);
  const found = await findEntries(search);
  const isGuess = found.length === 0 && search.first === 0 && !(await areKnown(search.query));
  const entries = isGuess ? await findSimilar(search) : found;
  return {
    racks,
    entries: entries.slice(0, PAGE).map(shown),
    hasMore: entries.length > PAGE,
    isGuess: isGuess && entries.length > 0,
  };
}

const RACK_FACET = 'rack:';

/** How often each facet stands among what a search finds. */
export async function countFacets(
  user: SignedIn,
  given: LibraryQuery,
): Promise<{ facets: { facet: string; title: string; count: number }[] }> {
  const { racks, search } = await searchOf(user, given);
  const counts = await readFacets(search);
  return {
    facets: counts.map(({ facet, count }) => ({
      facet,
      count,
      title: facet.startsWith(RACK_FACET)
        ? (racks.find(({ id }) => `${RACK_FACET}${id}` === facet)?.name ?? facet)
        : facet.slice(facet.indexOf(':') + 1),
    })),
  };
}

const notFound = (): AppError =>
  new AppError(
    'entry.not-found',
    'There is no such group in the library, or it is on a rack you cannot see.',
    'Go back to the library.',
    { status: 404 },
  );

/** An entry on a rack that the person sees. @throws AppError (404) for any other */
export async function readEntry(user: SignedIn, id: string) {
  const [entry, racks] = await Promise.all([findEntry(id), racksOf(user)]);
  const rack = racks.find((each) => each.id === entry?.rack);
  if (!entry || !rack) throw notFound();
  return { ...entry, rackName: rack.name };
}

/** An entry with what is known of its releases and of who uses it. */
export async function openEntry(user: SignedIn, id: string): Promise<EntryView> {
  const { authorId, successorId, ...entry } = await readEntry(user, id);
  const [releases, users, total, successor] = await Promise.all([
    listReleases(id),
    listUsers(user.id, id),
    countUsers(id),
    successorId === null ? undefined : findEntry(successorId),
  ]);
  const known = new Set(users.map(({ materialId }) => materialId));
  return {
    ...entry,
    successor: successor ? { id: successor.id, name: successor.name } : null,
    releases: releases
      .filter(
        ({ state, authorId: by }) => state === 'out' || by === user.id || user.role === 'librarian',
      )
      .map(summaryView),
    users: users.map(({ materialId, name, projectName, version, pinned, swatchHash }) => ({
      materialId,
      name,
      projectName,
      version,
      pinned,
      swatchHash,
    })),
    hiddenUsers: Math.max(0, total - known.size),
    mayEdit: mayEdit(user, authorId),
    mayReview: user.role === 'librarian',
  };
}

type SummaryRow = Awaited<ReturnType<typeof listReleases>>[number];
const summaryView = ({
  contentHash: _,
  authorId: _author,
  createdAt,
  withdrawnAt,
  ...row
}: SummaryRow): ReleaseSummary => ({
  ...row,
  createdAt: createdAt.toISOString(),
  withdrawnAt: withdrawnAt?.toISOString() ?? null,
});

/** A release that the person may look at. @throws AppError (404) for any other */
export async function readRelease(
  user: SignedIn,
  id: string,
  version: string,
): Promise<StoredRelease> {
  await readEntry(user, id);
  const release = await findRelease(id, version);
  const isSeen =
    release?.state === 'out' || release?.authorId === user.id || user.role === 'librarian';
  if (!release || !isSeen)
    throw new AppError('release.not-found', `There is no release ${version} of this group.`, '', {
      kept: 'Nothing was changed.',
      status: 404,
    });
  return release;
}

/** A release with its groups, its proof and its sheet. */
export async function openRelease(
  user: SignedIn,
  id: string,
  version: string,
): Promise<ReleaseView> {
  const {
    fault,
    groups,
    documentVersion,
    proof,
    sheet,
    sheetHash,
    sourceMaterialId: _material,
    sourceRevision: _revision,
    ...row
  } = await readRelease(user, id, version);
  return { ...summaryView(row), fault, groups, documentVersion, proof, sheet, sheetHash };
}

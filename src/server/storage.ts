import { MOST_HOLDINGS } from '@/contract/storage';
import type { Holding, Storage } from '@/contract/storage';
import { AppError } from '@/core/base/diagnostic';
import type { Executor } from '@/db/client';
import { findLastResult } from '@/db/queries/jobs';
import * as rows from '@/db/queries/storage';
import type { Room } from '@/db/queries/storage';
import type { SignedIn } from './authentication';
import { HOUSEKEEPING } from './jobs/lanes';
import { listProjects } from './projects';
import type { Tidied } from './tidied';

const megabytes = (bytes: number): string =>
  `${(bytes / 1e6).toLocaleString('en', { maximumFractionDigits: bytes < 1e7 ? 1 : 0 })} MB`;

const tooFull = ({ name, quotaBytes }: Room, used: string, kept: string): AppError =>
  new AppError(
    'storage.full',
    `The project ${name} holds at most ${megabytes(quotaBytes ?? 0)}; ${used}.`,
    'Remove what nothing uses from it (the page Storage lists what is large), ' +
      'or ask a librarian for more room.',
    { kept, status: 413 },
  );

/**
 * Refuses a file for which there is no room before it is read.
 * @throws AppError with what was kept
 */
export async function assertRoom(projectId: string, bytes: number, kept: string): Promise<void> {
  const room = await rows.findRoom(projectId);
  if (!room || room.quotaBytes === null || room.usedBytes + bytes <= room.quotaBytes) return;
  const used = `${megabytes(room.usedBytes)} are used, and this is ${megabytes(bytes)}`;
  throw tooFull(room, used, kept);
}

/**
 * Brings something into a project if there is room for it, or nothing of it: somebody else may have
 * filled the room while a file was on its way.
 */
export const bringInto = <T>(
  projectId: string,
  kept: string,
  bring: (tx: Executor) => Promise<T>,
): Promise<T> =>
  rows.bringInto(projectId, bring, (room) => {
    if (room.quotaBytes === null || room.usedBytes <= room.quotaBytes) return;
    throw tooFull(room, `with this it would hold ${megabytes(room.usedBytes)}`, kept);
  });

/** What the last housekeeping did, in words. */
function tidiedWords({ revisions, files, maps, outlooks, bytes }: Tidied): string {
  const parts = [
    [revisions, 'revisions thinned out'],
    [files, 'pictures and files removed'],
    [maps, 'maps removed'],
    [outlooks, 'looks ahead forgotten'],
  ] as const;
  const done = parts
    .filter(([count]) => count > 0)
    .map(([count, what]) => `${String(count)} ${what}`);
  return done.length > 0 ? `${done.join(', ')}: ${megabytes(bytes)}` : 'nothing was to be done';
}

/** How much room the projects of a person take; for a librarian all, and what belongs to none. */
export async function readStorage(user: SignedIn): Promise<Storage> {
  const isLibrarian = user.role === 'librarian';
  const projects = await rows.listQuotas(isLibrarian ? null : user.id);
  const [sums, made, last] = await Promise.all([
    rows.sumHoldings(
      projects.map(({ id }) => id),
      isLibrarian,
    ),
    rows.sumMade(),
    findLastResult(HOUSEKEEPING.kind),
  ]);
  const shared = isLibrarian ? [{ id: null, name: 'The whole studio', quotaBytes: null }] : [];
  return {
    projects: [...projects, ...shared].map((project) => {
      const parts = sums.filter(({ projectId }) => projectId === project.id);
      return {
        ...project,
        usedBytes: parts.reduce((sum, { bytes }) => sum + bytes, 0),
        parts: parts.map(({ kind, things, bytes }) => ({ kind, things, bytes })),
      };
    }),
    ...made,
    tidied: last && {
      at: last.endedAt.toISOString(),
      words: tidiedWords(last.result as unknown as Tidied),
    },
  };
}

/** The name under which what belongs to no project is asked for. */
const SHARED = 'studio';

/**
 * The project of which storage is asked; null for what belongs to none, which librarians see.
 * @throws AppError where the person may not see it
 */
export async function holderOf(user: SignedIn, id: string): Promise<string | null> {
  if (user.role === 'librarian') return id === SHARED ? null : id;
  if ((await listProjects(user)).some((project) => project.id === id)) return id;
  throw notFound();
}

/** What takes most room in a project, the largest first. */
export async function readHoldings(user: SignedIn, id: string): Promise<{ holdings: Holding[] }> {
  const found = await rows.listHoldings(await holderOf(user, id), MOST_HOLDINGS);
  return { holdings: found.map(({ projectId: _projectId, ...holding }) => ({ ...holding })) };
}

const notFound = (): AppError =>
  new AppError(
    'project.not-found',
    'There is no such project, or you are not in it.',
    'Go back to the list.',
    { status: 404 },
  );

/** Limits a project, or takes its limit away. What it holds already stays. */
export async function limitProject(id: string, quotaBytes: number | null): Promise<{ id: string }> {
  if (!(await rows.setQuota(id, quotaBytes))) throw notFound();
  return { id };
}

import { AppError } from '@/core/base/diagnostic';
import { findEntry, findEntryByName, listEntries, withdrawRelease } from '@/db/queries/library';
import { findMaterial, listProjects } from '@/db/queries/materials';
import type { EntryView, LibraryAnswer, PublicationRequest, ReleaseView } from '@/contract/library';
import type { SignedIn } from './authentication';
import { listReleases } from './stored';
import type { StoredRelease } from './stored';
import { enqueue } from './jobs/enqueue';
import { PUBLICATION } from './jobs/lanes';
import { STUDIO_RACK, assertMayPublish, assertMayWithdraw, projectRack } from './rights';

async function racksOf(user: SignedIn): Promise<{ id: string; name: string }[]> {
  const projects = await listProjects(user.id);
  return [
    { id: STUDIO_RACK, name: 'Studio' },
    ...projects.map((project) => ({ id: projectRack(project.id), name: project.name })),
  ];
}

/** Entries whose name, description or a tag has the query in it, on the racks the user may see. */
export async function searchLibrary(
  user: SignedIn,
  query: string,
  rack: string | null,
): Promise<LibraryAnswer> {
  const racks = await racksOf(user);
  const wanted = racks.map((each) => each.id).filter((id) => rack === null || id === rack);
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const entries = wanted.length > 0 ? await listEntries(wanted) : [];
  return {
    racks,
    entries: entries
      .filter((each) => {
        const text = [each.name, each.description, ...each.tags].join(' ').toLowerCase();
        return words.every((word) => text.includes(word));
      })
      .map(({ withdrawnAt: _, releasedAt, ...each }) => ({
        ...each,
        releasedAt: releasedAt.toISOString(),
      })),
  };
}

export async function openEntry(user: SignedIn, id: string): Promise<EntryView> {
  const [entry, racks] = await Promise.all([findEntry(id), racksOf(user)]);
  if (!entry || !racks.some((rack) => rack.id === entry.rack))
    throw new AppError(
      'entry.not-found',
      'There is no such group in the library, or it is on a rack you cannot see.',
      'Go back to the library.',
      { status: 404 },
    );
  const rackName = racks.find((rack) => rack.id === entry.rack)?.name ?? '';
  return { ...entry, rackName, releases: (await listReleases(id)).map(releaseView) };
}

const releaseView = ({
  contentHash: _,
  createdAt,
  withdrawnAt,
  ...release
}: StoredRelease): ReleaseView => ({
  ...release,
  createdAt: createdAt.toISOString(),
  withdrawnAt: withdrawnAt?.toISOString() ?? null,
});

/** Compares versions of three numbers. */
export function compareVersions(a: string, b: string): number {
  const [x, y] = [a, b].map((version) => version.split('.').map(Number)) as [number[], number[]];
  for (let k = 0; k < 3; k++) if (x[k] !== y[k]) return (x[k] ?? 0) - (y[k] ?? 0);
  return 0;
}

/** Checks rights and name, then hands the request to the workers, who repeat the proof. */
export async function startPublication(
  user: SignedIn,
  request: PublicationRequest,
): Promise<{ id: string }> {
  const projects = (await listProjects(user.id)).map((project) => project.id);
  assertMayPublish(user, request.rack, projects);
  if (!(await findMaterial(user.id, request.materialId)))
    throw new AppError(
      'material.not-found',
      'The material of this group does not exist, or is not yours to publish from.',
      '',
      { kept: 'Nothing was published.', status: 404 },
    );
  const known = await findEntryByName(request.rack, request.name);
  if (known) {
    const newest =
      (await listReleases(known.id))
        .map((release) => release.version)
        .sort(compareVersions)
        .at(-1) ?? '0.0.0';
    if (compareVersions(request.version, newest) <= 0) {
      throw new AppError(
        'release.version',
        `“${request.name}” is on this rack as ${newest}; ${request.version} is not newer.`,
        'Choose a higher version or another name.',
        { kept: 'Nothing was published.', status: 409 },
      );
    }
  }
  const title = `Publishing ${request.name} ${request.version}`;
  return { id: await enqueue(PUBLICATION, request, { title, userId: user.id }) };
}

export async function withdraw(
  user: SignedIn,
  entryId: string,
  version: string,
  reason: string,
): Promise<void> {
  assertMayWithdraw(user);
  await openEntry(user, entryId);
  if (!(await withdrawRelease(entryId, version, reason)))
    throw new AppError('release.not-found', `There is no release ${version} of this group.`, '', {
      kept: 'Nothing was changed.',
      status: 404,
    });
}

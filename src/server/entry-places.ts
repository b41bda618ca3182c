import { randomUUID } from 'node:crypto';
import { AppError } from '@/core/base/diagnostic';
import type { EntryArrangement } from '@/contract/shelf';
import { DOCUMENT_VERSION } from '@/core/graph/document';
import { isAlreadyThere } from '@/db/client';
import {
  changeEntry,
  decide,
  findNewest,
  insertRelease,
  listProposed,
  withdrawRelease,
} from '@/db/queries/library';
import type { EntryChange } from '@/db/queries/library';
import { listProjects } from '@/db/queries/materials';
import type { SignedIn } from './authentication';
import { racksOf, readEntry, readRelease } from './library';
import { findPicture } from './pictures';
import { assertEntryNameFree, nameTaken, overtaken } from './publication';
import { assertMayPublish, assertMayWithdraw, mayEdit } from './rights';
import { assertName, assertNewName, readRules } from './rules';
import { reshelve } from './shelving';
import { findRelease } from './stored';

const UNCHANGED = 'Nothing was changed.';

async function assertMayPlace(user: SignedIn, rack: string): Promise<void> {
  const projects = (await listProjects(user.id)).map((project) => project.id);
  assertMayPublish(user, rack, projects, await readRules());
}

/** What goes up a rack has been measured, and can be read. @throws AppError where not */
async function assertSound(entryId: string): Promise<void> {
  const newest = await findNewest(entryId);
  const release = newest && (await findRelease(entryId, newest.version));
  const isMeasured = release && (release.proof?.identical === true || release.comparison !== null);
  if (!release || release.fault !== null || !isMeasured)
    throw new AppError(
      'entry.unproved',
      release?.fault ?? 'Its newest release was neither proved nor compared.',
      release?.sourceMaterialId === ''
        ? 'It came by a file: place it in a material, and publish it from there.'
        : 'Publish it once more from its material.',
      { kept: UNCHANGED, status: 409 },
    );
}

/** Renames, describes, tags, moves, deprecates, withdraws or restores; what is left out stays. */
export async function arrangeEntry(
  user: SignedIn,
  id: string,
  given: EntryArrangement,
): Promise<{ id: string }> {
  const entry = await readEntry(user, id);
  if (!mayEdit(user, entry.authorId))
    throw new AppError(
      'rights.entry',
      'This entry is somebody else’s.',
      `Ask ${entry.authorName}, an author or a librarian.`,
      { kept: UNCHANGED, status: 403 },
    );
  const { rack, name, deprecated, withdrawn, coverHash, ...words } = given;
  if (rack !== undefined && rack !== entry.rack) {
    await assertMayPlace(user, rack);
    await assertSound(id);
  }
  if (withdrawn !== undefined) assertMayWithdrawFrom(user, entry);
  await assertNewName(entry, given, UNCHANGED);
  await assertEntryNameFree(rack ?? entry.rack, name ?? entry.name, id, UNCHANGED);
  if (coverHash && !(await findPicture(user, coverHash)))
    throw new AppError('entry.no-picture', 'That picture is not there any more.', '', {
      kept: UNCHANGED,
      status: 409,
    });
  if (deprecated?.successorId) await readEntry(user, deprecated.successorId);
  const change: EntryChange = {
    ...words,
    ...(rack === undefined ? {} : { rack }),
    ...(name === undefined ? {} : { name }),
    ...(coverHash === undefined ? {} : { coverHash }),
    ...(withdrawn === undefined ? {} : { withdrawnReason: withdrawn }),
    ...(deprecated === undefined
      ? {}
      : {
          deprecatedReason: deprecated?.reason ?? null,
          successorId: deprecated?.successorId ?? null,
        }),
  };
  try {
    await changeEntry(id, change);
  } catch (error) {
    if (isAlreadyThere(error)) throw nameTaken(name ?? entry.name, UNCHANGED);
    throw error;
  }
  await reshelve(id);
  return { id };
}

/** Those who published take back what is their own; from a shared rack, librarians. */
function assertMayWithdrawFrom(user: SignedIn, entry: { rack: string; authorId: string }): void {
  if (entry.rack !== 'studio' && entry.authorId === user.id) return;
  assertMayWithdraw(user);
}

/** Copies an entry with its newest release to another rack; its releases begin anew. */
export async function copyEntry(
  user: SignedIn,
  id: string,
  { rack, name }: { readonly rack: string; readonly name: string },
): Promise<{ id: string }> {
  const entry = await readEntry(user, id);
  await assertMayPlace(user, rack);
  await assertSound(id);
  await assertName(rack, name, 'Nothing was copied.');
  await assertEntryNameFree(rack, name, '', 'Nothing was copied.');
  const newest = await findNewest(id);
  const release = newest && (await findRelease(id, newest.version));
  if (!release) throw new AppError('release.not-found', 'It has no release.', '', { status: 404 });
  const copy = randomUUID();
  const { description, tags } = entry;
  await insertRelease(
    { id: copy, rack, name, description, tags, authorId: user.id },
    {
      entryId: copy,
      groups: release.groups,
      documentVersion: DOCUMENT_VERSION,
      contentHash: release.contentHash,
      sourceMaterialId: release.sourceMaterialId,
      sourceRevision: release.sourceRevision,
      proof: release.proof,
      comparison: release.comparison,
      notes: `Copied from ${entry.name} ${release.version} of the ${entry.rackName} rack.`,
      swatchHash: release.swatchHash,
      authorId: user.id,
    },
    () => '1.0.0',
  );
  await reshelve(copy);
  return { id: copy };
}

/** Takes a release off its rack; who uses it keeps it, and is told. */
export async function withdraw(
  user: SignedIn,
  entryId: string,
  version: string,
  reason: string,
): Promise<void> {
  assertMayWithdraw(user);
  await readRelease(user, entryId, version);
  if (!(await withdrawRelease(entryId, version, reason)))
    throw new AppError('release.not-found', `There is no release ${version} of this group.`, '', {
      kept: UNCHANGED,
      status: 404,
    });
  await reshelve(entryId);
}

/** Releases that wait for a librarian on the racks the person sees. */
export async function listProposals(user: SignedIn) {
  const racks = await racksOf(user);
  const rows = await listProposed(racks.map(({ id }) => id));
  return {
    proposals: rows.map(({ rack, ...row }) => ({
      ...row,
      rackName: racks.find(({ id }) => id === rack)?.name ?? '',
    })),
  };
}

interface Decision {
  readonly version: string;
  readonly isAccepted: boolean;
  readonly remarks: readonly { readonly place: string; readonly text: string }[];
}

/** Accepts a proposed release or sends it back; the remarks stay with it. */
export async function decideRelease(
  user: SignedIn,
  entryId: string,
  { version, isAccepted, remarks }: Decision,
): Promise<{ version: string }> {
  const entry = await readEntry(user, entryId);
  const release = await readRelease(user, entryId, version);
  const newest = await findNewest(entryId);
  if (isAccepted && newest && newest.version !== release.baseVersion)
    throw overtaken(entry.name, newest.version);
  const at = new Date().toISOString();
  const said = remarks.map((remark) => ({ ...remark, author: user.name, at }));
  const isDecided = await decide(entryId, version, {
    state: isAccepted ? 'out' : 'returned',
    remarks: [...release.remarks, ...said],
    decidedBy: user.id,
  });
  if (!isDecided)
    throw new AppError(
      'release.decided',
      'Somebody decided on this release already.',
      'Look at what they decided.',
      { kept: 'Your remarks were not added.', status: 409 },
    );
  await reshelve(entryId);
  return { version };
}

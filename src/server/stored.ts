import { AppError } from '@/core/base/diagnostic';
import { readStored, readStoredGroups, upgradeNodes } from '@/core/compile/upgrade';
import { DOCUMENT_VERSION } from '@/core/graph/limits';
import type { NetworkDocument } from '@/core/graph/document';
import type { ReleasedGroups } from '@/core/releases/release-groups';
import { findRelease as readRelease } from '@/db/queries/library';
import { findRevision as readRevision } from '@/db/queries/materials';

type RevisionRow = NonNullable<Awaited<ReturnType<typeof readRevision>>>;
/** A saved state with its document as this release reads it. */
export type StoredRevision = Omit<RevisionRow, 'document'> & { readonly document: NetworkDocument };

/**
 * A revision of a material, brought to this release; undefined where there is none.
 * @throws AppError with the findings where a newer release wrote it, or it is damaged
 */
export async function findRevision(
  materialId: string,
  number: number,
): Promise<StoredRevision | undefined> {
  const row = await readRevision(materialId, number);
  if (!row) return undefined;
  // One of the present version was checked in full when it was saved: doing so again, on the thread
  // that answers, would hold everybody up for a tenth of a second with a large network.
  if (row.document.version === DOCUMENT_VERSION)
    return { ...row, document: upgradeNodes(row.document) };
  const { document, diagnostics } = readStored(row.document);
  if (document) return { ...row, document };
  throw new AppError(
    'document.unreadable',
    `This material cannot be read: ${diagnostics[0]?.message ?? 'it is damaged.'}`,
    'Open it with the release that saved it.',
    { status: 409, kept: 'It is kept as it was saved.', findings: diagnostics },
  );
}

type ReleaseRow = NonNullable<Awaited<ReturnType<typeof readRelease>>>;
export interface StoredRelease extends Omit<ReleaseRow, 'groups'> {
  readonly groups: ReleasedGroups;
  /** Why its groups cannot be used with this release of the program; null when they can. */
  readonly fault: string | null;
}

/** A release of an entry, validated and brought to this release; undefined where there is none. */
export async function findRelease(
  entryId: string,
  version: string,
): Promise<StoredRelease | undefined> {
  const found = await readRelease(entryId, version);
  if (!found) return undefined;
  const { groups, diagnostics } = readStoredGroups(found.groups.definitions, found.documentVersion);
  const fault = groups
    ? null
    : `This release cannot be read here: ${diagnostics[0]?.message ?? 'it is damaged.'}`;
  return { ...found, groups: { ...found.groups, definitions: groups ?? {} }, fault };
}

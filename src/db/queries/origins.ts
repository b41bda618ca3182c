import { and, eq, or } from 'drizzle-orm';
import type { NetworkDocument } from '../../core/graph/document';
import type { Executor } from '../client';
import { revision } from '../schema/index';

/**
 * Marks the revisions that a document's groups were packaged from: the proof of a group compares it
 * with its origin, so that these are never thinned out.
 */
export async function holdOrigins(tx: Executor, { groups }: NetworkDocument): Promise<void> {
  const origins = Object.values(groups).flatMap(({ origin }) => (origin ? [origin] : []));
  if (origins.length === 0) return;
  const named = origins.map(({ materialId, revision: number }) =>
    and(eq(revision.materialId, materialId), eq(revision.number, number)),
  );
  await tx
    .update(revision)
    .set({ isOrigin: true })
    .where(and(eq(revision.isOrigin, false), or(...named)));
}

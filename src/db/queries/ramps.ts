import { randomUUID } from 'node:crypto';
import { and, count, eq, ne } from 'drizzle-orm';
import type { RampValue } from '../../core/graph/document';
import { database } from '../client';
import { keptRamp } from '../schema/index';

export async function listRamps(ownerId: string) {
  return database()
    .select({ id: keptRamp.id, name: keptRamp.name, ramp: keptRamp.ramp })
    .from(keptRamp)
    .where(eq(keptRamp.ownerId, ownerId))
    .orderBy(keptRamp.name);
}

/** How many ramps of other names a person keeps. */
export async function countRamps(ownerId: string, name: string): Promise<number> {
  const [row] = await database()
    .select({ kept: count() })
    .from(keptRamp)
    .where(and(eq(keptRamp.ownerId, ownerId), ne(keptRamp.name, name)));
  return row?.kept ?? 0;
}

/** Keeps a ramp under a name, in place of the one that had it. @returns its id */
export async function keepRamp(ownerId: string, name: string, ramp: RampValue): Promise<string> {
  const [row] = await database()
    .insert(keptRamp)
    .values({ id: randomUUID(), ownerId, name, ramp })
    .onConflictDoUpdate({ target: [keptRamp.ownerId, keptRamp.name], set: { ramp } })
    .returning({ id: keptRamp.id });
  return row?.id ?? '';
}

/** @returns whether the person kept it */
export async function forgetRamp(ownerId: string, id: string): Promise<boolean> {
  const gone = await database()
    .delete(keptRamp)
    .where(and(eq(keptRamp.ownerId, ownerId), eq(keptRamp.id, id)))
    .returning({ id: keptRamp.id });
  return gone.length > 0;
}

import { sql } from 'drizzle-orm';
import { transaction } from '../client';

/**
 * Does something while nobody else does anything under the same name, in whichever process. What it
 * writes is written by itself: the turn is no transaction around it.
 */
export const inTurn = <T>(name: string, work: () => Promise<T>): Promise<T> =>
  transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${name}, 0))`);
    return work();
  });

import { sql } from 'drizzle-orm';
import { transaction } from '../client';

/** The turn before, in this process. */
let before: Promise<unknown> = Promise.resolve();

/**
 * Does something while nobody else does anything under the same name, in whichever process. What it
 * writes is written by itself: the turn is no transaction around it. A process takes one turn at a
 * time: each holds a connection while its work needs others.
 */
export function inTurn<T>(name: string, work: () => Promise<T>): Promise<T> {
  const take = (): Promise<T> =>
    transaction(async (tx) => {
      await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${name}, 0))`);
      return work();
    });
  const turn = before.then(take, take);
  before = turn.catch(() => undefined);
  return turn;
}

import { and, count, eq, gt, lt, sql } from 'drizzle-orm';
import { database } from '../client';
import { session, signInAttempt, user } from '../schema/index';

export interface Attempt {
  /** The e-mail address given, in lower case. */
  readonly account: string;
  readonly address: string;
}
export interface AttemptCounts {
  readonly id: number;
  /** Whether the account was signed in from this address before. */
  readonly isKnown: boolean;
  /** Within the window, this one included. */
  readonly ofAccount: number;
  readonly ofAddress: number;
}

/** Whether somebody signed in to the account from the address before. */
async function isKnownAddress({ account, address }: Attempt): Promise<boolean> {
  const rows = await database()
    .select({ id: session.id })
    .from(session)
    .innerJoin(user, eq(user.id, session.userId))
    .where(and(eq(user.email, account), eq(session.ipAddress, address)))
    .limit(1);
  return rows.length > 0;
}

const since = (seconds: number) => sql`now() - make_interval(secs => ${seconds})`;

/**
 * Notes an attempt before its password is looked at, so that many at once count too. Attempts from
 * an address the account is known to use count by themselves: a stranger who guesses does not lock
 * its owner out.
 */
export async function noteAttempt(attempt: Attempt, windowSeconds: number): Promise<AttemptCounts> {
  const isKnown = await isKnownAddress(attempt);
  const [row] = await database()
    .insert(signInAttempt)
    .values({ ...attempt, isKnown })
    .returning({ id: signInAttempt.id });
  const isRecent = gt(signInAttempt.at, since(windowSeconds));
  const sameAddress = eq(signInAttempt.address, attempt.address);
  const [[ofAccount], [ofAddress]] = await Promise.all([
    database()
      .select({ n: count() })
      .from(signInAttempt)
      .where(
        and(
          eq(signInAttempt.account, attempt.account),
          eq(signInAttempt.isKnown, isKnown),
          isKnown ? sameAddress : undefined,
          isRecent,
        ),
      ),
    database().select({ n: count() }).from(signInAttempt).where(and(sameAddress, isRecent)),
  ]);
  return { id: row?.id ?? 0, isKnown, ofAccount: ofAccount?.n ?? 0, ofAddress: ofAddress?.n ?? 0 };
}

/** The password was right: the attempt counts no more. */
export async function forgetAttempt(id: number): Promise<void> {
  await database().delete(signInAttempt).where(eq(signInAttempt.id, id));
}

export async function forgetOldAttempts(seconds: number): Promise<void> {
  await database()
    .delete(signInAttempt)
    .where(lt(signInAttempt.at, since(seconds)));
}

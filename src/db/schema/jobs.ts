import { sql } from 'drizzle-orm';
import {
  bigserial,
  boolean,
  index,
  integer,
  jsonb,
  pgTable,
  real,
  text,
  uniqueIndex,
} from 'drizzle-orm/pg-core';
import type { JobState } from '../../contract/jobs';
import type { Problem } from '../../core/base/problem';
import { user } from './accounts';
import { moment } from './columns';

/** Work in the background: what was asked, how far it has come and how it ended. */
export const job = pgTable(
  'job',
  {
    id: text('id').primaryKey(),
    kind: text('kind').notNull(),
    title: text('title').notNull(),
    /** Who asked for it; null for what the studio does by itself. */
    userId: text('user_id').references(() => user.id, { onDelete: 'set null' }),
    /**
     * Of several equal requests that wait, the first serves all; null for work that is always done.
     */
    key: text('key'),
    /** What is to be done; the kind states its form. */
    request: jsonb('request').$type<unknown>().notNull(),
    state: text('state').$type<JobState>().notNull(),
    /** From 0 to 1. */
    progress: real('progress').notNull().default(0),
    step: text('step').notNull().default(''),
    reason: jsonb('reason').$type<Problem>(),
    result: jsonb('result').$type<Readonly<Record<string, unknown>>>(),
    tries: integer('tries').notNull().default(0),
    /** The worker process that runs it. */
    workerId: text('worker_id'),
    /** Its number in the queue. */
    queueId: text('queue_id'),
    createdAt: moment('created_at').notNull().defaultNow(),
    startedAt: moment('started_at'),
    endedAt: moment('ended_at'),
  },
  (table) => [
    index('job_user').on(table.userId, table.createdAt),
    index('job_state').on(table.state),
    uniqueIndex('job_waiting')
      .on(table.kind, table.key)
      .where(sql`${table.state} = 'waiting'`),
  ],
);

/** Worker processes, and when each was last heard of. */
export const worker = pgTable('worker', {
  id: text('id').primaryKey(),
  startedAt: moment('started_at').notNull().defaultNow(),
  seenAt: moment('seen_at').notNull().defaultNow(),
});

/** Attempts to sign in that did not succeed (or have not yet), for slowing down guesses. */
export const signInAttempt = pgTable(
  'sign_in_attempt',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    /** The e-mail address given, in lower case, whether there is such an account or not. */
    account: text('account').notNull(),
    address: text('address').notNull(),
    /** Whether the account was signed in from this address before. */
    isKnown: boolean('is_known').notNull(),
    at: moment('at').notNull().defaultNow(),
  },
  (table) => [
    index('sign_in_attempt_account').on(table.account, table.at),
    index('sign_in_attempt_address').on(table.address, table.at),
  ],
);

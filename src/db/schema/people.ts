import { integer, jsonb, pgTable, text } from 'drizzle-orm/pg-core';
import { user } from './accounts';
import { created, moment } from './columns';

/**
 * A link that lets somebody into the studio, or set a new password; only what its secret hashes to
 * is kept.
 */
export const invitation = pgTable('invitation', {
  id: text('id').primaryKey(),
  /** SHA-256 of the secret in the link. */
  secretHash: text('secret_hash').notNull().unique(),
  email: text('email').notNull(),
  name: text('name').notNull(),
  role: text('role').notNull(),
  projects: jsonb('projects').$type<readonly string[]>().notNull(),
  /** Whose password it sets; null for somebody new. */
  userId: text('user_id').references(() => user.id, { onDelete: 'cascade' }),
  createdAt: created(),
  expiresAt: moment('expires_at').notNull(),
  usedAt: moment('used_at'),
});

/** What was done to people and rules; never changed, only added to. */
export const deed = pgTable('deed', {
  id: integer('id').primaryKey().generatedAlwaysAsIdentity(),
  createdAt: created(),
  /** Names as they were then: people may be called something else later. */
  actor: text('actor').notNull(),
  what: text('what').notNull(),
  about: text('about').notNull(),
});

/** Rules of the studio, by name. */
export const rule = pgTable('rule', {
  name: text('name').primaryKey(),
  value: jsonb('value').notNull(),
  updatedAt: moment('updated_at').notNull().defaultNow(),
});

import { sql } from 'drizzle-orm';
import { index, jsonb, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core';
import type { PresetKind, PresetValue } from '../../core/presets/kinds';
import { user } from './accounts';
import { created, moment, tsvector } from './columns';
import { entry } from './library';
import { blob } from './studio';

/** A ramp, palette, curve, variant or starter on a rack; materials take its value and keep it. */
export const preset = pgTable(
  'preset',
  {
    id: text('id').primaryKey(),
    kind: text('kind').$type<PresetKind>().notNull(),
    /** As that of an entry. */
    rack: text('rack').notNull(),
    name: text('name').notNull(),
    description: text('description').notNull().default(''),
    tags: jsonb('tags').$type<readonly string[]>().notNull().default([]),
    value: jsonb('value').$type<PresetValue>().notNull(),
    /** Of a variant: the entry whose dials it sets. */
    entryId: text('entry_id').references(() => entry.id, { onDelete: 'cascade' }),
    swatchHash: text('swatch_hash').references(() => blob.hash),
    authorId: text('author_id')
      .notNull()
      .references(() => user.id),
    createdAt: created(),
    updatedAt: moment('updated_at').notNull().defaultNow(),
    /** Name, tags and description, as they are searched. */
    words: tsvector('words')
      .notNull()
      .default(sql`''`),
  },
  (table) => [
    uniqueIndex('preset_name').on(table.rack, table.kind, table.name),
    index('preset_words').using('gin', table.words),
    index('preset_entry').on(table.entryId),
    index('preset_swatch').on(table.swatchHash),
  ],
);

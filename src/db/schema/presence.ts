import { index, integer, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { user } from './accounts';
import { moment } from './columns';
import { material } from './studio';

/** Who has a material open, and since when nothing was heard of them. */
export const presence = pgTable(
  'presence',
  {
    materialId: text('material_id')
      .notNull()
      .references(() => material.id, { onDelete: 'cascade' }),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    revision: integer('revision').notNull(),
    seenAt: moment('seen_at').notNull().defaultNow(),
  },
  (table) => [
    primaryKey({ columns: [table.materialId, table.userId] }),
    index('presence_seen').on(table.seenAt),
  ],
);

import { foreignKey, index, integer, jsonb, pgTable, real, text } from 'drizzle-orm/pg-core';
import type { Camera } from '../../core/evaluate/camera';
import { user } from './accounts';
import { created } from './columns';
import { blob, material, model, revision } from './studio';

/** A kept moment of a material; where it is a director's round, with an amount. */
export const keptState = pgTable(
  'kept_state',
  {
    id: text('id').primaryKey(),
    materialId: text('material_id')
      .notNull()
      .references(() => material.id, { onDelete: 'cascade' }),
    /** The revision that holds its document. */
    revision: integer('revision').notNull(),
    modelId: text('model_id')
      .notNull()
      .references(() => model.id),
    camera: jsonb('camera').$type<Camera>().notNull(),
    name: text('name').notNull(),
    note: text('note').notNull(),
    /** What a director spoke of, in words; null for a state that is no round. */
    about: text('about'),
    /** The amount that was set, 1 for all; null where the round set none. */
    amount: real('amount'),
    authorId: text('author_id')
      .notNull()
      .references(() => user.id),
    pictureHash: text('picture_hash').references(() => blob.hash),
    createdAt: created(),
  },
  (table) => [
    index('kept_state_material').on(table.materialId, table.createdAt),
    index('kept_state_picture').on(table.pictureHash),
    foreignKey({
      name: 'kept_state_revision',
      columns: [table.materialId, table.revision],
      foreignColumns: [revision.materialId, revision.number],
    }),
  ],
);

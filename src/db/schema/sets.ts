import { index, pgTable, primaryKey, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { created } from './columns';
import { material, project } from './studio';

/** Materials of a project that belong together; one may be in several sets. */
export const materialSet = pgTable(
  'material_set',
  {
    id: text('id').primaryKey(),
    projectId: text('project_id')
      .notNull()
      .references(() => project.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    createdAt: created(),
  },
  (table) => [uniqueIndex('material_set_name').on(table.projectId, table.name)],
);

export const materialSetMember = pgTable(
  'material_set_member',
  {
    setId: text('set_id')
      .notNull()
      .references(() => materialSet.id, { onDelete: 'cascade' }),
    materialId: text('material_id')
      .notNull()
      .references(() => material.id, { onDelete: 'cascade' }),
  },
  (table) => [
    primaryKey({ columns: [table.setId, table.materialId] }),
    index('material_set_member_material').on(table.materialId),
  ],
);

import {
  bigint,
  boolean,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
} from 'drizzle-orm/pg-core';
import type { NetworkDocument } from '../../core/graph/document';
import type { ModelPreparation } from '../../core/exchange/prepare';
import { user } from './accounts';
import { bytea, created, moment } from './columns';

export const project = pgTable('project', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  /** Most bytes that people may bring into it; null where nobody set a limit. */
  quotaBytes: bigint('quota_bytes', { mode: 'number' }),
  createdAt: created(),
});

export const projectMember = pgTable(
  'project_member',
  {
    projectId: text('project_id')
      .notNull()
      .references(() => project.id, { onDelete: 'cascade' }),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
  },
  (table) => [primaryKey({ columns: [table.projectId, table.userId] })],
);

/** Files by the SHA-256 of their bytes. */
export const blob = pgTable('blob', {
  hash: text('hash').primaryKey(),
  mediaType: text('media_type').notNull(),
  bytes: bytea('bytes').notNull(),
  /** When it was stored last: storing it again renews it. */
  createdAt: created(),
});

/**
 * An image that networks may name by the hash of its file; seen by everyone in the studio, as
 * groups that use it travel through the library.
 */
export const image = pgTable('image', {
  hash: text('hash')
    .primaryKey()
    .references(() => blob.hash),
  name: text('name').notNull(),
  ownerId: text('owner_id')
    .notNull()
    .references(() => user.id),
  /** The project whose room it takes: that of the material it was brought into first. */
  projectId: text('project_id').references(() => project.id, { onDelete: 'set null' }),
  createdAt: created(),
});

/** A model; without a project it belongs to everybody (the demo models). */
export const model = pgTable('model', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  projectId: text('project_id').references(() => project.id, { onDelete: 'cascade' }),
  blobHash: text('blob_hash')
    .notNull()
    .references(() => blob.hash),
  /** The file before the present one took its place. */
  formerBlobHash: text('former_blob_hash').references(() => blob.hash),
  /** What is corrected in it each time it is read; the file stays as it came. */
  preparation: jsonb('preparation').$type<ModelPreparation>().notNull().default({}),
  ownerId: text('owner_id').references(() => user.id),
  createdAt: created(),
  /** Set while it is put away: it stands in no list, but what uses it goes on. */
  archivedAt: moment('archived_at'),
});

/**
 * Mesh maps that were measured once for everyone: by the model's content and corrections, the map's
 * settings and side.
 */
export const meshMap = pgTable(
  'mesh_map',
  {
    modelKey: text('model_key').notNull(),
    mapKey: text('map_key').notNull(),
    size: integer('size').notNull(),
    bytes: bytea('bytes').notNull(),
    createdAt: created(),
  },
  (table) => [primaryKey({ columns: [table.modelKey, table.mapKey, table.size] })],
);

export const material = pgTable(
  'material',
  {
    id: text('id').primaryKey(),
    projectId: text('project_id')
      .notNull()
      .references(() => project.id, { onDelete: 'cascade' }),
    ownerId: text('owner_id')
      .notNull()
      .references(() => user.id),
    name: text('name').notNull(),
    modelId: text('model_id')
      .notNull()
      .references(() => model.id),
    /** The newest revision; saving names the one it started from. */
    head: integer('head').notNull(),
    swatchHash: text('swatch_hash').references(() => blob.hash),
    createdAt: created(),
    updatedAt: moment('updated_at').notNull().defaultNow(),
    /** Set while it is put away; nothing of it is lost. */
    archivedAt: moment('archived_at'),
  },
  (table) => [
    index('material_project').on(table.projectId),
    index('material_swatch').on(table.swatchHash),
  ],
);

/**
 * Every saved state of a material; never changed. Pauses of long ago are thinned out; what is
 * named, published or taken stays.
 */
export const revision = pgTable(
  'revision',
  {
    materialId: text('material_id')
      .notNull()
      .references(() => material.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    document: jsonb('document').$type<NetworkDocument>().notNull(),
    contentHash: text('content_hash').notNull(),
    authorId: text('author_id')
      .notNull()
      .references(() => user.id),
    createdAt: created(),
    /** Whether a group was packaged from it: what proves the group needs it. */
    isOrigin: boolean('is_origin').notNull().default(false),
  },
  (table) => [primaryKey({ columns: [table.materialId, table.number] })],
);

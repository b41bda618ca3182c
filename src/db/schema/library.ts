import { sql } from 'drizzle-orm';
import {
  boolean,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  real,
  text,
  uniqueIndex,
} from 'drizzle-orm/pg-core';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import type { LostSetting } from '../../core/releases/take-release';
import type { ProofSheet } from '../../core/evaluate/proof-sheet';
import type { Proof } from '../../core/evaluate/proof';
import type { ReleaseComparison } from '../../core/releases/release-class';
import type { ReleasedGroups } from '../../core/releases/release-groups';
import type { ReleaseClass } from '../../core/releases/versions';
import { user } from './accounts';
import { created, moment, tsvector } from './columns';
import { blob, material } from './studio';

/** A group in the library. `rack` is `studio`, `project:<id>` or `person:<id>`. */
export const entry = pgTable(
  'entry',
  {
    id: text('id').primaryKey(),
    rack: text('rack').notNull(),
    name: text('name').notNull(),
    description: text('description').notNull(),
    tags: jsonb('tags').$type<readonly string[]>().notNull(),
    authorId: text('author_id')
      .notNull()
      .references(() => user.id),
    createdAt: created(),
    /** A picture that was chosen; else the newest release's own. */
    coverHash: text('cover_hash').references(() => blob.hash),
    /** Set when something better is to be used: why, and what. */
    deprecatedReason: text('deprecated_reason'),
    successorId: text('successor_id').references((): AnyPgColumn => entry.id, {
      onDelete: 'set null',
    }),
    /** Set while it is taken off its rack; who uses it keeps it. */
    withdrawnReason: text('withdrawn_reason'),
    /** Of its newest release that is out; null while there is none. These follow the releases. */
    version: text('version'),
    swatchHash: text('swatch_hash').references(() => blob.hash),
    releasedAt: moment('released_at'),
    /** What it is asked for by: `gives:scalar`, `needs:images`, `tag:edges` and so on. */
    facets: text('facets')
      .array()
      .notNull()
      .default(sql`'{}'`),
    /** The words it is found by, weighted. */
    words: tsvector('words')
      .notNull()
      .default(sql`''`),
    /** The first letter and the first two of each word: a short beginning is one look-up. */
    beginnings: text('beginnings')
      .array()
      .generatedAlwaysAs(sql`word_beginnings(words)`),
    /** Name and tags in lower case, for what is misspelt. */
    letters: text('letters').notNull().default(''),
    /** How many materials use it. */
    uses: integer('uses').notNull().default(0),
    /** Whether it is among the most used ones, which are searched first. */
    isFront: boolean('is_front').notNull().default(true),
  },
  (table) => [
    uniqueIndex('entry_rack_name').on(table.rack, table.name),
    // Words and facets in one: rare words then spare reading what many entries have.
    index('entry_search').using('gin', table.words, table.facets, table.beginnings),
    index('entry_front')
      .using('gin', table.words, table.facets, table.beginnings)
      .where(sql`${table.isFront}`),
    index('entry_titles').using('gin', sql`ts_filter(${table.words}, '{a}')`),
    index('entry_letters').using('gin', table.letters.op('gin_trgm_ops')),
    index('entry_uses').on(table.uses.desc(), table.id),
    index('entry_released').on(table.releasedAt.desc().nullsLast(), table.id),
    index('entry_name').on(table.name, table.id),
    index('entry_cover').on(table.coverHash),
    index('entry_successor').on(table.successorId),
  ],
);

/** How far a release has come: waiting for a librarian, on its rack, or sent back. */
export const RELEASE_STATES = ['proposed', 'out', 'returned'] as const;
export type ReleaseState = (typeof RELEASE_STATES)[number];

/** What a librarian says of a proposed release, at a place of it. */
export interface Remark {
  readonly place: string;
  readonly text: string;
  readonly author: string;
  /** ISO 8601. */
  readonly at: string;
}

/** A state of an entry; of one that is out only `withdrawn`, its sheet and remarks ever change. */
export const release = pgTable(
  'release',
  {
    entryId: text('entry_id')
      .notNull()
      .references(() => entry.id, { onDelete: 'cascade' }),
    version: text('version').notNull(),
    /** The group with the groups it uses: `root` names the one published. */
    groups: jsonb('groups').$type<ReleasedGroups>().notNull(),
    /** Of the document the groups were published from. */
    documentVersion: integer('document_version').notNull().default(1),
    contentHash: text('content_hash').notNull(),
    sourceMaterialId: text('source_material_id').notNull(),
    sourceRevision: integer('source_revision').notNull(),
    /** The measured check against the network it was packaged from; none of later releases. */
    proof: jsonb('proof').$type<Proof>(),
    swatchHash: text('swatch_hash')
      .notNull()
      .references(() => blob.hash),
    /** Its proof sheet, once it is made: all pictures as one, and what they show. */
    sheet: jsonb('sheet').$type<ProofSheet>(),
    sheetHash: text('sheet_hash').references(() => blob.hash),
    authorId: text('author_id')
      .notNull()
      .references(() => user.id),
    withdrawnAt: moment('withdrawn_at'),
    withdrawnReason: text('withdrawn_reason'),
    createdAt: created(),
    state: text('state').$type<ReleaseState>().notNull().default('out'),
    releaseClass: text('class').$type<ReleaseClass>().notNull().default('first'),
    /** The release it was compared with, and what came of it. */
    baseVersion: text('base_version'),
    comparison: jsonb('comparison').$type<ReleaseComparison>(),
    /** What is new, in words. */
    notes: text('notes').notNull().default(''),
    remarks: jsonb('remarks').$type<readonly Remark[]>().notNull().default([]),
    decidedBy: text('decided_by').references(() => user.id),
    decidedAt: moment('decided_at'),
  },
  (table) => [
    primaryKey({ columns: [table.entryId, table.version] }),
    index('release_swatch').on(table.swatchHash),
    index('release_sheet').on(table.sheetHash),
    // One proposal of an entry at a time: the second author is told of the first.
    uniqueIndex('release_proposed')
      .on(table.entryId)
      .where(sql`${table.state} = 'proposed'`),
  ],
);

/** Which releases the newest revision of a material uses. */
export const entryUse = pgTable(
  'entry_use',
  {
    materialId: text('material_id')
      .notNull()
      .references(() => material.id, { onDelete: 'cascade' }),
    entryId: text('entry_id').notNull(),
    version: text('version').notNull(),
    /** Why it stays at that release. */
    pinned: text('pinned'),
  },
  (table) => [
    primaryKey({ columns: [table.materialId, table.entryId, table.version] }),
    index('entry_use_entry').on(table.entryId),
  ],
);

/** Of a material and an entry: how the release in use was taken, so that it can be put back. */
export const taking = pgTable(
  'taking',
  {
    materialId: text('material_id')
      .notNull()
      .references(() => material.id, { onDelete: 'cascade' }),
    entryId: text('entry_id').notNull(),
    /** The revision that took it. */
    revision: integer('revision').notNull(),
    fromVersion: text('from_version').notNull(),
    toVersion: text('to_version').notNull(),
    lost: jsonb('lost').$type<readonly LostSetting[]>().notNull(),
    userId: text('user_id')
      .notNull()
      .references(() => user.id),
    createdAt: created(),
  },
  (table) => [primaryKey({ columns: [table.materialId, table.entryId, table.revision] })],
);

/** What a change of an entry would do to the materials that use it. */
export const outlook = pgTable('outlook', {
  id: text('id').primaryKey(),
  entryId: text('entry_id')
    .notNull()
    .references(() => entry.id, { onDelete: 'cascade' }),
  /** The release that is looked at; null for one that is not published yet. */
  version: text('version'),
  groups: jsonb('groups').$type<ReleasedGroups>().notNull(),
  userId: text('user_id')
    .notNull()
    .references(() => user.id),
  /** Materials that the person may not see. */
  hidden: integer('hidden').notNull().default(0),
  createdAt: created(),
});

/** One change that makes a material look different, with its share of the difference. */
export interface ShownChange {
  readonly kind: string;
  readonly place: string;
  readonly what: string;
  readonly before: string;
  readonly after: string;
  readonly share: number | null;
}

/** What a change of an entry does to one material, once it is looked at. */
export const consequence = pgTable(
  'consequence',
  {
    outlookId: text('outlook_id')
      .notNull()
      .references(() => outlook.id, { onDelete: 'cascade' }),
    materialId: text('material_id')
      .notNull()
      .references(() => material.id, { onDelete: 'cascade' }),
    state: text('state').$type<'waiting' | 'done' | 'failed'>().notNull().default('waiting'),
    revision: integer('revision'),
    fromVersion: text('from_version'),
    /** Of the picture's pixels that change, 0–1; and by how much in the mean. */
    share: real('share'),
    mean: real('mean'),
    beforeHash: text('before_hash').references(() => blob.hash),
    afterHash: text('after_hash').references(() => blob.hash),
    changes: jsonb('changes').$type<readonly ShownChange[]>(),
    lost: jsonb('lost').$type<readonly LostSetting[]>(),
    /** Why it could not be looked at. */
    reason: text('reason'),
  },
  (table) => [
    primaryKey({ columns: [table.outlookId, table.materialId] }),
    index('consequence_before').on(table.beforeHash),
    index('consequence_after').on(table.afterHash),
  ],
);

import { groupDefinition } from '@/core/graph/document-shape';
import type { GroupDefinition } from '@/core/graph/document';
import type { ProofSheet } from '@/core/evaluate/proof-sheet';
import type { Proof } from '@/core/evaluate/proof';
import Joi from 'joi';
import {
  identifier,
  list,
  matching,
  moment,
  nullable,
  object,
  optional,
  record,
  sha256,
  text,
  trimmed,
  whole,
} from './forms';
import type { TypeOf } from './forms';
import { answers, defineRoute, json } from './route';

const versionForm = matching(/^\d{1,4}\.\d{1,4}\.\d{1,4}$/, 14);
const rackForm = matching(/^(studio|project:[A-Za-z0-9_-]+)$/, 100);
export const proofForm = object<Proof>();
const one = record({ id: identifier });

export const entrySummaryForm = record({
  id: identifier,
  rack: rackForm,
  name: text(80),
  description: text(2000),
  tags: list(text(40), 20),
  authorName: text(200),
  version: versionForm,
  swatchHash: sha256,
  releasedAt: moment,
});
export type EntrySummary = TypeOf<typeof entrySummaryForm>;
const searchForm = record({
  racks: list(record({ id: rackForm, name: text(200) }), 10000),
  entries: list(entrySummaryForm, 100000),
});
export type LibraryAnswer = TypeOf<typeof searchForm>;

const groupsForm = record({
  root: identifier,
  definitions: object<Readonly<Record<string, GroupDefinition>>>(
    Joi.object().pattern(Joi.string(), groupDefinition.joi),
  ),
});
export const releaseForm = record({
  /** Why it cannot be used with this release of the program; its groups are then empty. */
  fault: nullable(text(4000)),
  version: versionForm,
  groups: groupsForm,
  proof: proofForm,
  swatchHash: sha256,
  /** Its proof sheet; null until it is made, or where there is none. */
  sheet: nullable(object<ProofSheet>()),
  sheetHash: nullable(sha256),
  authorName: text(200),
  createdAt: moment,
  withdrawnAt: nullable(moment),
  withdrawnReason: nullable(text(500)),
});
export type ReleaseView = TypeOf<typeof releaseForm>;
export const entryForm = record({
  id: identifier,
  rack: rackForm,
  rackName: text(200),
  name: text(80),
  description: text(2000),
  tags: list(text(40), 20),
  authorName: text(200),
  releases: list(releaseForm, 10000),
});
export type EntryView = TypeOf<typeof entryForm>;

/** Entries whose name, description or a tag has the query in it, on the racks one may see. */
export const searchLibrary = defineRoute('GET', '/api/library', {
  who: { audience: 'signed-in' },
  query: record({ query: optional(text(200)), rack: optional(rackForm) }),
  answer: answers(searchForm),
});

/** One group of the library with all its releases. */
export const openEntry = defineRoute('GET', '/api/library/:id', {
  who: { audience: 'readers' },
  params: one,
  answer: answers(entryForm),
});

export const publicationForm = record({
  materialId: identifier,
  revision: whole(1),
  groupId: identifier,
  rack: rackForm,
  version: versionForm,
  name: trimmed(80, 2),
  description: text(2000),
  tags: list(trimmed(40, 1), 20),
});
export type PublicationRequest = TypeOf<typeof publicationForm>;
/** Asks for a group to be published; the answer names the job that does it. */
export const publishGroup = defineRoute('POST', '/api/library', {
  who: { audience: 'members' },
  body: json(publicationForm),
  answer: answers(record({ id: identifier })),
  status: 202,
});

/** Which release a proof sheet is made for, and where its group stands. */
export const sheetRequestForm = record({
  entryId: identifier,
  version: versionForm,
  materialId: identifier,
  revision: whole(1),
  groupId: identifier,
});
export type SheetRequest = TypeOf<typeof sheetRequestForm>;

export const withdrawalForm = record({ version: versionForm, reason: trimmed(500, 3) });
/** Takes a release off the rack; who uses it keeps it. */
export const withdrawRelease = defineRoute('POST', '/api/library/:id/withdraw', {
  who: { audience: 'readers', roles: ['librarian'] },
  params: one,
  body: json(withdrawalForm),
  answer: answers(record({ withdrawn: versionForm })),
});

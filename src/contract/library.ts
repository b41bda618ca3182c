import { groupDefinition } from '@/core/graph/document-shape';
import type { GroupDefinition } from '@/core/graph/document';
import type { ProofSheet } from '@/core/evaluate/proof-sheet';
import type { Proof } from '@/core/evaluate/proof';
import type { ReleaseComparison } from '@/core/releases/release-class';
import { RELEASE_CLASSES } from '@/core/releases/versions';
import Joi from 'joi';
import {
  flag,
  identifier,
  list,
  matching,
  moment,
  nullable,
  object,
  oneOf,
  optional,
  record,
  sha256,
  text,
  trimmed,
  whole,
} from './forms';
import type { TypeOf } from './forms';
import { answers, defineRoute, json } from './route';

export const versionForm = matching(/^\d{1,4}\.\d{1,4}\.\d{1,4}$/, 14);
export const rackForm = matching(/^(studio|project:[A-Za-z0-9_-]+|person:[A-Za-z0-9_-]+)$/, 100);
export const proofForm = object<Proof>();
export const classForm = oneOf(...RELEASE_CLASSES);
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
  /** How many materials use it. */
  uses: whole(0),
  /** Why something else is to be used instead. */
  deprecatedReason: nullable(text(500)),
});
export type EntrySummary = TypeOf<typeof entrySummaryForm>;
const rackView = record({ id: rackForm, name: text(200) });
const searchForm = record({
  racks: list(rackView, 10000),
  entries: list(entrySummaryForm, 100),
  /** Whether there are more after these. */
  hasMore: flag,
  /** Nothing has these words; what is shown is spelt alike. */
  isGuess: flag,
});
export type LibraryAnswer = TypeOf<typeof searchForm>;

/** How entries may be ordered: by how well they match, by use, newest first, by name. */
export const SORTS = ['match', 'use', 'date', 'name'] as const;
export type Sort = (typeof SORTS)[number];

const queryForm = {
  query: optional(text(200)),
  rack: optional(rackForm),
  /** Facets an entry must all have, with commas between, such as `gives:scalar`. */
  facets: optional(text(600)),
  /** Only what materials of this project use. */
  usedBy: optional(identifier),
  sort: optional(oneOf(...SORTS)),
  /** How many are passed over. */
  first: optional(matching(/^\d{1,6}$/, 6)),
};
export const libraryQueryForm = record(queryForm);
export type LibraryQuery = TypeOf<typeof libraryQueryForm>;

/** Entries that have the words and the facets, on the racks one may see; 40 at a time. */
export const searchLibrary = defineRoute('GET', '/api/library', {
  who: { audience: 'signed-in' },
  query: libraryQueryForm,
  answer: answers(searchForm),
});

/** How often each facet stands among what the same search finds, of its first thousand. */
export const countFacets = defineRoute('GET', '/api/library/facets', {
  who: { audience: 'signed-in' },
  query: libraryQueryForm,
  answer: answers(
    record({
      facets: list(record({ facet: text(200), title: text(200), count: whole(0) }), 500),
    }),
  ),
});

const groupsForm = record({
  root: identifier,
  definitions: object<Readonly<Record<string, GroupDefinition>>>(
    Joi.object().pattern(Joi.string(), groupDefinition.joi),
  ),
});
export const RELEASE_STATES = ['proposed', 'out', 'returned'] as const;
export const remarkForm = record({
  place: text(200),
  text: text(2000),
  author: text(200),
  at: moment,
});
const summaryMembers = {
  version: versionForm,
  state: oneOf(...RELEASE_STATES),
  releaseClass: classForm,
  baseVersion: nullable(versionForm),
  comparison: nullable(object<ReleaseComparison>()),
  notes: text(4000),
  remarks: list(remarkForm, 200),
  swatchHash: sha256,
  authorName: text(200),
  createdAt: moment,
  withdrawnAt: nullable(moment),
  withdrawnReason: nullable(text(500)),
};
export const releaseSummaryForm = record(summaryMembers);
export type ReleaseSummary = TypeOf<typeof releaseSummaryForm>;
export const releaseForm = record({
  ...summaryMembers,
  /** The version of the documents that a program must read to use it. */
  documentVersion: whole(1),
  /** Why it cannot be used with this release of the program; its groups are then empty. */
  fault: nullable(text(4000)),
  groups: groupsForm,
  proof: nullable(proofForm),
  /** Its proof sheet; null until it is made, or where there is none. */
  sheet: nullable(object<ProofSheet>()),
  sheetHash: nullable(sha256),
});
export type ReleaseView = TypeOf<typeof releaseForm>;

const userForm = record({
  materialId: identifier,
  name: text(200),
  projectName: text(200),
  version: versionForm,
  pinned: nullable(text(2000)),
  swatchHash: nullable(sha256),
});
export const entryForm = record({
  id: identifier,
  rack: rackForm,
  rackName: text(200),
  name: text(80),
  description: text(2000),
  tags: list(text(40), 20),
  authorName: text(200),
  coverHash: nullable(sha256),
  /** The newest release that is out; null while none is. */
  version: nullable(versionForm),
  deprecatedReason: nullable(text(500)),
  successor: nullable(record({ id: identifier, name: text(80) })),
  withdrawnReason: nullable(text(500)),
  releases: list(releaseSummaryForm, 10000),
  /** Materials that use it and that one may see, and how many others do. */
  users: list(userForm, 10000),
  hiddenUsers: whole(0),
  mayEdit: flag,
  mayReview: flag,
});
export type EntryView = TypeOf<typeof entryForm>;

/** One group of the library with what is known of its releases. */
export const openEntry = defineRoute('GET', '/api/library/:id', {
  who: { audience: 'readers' },
  params: one,
  answer: answers(entryForm),
});

/** One release with its groups, its proof and its sheet. */
export const openRelease = defineRoute('GET', '/api/library/:id/releases/:version', {
  who: { audience: 'readers' },
  params: record({ id: identifier, version: versionForm }),
  answer: answers(releaseForm),
});

/** Where a group stands that is looked at before it is published. */
export const candidateForm = record({
  materialId: identifier,
  revision: whole(1),
  groupId: identifier,
});
export type Candidate = TypeOf<typeof candidateForm>;

export const publicationForm = record({
  materialId: identifier,
  revision: whole(1),
  groupId: identifier,
  rack: rackForm,
  name: trimmed(80, 2),
  description: text(2000),
  tags: list(trimmed(40, 1), 20),
  /** The entry whose next release it becomes, and the newest one its author knew. */
  next: nullable(record({ entryId: identifier, base: versionForm })),
  /** What is new. */
  notes: text(4000),
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
/** Takes a release off the rack; who uses it keeps it, and is told. */
export const withdrawRelease = defineRoute('POST', '/api/library/:id/withdraw', {
  who: { audience: 'readers', roles: ['librarian'] },
  params: one,
  body: json(withdrawalForm),
  answer: answers(record({ withdrawn: versionForm })),
});

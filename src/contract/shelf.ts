import {
  flag,
  identifier,
  list,
  nullable,
  oneOf,
  optional,
  real,
  record,
  sha256,
  text,
  trimmed,
  whole,
} from './forms';
import type { TypeOf } from './forms';
import { candidateForm, classForm, rackForm, versionForm } from './library';
import { answers, defineRoute, json } from './route';

const one = record({ id: identifier });

export const arrangementForm = record({
  name: optional(trimmed(80, 2)),
  description: optional(text(2000)),
  tags: optional(list(trimmed(40, 1), 20)),
  /** The picture of one of its releases or users; null for that of the newest release. */
  coverHash: optional(nullable(sha256)),
  /** Another rack: the entry moves. */
  rack: optional(rackForm),
  /** Why something else is to be used; null takes that back. */
  deprecated: optional(
    nullable(record({ reason: trimmed(500, 3), successorId: nullable(identifier) })),
  ),
  /** Why it is taken off its rack; null puts it back. */
  withdrawn: optional(nullable(trimmed(500, 3))),
});
export type EntryArrangement = TypeOf<typeof arrangementForm>;

/** Renames, describes, tags, moves, deprecates, withdraws or restores an entry. */
export const arrangeEntry = defineRoute('POST', '/api/library/:id/arrange', {
  who: { audience: 'readers' },
  params: one,
  body: json(arrangementForm),
  answer: answers(one),
});

/** Copies an entry with its newest release to another rack. */
export const copyEntry = defineRoute('POST', '/api/library/:id/copy', {
  who: { audience: 'readers' },
  params: one,
  body: json(record({ rack: rackForm, name: trimmed(80, 2) })),
  answer: answers(one),
  status: 201,
});

const changeForm = record({
  kind: text(20),
  place: text(400),
  what: text(400),
  before: text(4000),
  after: text(4000),
  /** How much of the difference it accounts for, 1 for all; null where it was not measured. */
  share: nullable(real),
});
export type ShownChange = TypeOf<typeof changeForm>;
/** What of a material's own a release has no place for. */
const lostForm = list(
  record({
    board: nullable(text(80)),
    node: text(80),
    title: text(400),
    what: oneOf('value', 'strand', 'drive'),
    reason: text(1000),
  }),
  10000,
);
const consequenceForm = record({
  materialId: identifier,
  name: text(200),
  projectName: text(200),
  state: oneOf('waiting', 'done', 'failed'),
  fromVersion: nullable(versionForm),
  /** Of the picture's pixels that change, and by how much in the mean, 0–1. */
  share: nullable(real),
  mean: nullable(real),
  beforeHash: nullable(sha256),
  afterHash: nullable(sha256),
  changes: nullable(list(changeForm, 1000)),
  lost: nullable(lostForm),
  reason: nullable(text(4000)),
});
export type ConsequenceView = TypeOf<typeof consequenceForm>;
const outlookForm = record({
  id: identifier,
  entryId: identifier,
  version: nullable(versionForm),
  /** Materials that one may not see. */
  hidden: whole(0),
  materials: list(consequenceForm, 10000),
});
export type OutlookView = TypeOf<typeof outlookForm>;

/** Asks what a release, or a group that is not published yet, does to all who use the entry. */
export const askConsequences = defineRoute('POST', '/api/library/:id/consequences', {
  who: { audience: 'readers' },
  params: one,
  body: json(record({ version: nullable(versionForm), candidate: nullable(candidateForm) })),
  answer: answers(one),
  status: 202,
});

/** What was found so far. */
export const readConsequences = defineRoute('GET', '/api/consequences/:id', {
  who: { audience: 'requester' },
  params: one,
  answer: answers(outlookForm),
});

const takenForm = record({
  materialId: identifier,
  name: text(200),
  revision: nullable(whole(1)),
  lost: lostForm,
  /** Why nothing was changed. */
  reason: nullable(text(4000)),
});
/** Takes a release in materials; each is saved on its own, and told of on its own. */
export const takeRelease = defineRoute('POST', '/api/library/:id/take', {
  who: { audience: 'readers' },
  params: one,
  body: json(record({ version: versionForm, materialIds: list(identifier, 200) })),
  answer: answers(record({ taken: list(takenForm, 200) })),
});
export type TakenView = TypeOf<typeof takenForm>;

/** Puts the release back that a material had before it took the one it has. */
export const putReleaseBack = defineRoute('POST', '/api/library/:id/put-back', {
  who: { audience: 'readers' },
  params: one,
  body: json(record({ materialIds: list(identifier, 200) })),
  answer: answers(record({ taken: list(takenForm, 200) })),
});

const waitingForm = record({
  materialId: identifier,
  materialName: text(200),
  projectId: identifier,
  projectName: text(200),
  entryId: identifier,
  entryName: text(80),
  version: versionForm,
  newest: nullable(versionForm),
  /** What taking the newest means; null where there is nothing newer. */
  releaseClass: nullable(classForm),
  pinned: nullable(text(2000)),
  withdrawnReason: nullable(text(500)),
  deprecatedReason: nullable(text(500)),
  successorId: nullable(identifier),
});
export type WaitingRelease = TypeOf<typeof waitingForm>;
/** Where a newer release waits, or one in use was withdrawn; of one material or all one's own. */
export const listWaiting = defineRoute('GET', '/api/releases/waiting', {
  who: { audience: 'signed-in' },
  query: record({ material: optional(identifier) }),
  answer: answers(record({ waiting: list(waitingForm, 2000) })),
});

const proposalForm = record({
  entryId: identifier,
  entryName: text(80),
  rackName: text(200),
  version: versionForm,
  releaseClass: classForm,
  authorName: text(200),
  notes: text(4000),
});
/** Releases that wait for a librarian. */
export const listProposals = defineRoute('GET', '/api/releases/proposed', {
  who: { audience: 'signed-in', roles: ['librarian'] },
  answer: answers(record({ proposals: list(proposalForm, 1000) })),
});

export const decisionForm = record({
  version: versionForm,
  isAccepted: flag,
  remarks: list(record({ place: trimmed(200, 1), text: trimmed(2000, 2) }), 50),
});
/** Accepts a proposed release or sends it back, with remarks at places. */
export const decideRelease = defineRoute('POST', '/api/library/:id/decide', {
  who: { audience: 'readers', roles: ['librarian'] },
  params: one,
  body: json(decisionForm),
  answer: answers(record({ version: versionForm })),
});

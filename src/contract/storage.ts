import { flag, identifier, list, moment, nullable, oneOf, record, text, whole } from './forms';
import type { TypeOf } from './forms';
import { answers, defineRoute, json } from './route';

/** The largest limit of a project, bytes: 64 TB. */
export const LARGEST_QUOTA = 64 * 2 ** 40;
const bytes = whole(0, Number.MAX_SAFE_INTEGER);
const kindForm = oneOf('model', 'image', 'material');
export type HoldingKind = TypeOf<typeof kindForm>;

const projectUseForm = record({
  /** null: what belongs to no project, but to the whole studio. */
  id: nullable(identifier),
  name: text(200),
  quotaBytes: nullable(bytes),
  usedBytes: bytes,
  parts: list(record({ kind: kindForm, things: whole(0), bytes }), 3),
});
export type ProjectUse = TypeOf<typeof projectUseForm>;

const storageForm = record({
  projects: list(projectUseForm, 10001),
  /** What the studio made itself; it counts for no project. */
  maps: bytes,
  pictures: bytes,
  tidied: nullable(record({ at: moment, words: text(400) })),
});
export type Storage = TypeOf<typeof storageForm>;

/** How much room one's projects take; for librarians all projects and the studio's own. */
export const readStorage = defineRoute('GET', '/api/storage', {
  who: { audience: 'signed-in' },
  answer: answers(storageForm),
});

const holdingForm = record({
  kind: kindForm,
  id: identifier,
  name: text(200),
  ownerName: text(200),
  bytes,
  /** Revisions of a material. */
  count: whole(0),
  isArchived: flag,
});
export type Holding = TypeOf<typeof holdingForm>;
/** Things that are listed of a project, the largest first. */
export const MOST_HOLDINGS = 100;

/** What takes most room in a project, and whose it is. */
export const readHoldings = defineRoute('GET', '/api/storage/:id', {
  who: { audience: 'readers', always: ['librarian'] },
  params: record({ id: identifier }),
  answer: answers(record({ holdings: list(holdingForm, MOST_HOLDINGS) })),
});

const removalForm = record({ kind: kindForm, id: identifier });
export type Removal = TypeOf<typeof removalForm>;
/**
 * Removes a model, an image or an archived material for ever; 409 `storage.in-use` while anything
 * uses it.
 */
export const removeHolding = defineRoute('POST', '/api/storage/:id/remove', {
  who: { audience: 'readers', always: ['librarian'] },
  params: record({ id: identifier }),
  body: json(removalForm),
  answer: answers(record({ name: text(200) })),
});

/** Limits what may be brought into a project, or takes the limit away. */
export const limitProject = defineRoute('POST', '/api/storage/:id/limit', {
  who: { audience: 'signed-in', roles: ['librarian'] },
  params: record({ id: identifier }),
  body: json(record({ quotaBytes: nullable(whole(0, LARGEST_QUOTA)) })),
  answer: answers(record({ id: identifier })),
});

/** Has histories thinned out and what nobody can reach removed, in the background. */
export const tidyStudio = defineRoute('POST', '/api/storage/tidy', {
  who: { audience: 'signed-in', roles: ['librarian'] },
  body: json(record({})),
  answer: answers(record({ asked: oneOf('yes') })),
});

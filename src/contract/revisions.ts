import { flag, identifier, list, matching, moment, optional, record, text, whole } from './forms';
import type { TypeOf } from './forms';
import { answers, defineRoute, json } from './route';

const one = record({ id: identifier });
/** Revisions of one page. */
export const REVISION_PAGE = 40;

const revisionForm = record({
  number: whole(1),
  authorName: text(200),
  savedAt: moment,
  /** States that were kept of it, and releases that came from it, by name. */
  states: list(text(200), 1000),
  releases: list(text(200), 1000),
});
export type RevisionView = TypeOf<typeof revisionForm>;
/** The revisions of a material, the newest first, without their documents. */
export const listRevisions = defineRoute('GET', '/api/materials/:id/revisions', {
  who: { audience: 'readers' },
  params: one,
  query: record({ before: optional(matching(/^\d{1,9}$/, 9)) }),
  answer: answers(record({ revisions: list(revisionForm, REVISION_PAGE), hasMore: flag })),
});

const presenceForm = record({
  name: text(200),
  /** The newest revision that the person has open. */
  revision: whole(0),
});
export type Presence = TypeOf<typeof presenceForm>;
/** Says which revision one has open, or that one leaves; tells who else is there. */
export const notePresence = defineRoute('POST', '/api/materials/:id/presence', {
  who: { audience: 'readers' },
  params: one,
  body: json(record({ revision: whole(0), isLeaving: flag })),
  answer: answers(
    record({ others: list(presenceForm, 1000), head: whole(1), headAuthor: text(200) }),
  ),
});

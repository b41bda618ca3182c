import { BUNDLE_BYTES } from '@/core/exchange/bundle';
import { identifier, list, record, text } from './forms';
import { RESPONSE, answers, defineRoute } from './route';

/** An entry with all its releases that are out, as one zip. */
export const saveEntryFile = defineRoute('GET', '/api/library/:id/file', {
  who: { audience: 'readers' },
  params: record({ id: identifier }),
  answer: RESPONSE,
});

/**
 * Brings a group's file onto one's own rack, with all releases it holds, by a job; `missing` tells
 * what the file did not hold and the studio has not got.
 */
export const bringGroupFile = defineRoute('POST', '/api/library/import', {
  who: { audience: 'signed-in' },
  body: { kind: 'file', limit: BUNDLE_BYTES },
  answer: answers(record({ id: identifier, missing: list(text(300), 1000) })),
  status: 202,
});

import { BUNDLE_BYTES } from '@/core/exchange/bundle';
import { flag, identifier, list, oneOf, optional, record, text } from './forms';
import type { TypeOf } from './forms';
import { RESPONSE, answers, defineRoute } from './route';

/** A material with its groups and images, and its model if wished, as one zip. */
export const saveMaterialFile = defineRoute('GET', '/api/materials/:id/file', {
  who: { audience: 'readers' },
  params: record({ id: identifier }),
  query: record({ model: optional(oneOf('yes', 'no')) }),
  answer: RESPONSE,
});

const broughtForm = record({
  id: identifier,
  name: text(200),
  /** Whether it was there already: the same material in the same project. */
  isThere: flag,
  /** What the file did not hold and the studio has not got, in words. */
  missing: list(text(300), 1000),
});
export type BroughtMaterial = TypeOf<typeof broughtForm>;
/** Brings a material's file into a project. */
export const bringMaterialFile = defineRoute('POST', '/api/materials/import', {
  who: { audience: 'members' },
  query: record({ project: identifier }),
  body: { kind: 'file', limit: BUNDLE_BYTES },
  answer: answers(broughtForm),
  status: 201,
});

import { MODEL_LIMITS } from '@/core/exchange/model-soup';
import { preparationForm, mapForm } from './model-forms';
import { flag, identifier, list, nullable, optional, record, text, trimmed } from './forms';
import type { TypeOf } from './forms';
import { RESPONSE, answers, defineRoute, json } from './route';

const one = record({ id: identifier });
const modelRowForm = record({
  id: identifier,
  name: text(200),
  projectId: nullable(identifier),
  ownerName: nullable(text(200)),
  isArchived: flag,
  /** Whether another file was there before, which can be put back. */
  hasFormer: flag,
});
export type ModelEntry = TypeOf<typeof modelRowForm>;

/** The models for everyone and those of one's projects, archived ones too. */
export const listModels = defineRoute('GET', '/api/models', {
  who: { audience: 'signed-in' },
  answer: answers(record({ models: list(modelRowForm, 100000) })),
});

/** Takes a GLB or OBJ file into a project. */
export const uploadModel = defineRoute('POST', '/api/models', {
  who: { audience: 'members' },
  query: record({ project: identifier, name: optional(text(200)) }),
  body: { kind: 'file', limit: MODEL_LIMITS.bytes },
  answer: answers(record({ id: identifier, name: text(200) })),
  status: 201,
});

/**
 * The file, with what is corrected in it each time it is read. Its tag names both, and so do maps
 * measured of it.
 */
export const readModelFile = defineRoute('GET', '/api/models/:id', {
  who: { audience: 'readers' },
  params: one,
  answer: RESPONSE,
});

/** Changes what is corrected in a model; 409 where somebody else did meanwhile. */
export const mendModel = defineRoute('PATCH', '/api/models/:id', {
  who: { audience: 'readers' },
  params: one,
  body: json(record({ before: preparationForm, preparation: preparationForm })),
  answer: answers(record({ preparation: preparationForm })),
});

/**
 * Renames a model, moves it to another of one's projects, archives or restores it. Those of the
 * whole studio are a librarian's.
 */
export const arrangeModel = defineRoute('POST', '/api/models/:id/arrange', {
  who: { audience: 'readers' },
  params: one,
  body: json(
    record({
      name: optional(trimmed(120, 1)),
      projectId: optional(identifier),
      isArchived: optional(flag),
    }),
  ),
  answer: answers(record({ id: identifier })),
});

/** A model of the same file and corrections under a name of its own, in one of one's projects. */
export const duplicateModel = defineRoute('POST', '/api/models/:id/duplicate', {
  who: { audience: 'readers' },
  params: one,
  body: json(record({ name: trimmed(120, 1), projectId: identifier })),
  answer: answers(record({ id: identifier })),
  status: 201,
});

/** Puts a newer GLB or OBJ file in the place of a model's; the file of before is kept. */
export const replaceModelFile = defineRoute('PUT', '/api/models/:id', {
  who: { audience: 'readers' },
  params: one,
  body: { kind: 'file', limit: MODEL_LIMITS.bytes },
  answer: answers(record({ id: identifier })),
});

/** Puts back the file that was there before the last one came; a second time undoes that. */
export const restoreModelFile = defineRoute('POST', '/api/models/:id/restore', {
  who: { audience: 'readers' },
  params: one,
  answer: answers(record({ id: identifier })),
});

/**
 * The values of a finished mesh map, deflated 32-bit floats (zlib), where it was measured before;
 * else 204 and the browser measures it. The settings are JSON in the query.
 */
export const readMeshMap = defineRoute('GET', '/api/models/:id/maps', {
  who: { audience: 'readers' },
  params: one,
  query: record({ settings: mapForm }),
  answer: RESPONSE,
  status: 204,
});

import Joi from 'joi';
import { readStored } from '@/core/compile/upgrade';
import type { NetworkDocument } from '@/core/graph/document';
import type { PatchStep } from '@/core/graph/patch';
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

/** Most bytes of a saved document; one of 5,000 nodes has about 1.5 million. */
export const DOCUMENT_BYTES = 8 * 1024 * 1024;
/** Any version up to the present one comes in, and leaves as the present one. */
export const documentForm = object<NetworkDocument>(
  Joi.any().custom((raw: unknown, helpers) => {
    const { document, diagnostics } = readStored(raw);
    return document ?? helpers.message({ custom: diagnostics[0]?.message ?? 'is no document' });
  }),
);

const one = record({ id: identifier });

export const materialSummaryForm = record({
  id: identifier,
  name: text(200),
  projectId: identifier,
  projectName: text(200),
  ownerName: text(200),
  modelId: identifier,
  modelName: text(200),
  head: whole(1),
  swatchHash: nullable(sha256),
  updatedAt: moment,
  isArchived: flag,
});
export type MaterialSummary = TypeOf<typeof materialSummaryForm>;

/** A material as it is opened: a revision of it with its document. */
export const openedMaterialForm = record({
  id: identifier,
  name: text(200),
  projectId: identifier,
  modelId: identifier,
  revision: whole(1),
  document: documentForm,
  authorName: text(200),
  savedAt: moment,
});
export type OpenedMaterial = TypeOf<typeof openedMaterialForm>;

/** How materials may be listed: saved last first, by name, by model and name. */
export const MATERIAL_ORDERS = ['lately', 'name', 'model'] as const;
export type MaterialOrder = (typeof MATERIAL_ORDERS)[number];
/** Materials of a page. */
export const MATERIAL_PAGE = 24;

const queryForm = record({
  /** Words in the name of the material, its model, owner or project. */
  query: optional(text(200)),
  /** The whole name of the material. */
  name: optional(text(200)),
  /** This one alone. */
  id: optional(identifier),
  project: optional(identifier),
  set: optional(identifier),
  order: optional(oneOf(...MATERIAL_ORDERS)),
  /** Those that were put away, in place of those that were not. */
  archived: optional(oneOf('yes')),
  /** How many are passed over. */
  first: optional(matching(/^\d{1,6}$/, 6)),
});
export type MaterialQuery = TypeOf<typeof queryForm>;
const foundForm = record({ materials: list(materialSummaryForm, 100), hasMore: flag });
export type FoundMaterials = TypeOf<typeof foundForm>;

/** A page of the materials of one's projects that are asked for. */
export const findMaterials = defineRoute('GET', '/api/materials', {
  who: { audience: 'signed-in' },
  query: queryForm,
  answer: answers(foundForm),
});

const placesForm = record({
  projects: list(record({ id: identifier, name: text(200), materials: whole(0) }), 10000),
  sets: list(
    record({ id: identifier, projectId: identifier, name: text(80), materials: whole(0) }),
    100000,
  ),
});
export type MaterialPlaces = TypeOf<typeof placesForm>;
export type MaterialSet = MaterialPlaces['sets'][number];

/** One's projects and their sets, with how many materials stand in each. */
export const listPlaces = defineRoute('GET', '/api/materials/places', {
  who: { audience: 'signed-in' },
  query: record({ archived: optional(oneOf('yes')) }),
  answer: answers(placesForm),
});

/** Makes a material in a project one is a member of. */
export const createMaterial = defineRoute('POST', '/api/materials', {
  who: { audience: 'members' },
  body: json(
    record({ projectId: identifier, modelId: identifier, document: documentForm }),
    DOCUMENT_BYTES,
  ),
  answer: answers(record({ id: identifier, revision: whole(1) })),
  status: 201,
});

/** A material with its newest document. */
export const openMaterial = defineRoute('GET', '/api/materials/:id', {
  who: { audience: 'readers' },
  params: one,
  answer: answers(openedMaterialForm),
});

/** A material as it was at a revision. */
export const openRevision = defineRoute('GET', '/api/materials/:id/revisions/:number', {
  who: { audience: 'readers' },
  params: record({ id: identifier, number: matching(/^\d{1,9}$/, 9) }),
  answer: answers(openedMaterialForm),
});

/**
 * Saves on top of the revision `base`; 409 with the other version where somebody saved meanwhile.
 */
export const saveMaterial = defineRoute('PUT', '/api/materials/:id', {
  who: { audience: 'readers' },
  params: one,
  body: json(
    record({ base: whole(1), modelId: identifier, document: documentForm }),
    DOCUMENT_BYTES,
  ),
  answer: answers(record({ revision: whole(1) })),
});

/** One step of a JSON Patch (RFC 6902). */
const patchStepForm = object<PatchStep>(
  Joi.object({
    op: Joi.string().valid('add', 'replace', 'remove').required(),
    path: Joi.string().allow('').max(2000).required(),
    value: Joi.any().when('op', { is: 'remove', then: Joi.forbidden(), otherwise: Joi.required() }),
  }),
);
/** Most steps of a patch; what changes more is saved whole. */
export const PATCH_STEPS = 400;

/**
 * Saves what changed on top of the revision `base`, as `saveMaterial` does; 422 `patch.unfit` where
 * the change does not fit that revision: then the whole document is to be sent.
 */
export const patchMaterial = defineRoute('PATCH', '/api/materials/:id', {
  who: { audience: 'readers' },
  params: one,
  body: json(
    record({ base: whole(1), modelId: identifier, patch: list(patchStepForm, PATCH_STEPS) }),
    DOCUMENT_BYTES,
  ),
  answer: answers(record({ revision: whole(1) })),
});

/**
 * A copy in a project one is a member of; its history begins anew. Without a name it gets one that
 * the project does not have yet.
 */
export const duplicateMaterial = defineRoute('POST', '/api/materials/:id/duplicate', {
  who: { audience: 'readers' },
  params: one,
  body: json(record({ name: optional(trimmed(200, 1)), projectId: identifier })),
  answer: answers(record({ id: identifier, name: text(200) })),
  status: 201,
});

/**
 * Renames a material (which makes a revision), moves it to another of one's projects, archives or
 * restores it. 409 `material.name-taken` where the project has another of that name.
 */
export const arrangeMaterial = defineRoute('POST', '/api/materials/:id/arrange', {
  who: { audience: 'readers' },
  params: one,
  body: json(
    record({
      name: optional(trimmed(200, 1)),
      projectId: optional(identifier),
      isArchived: optional(flag),
    }),
  ),
  answer: answers(record({ id: identifier })),
});

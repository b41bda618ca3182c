import Joi from 'joi';
import { AMOUNT } from '@/core/graph/limits';
import {
  flag,
  form,
  identifier,
  list,
  moment,
  nullable,
  optional,
  record,
  sha256,
  text,
  trimmed,
  whole,
} from './forms';
import type { TypeOf } from './forms';
import { answers, defineRoute, json } from './route';

/** Most states that are kept of one material. */
export const MOST_STATES = 500;

const place = form<readonly [number, number, number]>(
  Joi.array().items(Joi.number().min(-1e9).max(1e9)).length(3),
);
const between = (least: number, most: number) => form<number>(Joi.number().min(least).max(most));
const cameraForm = record({
  eye: place,
  target: place,
  fieldRad: between(0.001, 3.1),
  aspect: between(0.001, 1000),
});
const amountForm = between(...AMOUNT);
const ofMaterial = record({ id: identifier });
const one = record({ id: identifier, state: identifier });

const members = {
  /** The revision that holds its document. */
  revision: whole(1),
  modelId: identifier,
  camera: cameraForm,
  name: trimmed(120, 1),
  note: text(2000),
  /** Of a round: what was spoken of, in words; null for other states. */
  about: nullable(text(400)),
  /** Of a round: the amount that was set; null where none was. */
  amount: nullable(amountForm),
};
const stateForm = record({
  ...members,
  id: identifier,
  modelName: text(200),
  authorName: text(200),
  /** null until it is drawn. */
  pictureHash: nullable(sha256),
  createdAt: moment,
  mayEdit: flag,
});
export type StateView = TypeOf<typeof stateForm>;
const keptForm = record(members);
export type StateGiven = TypeOf<typeof keptForm>;

/** The kept states of a material, the earliest first. */
export const listStates = defineRoute('GET', '/api/materials/:id/states', {
  who: { audience: 'readers' },
  params: ofMaterial,
  answer: answers(record({ states: list(stateForm, MOST_STATES) })),
});

/** Keeps a state of a material: one of its revisions, as a camera sees it on a model. */
export const keepState = defineRoute('POST', '/api/materials/:id/states', {
  who: { audience: 'readers' },
  params: ofMaterial,
  body: json(keptForm),
  answer: answers(record({ id: identifier })),
  status: 201,
});

const wordsForm = record({ name: optional(trimmed(120, 1)), note: optional(text(2000)) });
export type StateWords = TypeOf<typeof wordsForm>;
/** Renames a state, or says something else of it. */
export const tellState = defineRoute('POST', '/api/materials/:id/states/:state/tell', {
  who: { audience: 'readers' },
  params: one,
  body: json(wordsForm),
  answer: answers(record({ id: identifier })),
});

/** Forgets a state; the revision stays. */
export const forgetState = defineRoute('POST', '/api/materials/:id/states/:state/forget', {
  who: { audience: 'readers' },
  params: one,
  body: json(record({})),
  answer: answers(record({ id: identifier })),
});

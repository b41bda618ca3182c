import Joi from 'joi';
import { PRESET_KINDS, PRESET_NAMES } from '@/core/presets/kinds';
import type { PresetKind, PresetValue, StarterValue } from '@/core/presets/kinds';
import {
  flag,
  form,
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
} from './forms';
import type { TypeOf } from './forms';
import { rackForm } from './library';
import { answers, defineRoute, json } from './route';

/** Most presets of one kind on one rack. */
export const MOST_PRESETS = 500;
/** Presets of a page. */
export const PRESET_PAGE = 100;
const one = record({ id: identifier });
const kindForm = form<PresetKind>(Joi.valid(...PRESET_NAMES));
/** What a value is that is sent along; starters are taken from a saved material instead. */
type SentValue = PresetValue<Exclude<PresetKind, 'starter'>>;

const told = {
  rack: rackForm,
  name: trimmed(80, 1),
  description: text(2000),
  tags: list(trimmed(40, 1), 20),
};
const members = {
  ...told,
  id: identifier,
  kind: kindForm,
  authorName: text(200),
  /** Of a variant or a starter, once it is drawn; the others are drawn from their values. */
  swatchHash: nullable(sha256),
  /** Of a variant: the name of the entry it belongs to. */
  entryName: nullable(text(80)),
  /** Of a starter: the model it was made on. */
  modelId: nullable(identifier),
  updatedAt: moment,
  mayEdit: flag,
};
const presetForm = record({
  ...members,
  /** null for a starter, which is opened by itself. */
  value: nullable(object<SentValue>()),
});
export type PresetView = TypeOf<typeof presetForm>;
const rackView = record({
  id: rackForm,
  name: text(200),
  /** Whether one may put presets there. */
  mayKeep: flag,
});
export type PresetRack = TypeOf<typeof rackView>;
const listForm = record({
  racks: list(rackView, 10000),
  presets: list(presetForm, PRESET_PAGE),
  hasMore: flag,
});
export type PresetList = TypeOf<typeof listForm>;

const queryForm = record({
  kind: optional(kindForm),
  rack: optional(rackForm),
  /** Variants of this entry alone. */
  entry: optional(identifier),
  query: optional(text(200)),
  /** How many are passed over. */
  first: optional(matching(/^\d{1,6}$/, 6)),
});
export type PresetQuery = TypeOf<typeof queryForm>;

/** What is kept on the racks one sees, by name: ramps, palettes, curves, variants, starters. */
export const listPresets = defineRoute('GET', '/api/presets', {
  who: { audience: 'signed-in' },
  query: queryForm,
  answer: answers(listForm),
});

/** A starter with its network. */
export const openStarter = defineRoute('GET', '/api/presets/:id', {
  who: { audience: 'readers' },
  params: one,
  answer: answers(record({ ...members, value: object<StarterValue>() })),
});

const sentKinds = PRESET_NAMES.filter((kind) => kind !== 'starter');
const keptForm = record({
  ...told,
  kind: form<Exclude<PresetKind, 'starter'>>(Joi.valid(...sentKinds)),
  value: form<SentValue>(
    Joi.any().when('kind', {
      switch: sentKinds.map((kind) => ({ is: kind, then: PRESET_KINDS[kind].shape.joi })),
    }),
  ),
});
export type PresetGiven = TypeOf<typeof keptForm>;

/** Keeps a value on a rack; one's own of the same name is replaced. */
export const keepPreset = defineRoute('POST', '/api/presets', {
  who: { audience: 'members' },
  body: json(keptForm, 512 * 1024),
  answer: answers(one),
  status: 201,
});

const starterForm = record({ ...told, materialId: identifier });
export type StarterGiven = TypeOf<typeof starterForm>;

/** Keeps the newest revision of a material as a starter. */
export const keepStarter = defineRoute('POST', '/api/presets/starters', {
  who: { audience: 'members' },
  body: json(starterForm),
  answer: answers(one),
  status: 201,
});

const arrangementForm = record({
  name: optional(told.name),
  description: optional(told.description),
  tags: optional(told.tags),
  /** Another rack: it moves. */
  rack: optional(rackForm),
});
export type PresetArrangement = TypeOf<typeof arrangementForm>;

/** Renames, describes, tags or moves a preset. */
export const arrangePreset = defineRoute('POST', '/api/presets/:id/arrange', {
  who: { audience: 'readers' },
  params: one,
  body: json(arrangementForm),
  answer: answers(one),
});

/** Copies a preset to another rack. */
export const copyPreset = defineRoute('POST', '/api/presets/:id/copy', {
  who: { audience: 'readers' },
  params: one,
  body: json(record({ rack: rackForm, name: told.name })),
  answer: answers(one),
  status: 201,
});

/** Takes a preset off its rack for good; materials that took it keep what they took. */
export const forgetPreset = defineRoute('POST', '/api/presets/:id/forget', {
  who: { audience: 'readers' },
  params: one,
  answer: answers(one),
});

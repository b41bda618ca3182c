import Joi from 'joi';
import type { Diagnostic } from '../base/diagnostic';
import { pointer } from './pointer';
import { findUnstorable } from './storable';
import {
  COMPANION_SIZES,
  DOCUMENT_FORMAT,
  DOCUMENT_VERSION,
  LIMITS,
  OPACITY_MODES,
  SEGMENTS,
  SURROUNDINGS_LIMITS,
} from './document';
import type { NetworkDocument } from './document';

const id = Joi.string()
  .min(1)
  .max(80)
  .pattern(/^[A-Za-z0-9_.:@-]+$/);
// Numbers a single-precision value can hold; anything else is a slip.
const number = Joi.number().min(-3.4e38).max(3.4e38).unsafe();
const triple = Joi.array()
  .ordered(number.required(), number.required(), number.required())
  .length(3);
const pair = Joi.array().ordered(number.required(), number.required()).length(2);
const name = Joi.string().allow('').max(LIMITS.name);
const text = Joi.string().allow('').max(LIMITS.text);

const stop = Joi.object({
  id: id.required(),
  position: number.required(),
  colour: triple.required(),
  alpha: number.min(0).max(1).required(),
  segment: Joi.valid(...SEGMENTS).required(),
  open: Joi.array()
    .items(Joi.valid('position', 'colour', 'alpha'))
    .unique()
    .max(3),
});
const ramp = Joi.object({ stops: Joi.array().items(stop).min(2).max(LIMITS.rampStops).required() });
// Longer than a formula may be, so that its own check can say so in words.
const formula = Joi.object({ formula: Joi.string().allow('').max(LIMITS.formula).required() });
const curve = Joi.object({
  points: Joi.array().items(pair).min(2).max(LIMITS.curvePoints).required(),
});
const image = Joi.object({
  image: Joi.string()
    .allow('')
    .pattern(/^[0-9a-f]{64}$/)
    .required(),
  name: name.required(),
});
const value = Joi.alternatives(number, triple, ramp, formula, curve, image);

const node = Joi.object({
  id: id.required(),
  type: Joi.string().max(80).required(),
  version: Joi.number().integer().min(1).max(LIMITS.whole).required(),
  name,
  at: pair.required(),
  values: Joi.object().pattern(id, value).max(LIMITS.values).required(),
  options: Joi.object()
    .pattern(id, Joi.string().allow('').max(LIMITS.name))
    .max(LIMITS.values)
    .required(),
  limited: Joi.boolean(),
  folded: Joi.boolean(),
  group: id,
});
const end = (port: 'input' | 'output'): Joi.ObjectSchema =>
  Joi.object({ node: id.required(), [port]: id.required() });
const strand = Joi.object({
  id: id.required(),
  from: end('output').required(),
  to: end('input').required(),
  order: number.required(),
  conversion: Joi.valid('luminance', 'average', 'largest', 'first', 'second', 'third', 'length'),
  plain: Joi.valid(true),
  bends: Joi.array().items(pair).min(1).max(LIMITS.bends),
});
const light = Joi.object({
  id: id.required(),
  name: name.required(),
  kind: Joi.valid('far', 'near').required(),
  at: triple.required(),
  colour: triple.required(),
  intensity: number.min(0).required(),
  shadows: Joi.valid(true),
});
const network = Joi.object({
  nodes: Joi.array().items(node).max(LIMITS.nodes).required(),
  strands: Joi.array().items(strand).max(LIMITS.strands).required(),
  regions: Joi.array()
    .items(
      Joi.object({
        id: id.required(),
        title: name.required(),
        at: pair.required(),
        size: pair.required(),
      }),
    )
    .max(LIMITS.regions)
    .required(),
  notes: Joi.array()
    .items(Joi.object({ id: id.required(), text: text.required(), at: pair.required() }))
    .max(LIMITS.notes)
    .required(),
});
const drive = Joi.object({
  node: id.required(),
  input: id.required(),
  law: Joi.valid('times', 'lift', 'span', 'blend', 'as is').required(),
  reach: number,
  low: number,
  high: number,
});
const dial = Joi.object({
  id: id.required(),
  name: name.required(),
  help: text.required(),
  unit: name.required(),
  section: name.required(),
  kind: Joi.valid('scalar', 'vector', 'colour').required(),
  home: Joi.alternatives(number, triple).required(),
  soft: pair.required(),
  hard: pair.required(),
  step: number.min(0).required(),
  drives: Joi.array().items(drive).max(LIMITS.drives).required(),
});
const port = Joi.object({
  id: id.required(),
  name: name.required(),
  kind: Joi.valid('scalar', 'vector', 'colour', 'surface').required(),
  fallback: Joi.alternatives(number, triple),
});
const source = Joi.object().pattern(id, end('output')).max(LIMITS.ports);
const group = Joi.object({
  id: id.required(),
  name: name.required(),
  description: text.required(),
  inputs: Joi.array().items(port).max(LIMITS.ports).required(),
  outputs: Joi.array().items(port).max(LIMITS.ports).required(),
  dials: Joi.array().items(dial).max(LIMITS.dials).required(),
  network: network.required(),
  origin: Joi.object({
    materialId: id.required(),
    revision: Joi.number().integer().min(0).max(LIMITS.whole).required(),
    inputs: source.required(),
    outputs: source.required(),
  }),
  release: Joi.object({ entryId: id.required(), version: Joi.string().max(40).required() }),
});

const companion = Joi.object({
  id: id.required(),
  model: id.required(),
  name: name.required(),
  material: id,
  turn: Joi.number().min(SURROUNDINGS_LIMITS.turn[0]).max(SURROUNDINGS_LIMITS.turn[1]).required(),
});

/** The shape of a group definition, for releases. */
export const groupSchema = group;
/** The shape of a whole document; what it refers to is checked by `checkDocument`. */
export const documentSchema = Joi.object({
  format: Joi.valid(DOCUMENT_FORMAT).required(),
  version: Joi.valid(DOCUMENT_VERSION).required(),
  name: name.required(),
  network: network.required(),
  groups: Joi.object().pattern(id, group).max(LIMITS.groups).required(),
  opacityMode: Joi.valid(...OPACITY_MODES),
  lights: Joi.array().items(light).max(LIMITS.lights).unique('id'),
  surroundings: Joi.object({
    turn: Joi.number().min(SURROUNDINGS_LIMITS.turn[0]).max(SURROUNDINGS_LIMITS.turn[1]).required(),
    strength: Joi.number()
      .min(SURROUNDINGS_LIMITS.strength[0])
      .max(SURROUNDINGS_LIMITS.strength[1])
      .required(),
  }),
  companions: Joi.object({
    sizes: Joi.valid(...COMPANION_SIZES).required(),
    models: Joi.array().items(companion).max(LIMITS.companions).unique('id').required(),
  }),
}).required();

export type ParsedDocument =
  | { readonly document: NetworkDocument; readonly diagnostics: readonly Diagnostic[] }
  | { readonly document: null; readonly diagnostics: readonly Diagnostic[] };

/**
 * Reads anything as a document: checks its shape and says, with a pointer, what is wrong. Never
 * throws.
 */
export function parseDocument(raw: unknown): ParsedDocument {
  const given = raw as { format?: unknown; version?: unknown } | null;
  if (
    typeof given === 'object' &&
    given?.format === DOCUMENT_FORMAT &&
    typeof given.version === 'number' &&
    given.version > DOCUMENT_VERSION
  ) {
    return refuse(
      'document.version',
      '/version',
      `This file has format version ${String(given.version)}; this program reads up to ` +
        `${String(DOCUMENT_VERSION)}. Open it with a newer release.`,
    );
  }
  const unstorable = findUnstorable(raw);
  if (unstorable) return refuse('document.shape', unstorable.pointer, unstorable.message);
  const { error } = documentSchema.validate(raw, { abortEarly: true, convert: false });
  if (!error) return { document: raw as NetworkDocument, diagnostics: [] };
  return { document: null, diagnostics: shapeFaults(raw, error) };
}

/**
 * How many faults are told of a document whose shape is wrong, and how large it may be to look for
 * more than the first.
 */
const MOST_FAULTS = 50,
  MOST_LOOKED_THROUGH = 2000;

/**
 * Putting a fault into words costs far more than finding it: only small documents are looked
 * through to the end.
 */
function shapeFaults(raw: unknown, first: Joi.ValidationError): Diagnostic[] {
  const all =
    countValues(raw, MOST_LOOKED_THROUGH) < MOST_LOOKED_THROUGH
      ? documentSchema.validate(raw, { abortEarly: false, convert: false }).error
      : first;
  return (all ?? first).details.slice(0, MOST_FAULTS).map((detail) => ({
    code: 'document.shape',
    severity: 'error',
    pointer: pointer(detail.path),
    message: detail.message,
  }));
}

/** How many values JSON holds, counted no further than `most`. */
function countValues(raw: unknown, most: number): number {
  let count = 0;
  const visit = (value: unknown): void => {
    if (count >= most) return;
    count++;
    if (typeof value === 'object' && value !== null)
      for (const member of Object.values(value)) visit(member);
  };
  visit(raw);
  return count;
}

/** Reads JSON text as a document. */
export function parseDocumentText(textual: string): ParsedDocument {
  try {
    return parseDocument(JSON.parse(textual) as unknown);
  } catch (error) {
    return refuse(
      'document.not-json',
      '',
      `This is not JSON: ${error instanceof Error ? error.message : String(error)}.`,
    );
  }
}

function refuse(
  code: 'document.version' | 'document.not-json' | 'document.shape',
  at: string,
  message: string,
): ParsedDocument {
  return { document: null, diagnostics: [{ code, severity: 'error', pointer: at, message }] };
}

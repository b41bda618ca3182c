import {
  COMPANION_SIZES,
  DOCUMENT_FORMAT,
  DOCUMENT_VERSION,
  LIMITS,
  OPACITY_MODES,
  SEGMENTS,
  SURROUNDINGS_LIMITS,
} from './document';

type Schema = Readonly<Record<string, unknown>>;
const LARGEST = 3.4e38;

const number: Schema = { type: 'number', minimum: -LARGEST, maximum: LARGEST };
/** Neither NUL nor half a character: neither can be stored. */
const STORABLE = '^[^\\u0000\\ud800-\\udfff]*$';
const text = (maxLength: number): Schema => ({ type: 'string', maxLength, pattern: STORABLE });
const list = (items: Schema, maxItems?: number): Schema => ({
  type: 'array',
  items,
  ...(maxItems === undefined ? {} : { maxItems }),
});
const fixed = (count: number): Schema => ({
  type: 'array',
  items: number,
  minItems: count,
  maxItems: count,
});
const oneOf = (...values: readonly string[]): Schema => ({ enum: values });
const either = (...schemas: readonly Schema[]): Schema => ({ anyOf: schemas });
const ref = (name: string): Schema => ({ $ref: `#/$defs/${name}` });
/** An object whose members in `optional` may be absent; no others are allowed. */
function object(
  members: Readonly<Record<string, Schema>>,
  optional: readonly string[] = [],
): Schema {
  return {
    type: 'object',
    properties: members,
    required: Object.keys(members).filter((name) => !optional.includes(name)),
    additionalProperties: false,
  };
}
const between = ([minimum, maximum]: readonly [number, number]): Schema => ({
  type: 'number',
  minimum,
  maximum,
});
const mapOf = (values: Schema, maxProperties?: number): Schema => ({
  type: 'object',
  propertyNames: ref('id'),
  additionalProperties: values,
  ...(maxProperties === undefined ? {} : { maxProperties }),
});

/**
 * The form of a saved document as JSON Schema (draft 2020-12), for tools that write or check
 * documents without this program.
 */
export function documentJsonSchema(): Schema {
  const name = text(LIMITS.name);
  const long = text(LIMITS.text);
  const whole = (minimum: number): Schema => ({ type: 'integer', minimum, maximum: LIMITS.whole });
  const end = (port: 'input' | 'output'): Schema => object({ node: ref('id'), [port]: ref('id') });
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    $id: 'bright-loom-network-1',
    title: 'Bright Loom network, version 1',
    ...object(
      {
        format: { const: DOCUMENT_FORMAT },
        version: { const: DOCUMENT_VERSION },
        name,
        network: ref('network'),
        groups: mapOf(ref('group'), LIMITS.groups),
        opacityMode: oneOf(...OPACITY_MODES),
        lights: list(ref('light'), LIMITS.lights),
        surroundings: ref('surroundings'),
        companions: ref('companions'),
      },
      ['opacityMode', 'lights', 'surroundings', 'companions'],
    ),
    $defs: {
      id: { type: 'string', minLength: 1, maxLength: 80, pattern: '^[A-Za-z0-9_.:@-]+$' },
      triple: fixed(3),
      stop: object(
        {
          id: ref('id'),
          position: number,
          colour: ref('triple'),
          alpha: { type: 'number', minimum: 0, maximum: 1 },
          segment: oneOf(...SEGMENTS),
          open: { ...list(oneOf('position', 'colour', 'alpha'), 3), uniqueItems: true },
        },
        ['open'],
      ),
      image: object({ image: { type: 'string', pattern: '^([0-9a-f]{64})?$' }, name }),
      curve: object({ points: { ...list(fixed(2), LIMITS.curvePoints), minItems: 2 } }),
      ramp: object({ stops: { ...list(ref('stop'), LIMITS.rampStops), minItems: 2 } }),
      formula: object({ formula: text(LIMITS.formula) }),
      node: object(
        {
          id: ref('id'),
          type: { ...text(80), minLength: 1 },
          version: whole(1),
          name,
          at: fixed(2),
          values: mapOf(
            either(number, ref('triple'), ref('ramp'), ref('formula'), ref('curve'), ref('image')),
            LIMITS.values,
          ),
          options: mapOf(name, LIMITS.values),
          limited: { type: 'boolean' },
          folded: { type: 'boolean' },
          group: ref('id'),
        },
        ['name', 'limited', 'folded', 'group'],
      ),
      strand: object(
        {
          id: ref('id'),
          from: end('output'),
          to: end('input'),
          order: number,
          conversion: oneOf(
            'luminance',
            'average',
            'largest',
            'first',
            'second',
            'third',
            'length',
          ),
          plain: { const: true },
          bends: { ...list(fixed(2), LIMITS.bends), minItems: 1 },
        },
        ['conversion', 'plain', 'bends'],
      ),
      light: object(
        {
          id: ref('id'),
          name,
          kind: oneOf('far', 'near'),
          at: ref('triple'),
          colour: ref('triple'),
          intensity: { type: 'number', minimum: 0 },
          shadows: { const: true },
        },
        ['shadows'],
      ),
      surroundings: object({
        turn: between(SURROUNDINGS_LIMITS.turn),
        strength: between(SURROUNDINGS_LIMITS.strength),
      }),
      companions: object({
        sizes: oneOf(...COMPANION_SIZES),
        models: list(
          object(
            {
              id: ref('id'),
              model: ref('id'),
              name,
              material: ref('id'),
              turn: between(SURROUNDINGS_LIMITS.turn),
            },
            ['material'],
          ),
          LIMITS.companions,
        ),
      }),
      network: object({
        nodes: list(ref('node'), LIMITS.nodes),
        strands: list(ref('strand'), LIMITS.strands),
        regions: list(
          object({ id: ref('id'), title: name, at: fixed(2), size: fixed(2) }),
          LIMITS.regions,
        ),
        notes: list(object({ id: ref('id'), text: long, at: fixed(2) }), LIMITS.notes),
      }),
      drive: object(
        {
          node: ref('id'),
          input: ref('id'),
          law: oneOf('times', 'lift', 'span', 'blend', 'as is'),
          reach: number,
          low: number,
          high: number,
        },
        ['reach', 'low', 'high'],
      ),
      dial: object({
        id: ref('id'),
        name,
        help: long,
        unit: name,
        section: name,
        kind: oneOf('scalar', 'vector', 'colour'),
        home: either(number, ref('triple')),
        soft: fixed(2),
        hard: fixed(2),
        step: { type: 'number', minimum: 0, maximum: LARGEST },
        drives: list(ref('drive'), LIMITS.drives),
      }),
      port: object(
        {
          id: ref('id'),
          name,
          kind: oneOf('scalar', 'vector', 'colour', 'surface'),
          fallback: either(number, ref('triple')),
        },
        ['fallback'],
      ),
      group: object(
        {
          id: ref('id'),
          name,
          description: long,
          inputs: list(ref('port'), LIMITS.ports),
          outputs: list(ref('port'), LIMITS.ports),
          dials: list(ref('dial'), LIMITS.dials),
          network: ref('network'),
          origin: object({
            materialId: ref('id'),
            revision: whole(0),
            inputs: mapOf(end('output'), LIMITS.ports),
            outputs: mapOf(end('output'), LIMITS.ports),
          }),
          release: object({ entryId: ref('id'), version: { ...text(40), minLength: 1 } }),
        },
        ['origin', 'release'],
      ),
    },
  };
}

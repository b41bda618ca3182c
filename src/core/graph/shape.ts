import Joi from 'joi';

/** A schema of JSON Schema, draft 2020-12. */
export type JsonSchema = Readonly<Record<string, unknown>>;
declare const TYPE: unique symbol;
/**
 * The form of a value, stated once: what the program checks (Joi), what other programs check (JSON
 * Schema, draft 2020-12) and what the compiler knows of it.
 */
export interface Shape<T> {
  readonly joi: Joi.Schema;
  readonly json: JsonSchema;
  /** Named shapes within, for `$defs`. */
  readonly defs: Readonly<Record<string, JsonSchema>>;
  readonly [TYPE]?: T;
}
/** A member of a record that may be left out. */
export interface OptionalShape<T> {
  readonly optional: Shape<T>;
}
/** The type of the values that a shape admits. */
export type TypeOf<S> = S extends Shape<infer T> ? T : never;

type Member = Shape<unknown> | OptionalShape<unknown>;
type Members = Readonly<Record<string, Member>>;
type Required<M extends Members> = {
  readonly [K in keyof M as M[K] extends OptionalShape<unknown> ? never : K]: TypeOf<M[K]>;
};
type Optional<M extends Members> = {
  readonly [
    K in keyof M as M[K] extends OptionalShape<unknown> ? K : never
  ]?: M[K] extends OptionalShape<infer T> ? T : never;
};

const shape = <T>(joi: Joi.Schema, json: JsonSchema, defs: Shape<T>['defs'] = {}): Shape<T> => ({
  joi,
  json,
  defs,
});

// Numbers a single-precision value can hold; anything else is a slip.
const LARGEST = 3.4e38;

/** A number from `least` to `most`. */
export const number = (least = -LARGEST, most = LARGEST): Shape<number> =>
  shape(Joi.number().min(least).max(most).unsafe(), {
    type: 'number',
    minimum: least,
    maximum: most,
  });
/** A whole number from `least` to `most`. */
export const whole = (least: number, most: number): Shape<number> =>
  shape(Joi.number().integer().min(least).max(most), {
    type: 'integer',
    minimum: least,
    maximum: most,
  });
/** True or false. */
export const flag: Shape<boolean> = shape(Joi.boolean(), { type: 'boolean' });

/** Neither NUL nor half a character: neither can be stored. Joi leaves that to `findUnstorable`. */
const STORABLE = '^[^\\u0000\\ud800-\\udfff]*$';
/** A text of `least` to `most` characters. */
export const text = <T extends string = string>(most: number, least = 0): Shape<T> =>
  shape(least > 0 ? Joi.string().min(least).max(most) : Joi.string().allow('').max(most), {
    type: 'string',
    ...(least > 0 ? { minLength: least } : {}),
    maxLength: most,
    pattern: STORABLE,
  });
/** A text that matches a pattern, of at most so many characters. */
export function matching<T extends string = string>(pattern: RegExp, most: number): Shape<T> {
  const filled = Joi.string().pattern(pattern).max(most);
  return shape(pattern.test('') ? filled.allow('') : filled, {
    type: 'string',
    maxLength: most,
    pattern: pattern.source,
  });
}

/** This value and no other. */
export const exactly = <const V extends string | number | boolean>(value: V): Shape<V> =>
  shape(Joi.valid(value), { const: value });
/** One of these texts. */
export const oneOf = <const V extends readonly string[]>(...values: V): Shape<V[number]> =>
  shape(Joi.valid(...values), { enum: values });

/** Three numbers. */
export const triple: Shape<readonly [number, number, number]> = fixed(3);
/** Two numbers. */
export const pair: Shape<readonly [number, number]> = fixed(2);
function fixed<T>(count: number): Shape<T> {
  const each = number();
  const items = Array.from({ length: count }, () => each.joi.required());
  return shape(
    Joi.array()
      .ordered(...items)
      .length(count),
    {
      type: 'array',
      items: each.json,
      minItems: count,
      maxItems: count,
    },
  );
}

interface ListLimits {
  readonly least?: number;
  readonly most: number;
  /** Items are told apart as a whole, or by a member. */
  readonly unique?: true | string;
}
/** JSON Schema cannot say that a member differs between items; that is only checked by Joi. */
export function list<T>(
  of: Shape<T>,
  { least = 0, most, unique }: ListLimits,
): Shape<readonly T[]> {
  const items = Joi.array().items(of.joi).min(least).max(most);
  const joi =
    unique === undefined ? items : unique === true ? items.unique() : items.unique(unique);
  const json = {
    type: 'array',
    items: of.json,
    ...(least > 0 ? { minItems: least } : {}),
    maxItems: most,
    ...(unique === true ? { uniqueItems: true } : {}),
  };
  return shape(joi, json, of.defs);
}

/** A value of any of these shapes. */
export function either<const S extends readonly Shape<unknown>[]>(
  ...shapes: S
): Shape<TypeOf<S[number]>> {
  return shape(
    Joi.alternatives(...shapes.map(({ joi }) => joi)),
    { anyOf: shapes.map(({ json }) => json) },
    Object.assign({}, ...shapes.map(({ defs }) => defs)) as Shape<unknown>['defs'],
  );
}

/** A member that may be left out. */
export const optional = <T>(of: Shape<T>): OptionalShape<T> => ({ optional: of });

/** An object with these members and no others. */
export function record<M extends Members>(members: M): Shape<Required<M> & Optional<M>> {
  const entries = Object.entries(members).map(([name, member]) =>
    'optional' in member
      ? { name, of: member.optional, isRequired: false }
      : { name, of: member, isRequired: true },
  );
  const joi = Joi.object(
    Object.fromEntries(
      entries.map(({ name, of, isRequired }) => [name, isRequired ? of.joi.required() : of.joi]),
    ),
  );
  const json = {
    type: 'object',
    properties: Object.fromEntries(entries.map(({ name, of }) => [name, of.json])),
    required: entries.filter(({ isRequired }) => isRequired).map(({ name }) => name),
    additionalProperties: false,
  };
  const defs = Object.assign({}, ...entries.map(({ of }) => of.defs)) as Shape<unknown>['defs'];
  return shape(joi, json, defs);
}

/** Values by name; the names have a shape too. */
export function mapOf<T>(
  names: Shape<string>,
  values: Shape<T>,
  most: number,
): Shape<Readonly<Record<string, T>>> {
  const joi = Joi.object().pattern(names.joi, values.joi).max(most);
  const json = {
    type: 'object',
    propertyNames: names.json,
    additionalProperties: values.json,
    maxProperties: most,
  };
  return shape(joi, json, { ...names.defs, ...values.defs });
}

/** Gives a shape a name in the JSON Schema, where it is then referred to. */
export const named = <T>(name: string, of: Shape<T>): Shape<T> =>
  shape(of.joi, { $ref: `#/$defs/${name}` }, { ...of.defs, [name]: of.json });

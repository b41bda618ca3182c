import Joi from 'joi';
import { textFault } from '@/core/graph/storable';

declare const TYPE: unique symbol;
/** A Joi schema that also states, to the compiler, what it lets through. */
export type Form<T> = Joi.AnySchema & { readonly [TYPE]: T };
/** A member of a record that may be left out. */
export interface OptionalForm<T> {
  readonly optional: Form<T>;
}
type Member = Form<unknown> | OptionalForm<unknown>;
type Members = Readonly<Record<string, Member>>;
/** What a form lets through. */
export type TypeOf<F> =
  F extends Form<infer T> ? T : F extends OptionalForm<infer T> ? T | undefined : never;
type RecordOf<M extends Members> = {
  readonly [K in keyof M as M[K] extends OptionalForm<unknown> ? never : K]: TypeOf<M[K]>;
} & {
  readonly [K in keyof M as M[K] extends OptionalForm<unknown> ? K : never]?: TypeOf<M[K]>;
};

/** States the type of a schema; the only place where the two are put together by hand. */
export const form = <T>(schema: Joi.AnySchema): Form<T> => schema as Form<T>;

const storable: Joi.CustomValidator<string> = (value, helpers) => {
  const fault = textFault(value);
  return fault ? helpers.message({ custom: `{{#label}} ${fault}` }) : value;
};

/** Text of so many characters, without NUL or half characters. */
export const text = (most: number, least = 0): Form<string> =>
  form(least > 0 ? Joi.string().min(least).max(most).custom(storable) : emptyable(most));
const emptyable = (most: number): Joi.StringSchema =>
  Joi.string().allow('').max(most).custom(storable);
/** A name or a reason: text without blanks at its ends. */
export const trimmed = (most: number, least: number): Form<string> =>
  form(Joi.string().trim().min(least).max(most).custom(storable));
export const matching = (pattern: RegExp, most: number): Form<string> =>
  form(Joi.string().pattern(pattern).max(most).custom(storable));
/** The name of a stored thing, as it stands in addresses. */
export const identifier: Form<string> = matching(/^[A-Za-z0-9_.:@-]+$/, 80);
/** SHA-256 of a file, in hexadecimal. */
export const sha256: Form<string> = matching(/^[0-9a-f]{64}$/, 64);
export const whole = (least: number, most = 2147483647): Form<number> =>
  form(Joi.number().integer().min(least).max(most));
/** Any number that is one. */
export const real: Form<number> = form(Joi.number().unsafe());
export const share: Form<number> = form(Joi.number().min(0).max(1));
export const flag: Form<boolean> = form(Joi.boolean());
/** A moment as ISO 8601 text. */
export const moment: Form<string> = form(Joi.string().isoDate());
export const oneOf = <const V extends readonly (string | number)[]>(
  ...values: V
): Form<V[number]> => form(Joi.valid(...values));
export const nullable = <T>(of: Form<T>): Form<T | null> => form(of.allow(null));
export const list = <T>(of: Form<T>, most: number): Form<readonly T[]> =>
  // An item that must be there would forbid empty lists.
  form(Joi.array().items(of.optional()).max(most));
export const optional = <T>(of: Form<T>): OptionalForm<T> => ({ optional: of });

const schemaOf = (member: Member): Joi.AnySchema =>
  'optional' in member && !Joi.isSchema(member)
    ? (member.optional as Joi.AnySchema).optional()
    : (member as Joi.AnySchema).required();

/** An object with these members and no others. */
export function record<M extends Members>(members: M): Form<RecordOf<M>> {
  const entries = Object.entries(members).map(([name, member]) => [name, schemaOf(member)]);
  return form(Joi.object(Object.fromEntries(entries) as Joi.SchemaMap).required());
}

/** An object that another part of the program states and checks in full. */
export const object = <T>(schema: Joi.AnySchema = Joi.object().unknown()): Form<T> =>
  form<T>(schema);

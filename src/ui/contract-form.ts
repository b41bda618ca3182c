import { joiResolver } from '@hookform/resolvers/joi';
import type { FieldValues, Resolver } from 'react-hook-form';
import type Joi from 'joi';
import type { Form } from '@/contract/forms';

/** Words for what people get wrong most; the label stands above the field. */
const MESSAGES: Readonly<Record<string, string>> = {
  'string.empty': 'Fill this in.',
  'string.min': 'At least {{#limit}} characters.',
  'string.max': 'At most {{#limit}} characters.',
  'string.pattern.base': 'Not in the form that is needed.',
  'string.trim': 'No blanks at the ends.',
  'any.required': 'Fill this in.',
  'any.only': 'Choose one.',
};

/** Holds a form against the contract: what the page lets through, the server does too. */
export function contractResolver<T extends FieldValues>(form: Form<T>): Resolver<T> {
  const schema = (form as unknown as Joi.ObjectSchema<T>).messages({ ...MESSAGES });
  return joiResolver(schema, {
    convert: false,
    abortEarly: false,
    errors: { label: false },
  }) as Resolver<T>;
}

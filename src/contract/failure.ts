import Joi from 'joi';
import { optional, object, record, text } from './forms';
import type { TypeOf } from './forms';

/** What the server says when it did not do what was asked. */
export const failureForm = record({
  code: text(80, 1),
  message: text(4000),
  /** What was kept, or that nothing was changed. */
  kept: text(2000),
  action: text(2000),
  details: optional(object<unknown>(Joi.any())),
});
export type Failure = TypeOf<typeof failureForm>;

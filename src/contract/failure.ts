import Joi from 'joi';
import type { Diagnostic, DiagnosticCode } from '@/core/base/diagnostic';
import { form, list, object, oneOf, optional, record, text, whole } from './forms';
import type { Form, TypeOf } from './forms';

/** One finding about a document, as it crosses to the browser. */
export const findingForm: Form<Diagnostic> = record({
  // Not only today's codes: a page may be older than the server it asks.
  code: form<DiagnosticCode>(text(80, 1)),
  severity: oneOf('error', 'warning', 'note'),
  pointer: text(2000),
  message: text(4000),
  nodeId: optional(text(80)),
  character: optional(whole(0)),
});
export const MOST_FINDINGS = 200;

/** What the server says when it did not do what was asked. */
export const failureForm = record({
  code: text(80, 1),
  message: text(4000),
  /** What was kept, or that nothing was changed. */
  kept: text(2000),
  action: text(2000),
  findings: optional(list(findingForm, MOST_FINDINGS)),
  details: optional(object<unknown>(Joi.any())),
});
export type Failure = TypeOf<typeof failureForm>;

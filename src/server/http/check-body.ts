import type Joi from 'joi';
import type { Diagnostic } from '@/core/base/diagnostic';
import { pointer } from '@/core/graph/pointer';
import { parseDocument } from '@/core/graph/schema';
import { findUnstorable } from '@/core/graph/storable';

export type BodyCheck =
  | { readonly value: unknown }
  | { readonly fault: 'not-json' }
  | { readonly fault: 'invalid'; readonly pointer: string; readonly message: string }
  | { readonly fault: 'document'; readonly diagnostics: readonly Diagnostic[] };

/**
 * More values than the largest document has; parsing them would take longer than finding out that
 * they are too many.
 */
const MOST_COMMAS = 600_000;
function countCommas(bytes: Uint8Array): number {
  let count = 0;
  for (const byte of bytes) if (byte === 44) count++;
  return count;
}

const CHECK = { convert: false, abortEarly: true };

/** Parses and checks the JSON of a request; stops at the first fault. Never throws. */
export function checkBody(bytes: Uint8Array, form: Joi.AnySchema): BodyCheck {
  if (countCommas(bytes) > MOST_COMMAS) {
    const message = `It holds more than ${MOST_COMMAS.toLocaleString('en')} values`;
    return { fault: 'invalid', pointer: '', message };
  }
  let raw: unknown;
  try {
    raw = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    return { fault: 'not-json' };
  }
  return checkValue(raw, form);
}

/** As `checkBody`, of what is parsed already. */
export function checkValue(raw: unknown, form: Joi.AnySchema): BodyCheck {
  const unstorable = findUnstorable(raw);
  if (unstorable) return faultAt(raw, unstorable.pointer, unstorable.message);
  const { error, value } = form.validate(raw, CHECK) as {
    error?: Joi.ValidationError;
    value: unknown;
  };
  const first = error?.details[0];
  if (!first) return { value };
  return faultAt(raw, pointer(first.path), first.message);
}

/** A fault inside a document is reported as the document's own check reports it. */
function faultAt(raw: unknown, at: string, message: string): BodyCheck {
  const { document } = (raw ?? {}) as { document?: unknown };
  if (document !== undefined && (at === '/document' || at.startsWith('/document/'))) {
    const { diagnostics } = parseDocument(document);
    if (diagnostics.length > 0) return { fault: 'document', diagnostics };
  }
  return { fault: 'invalid', pointer: at, message };
}

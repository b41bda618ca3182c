import type Joi from 'joi';
import type { Diagnostic } from '../base/diagnostic';
import { pointer } from './pointer';
import { migrateDocument } from './migrations';
import { findUnstorable } from './storable';
import { documentShape } from './document-shape';
import { DOCUMENT_FORMAT, DOCUMENT_VERSION } from './limits';
import type { NetworkDocument } from './document';

const documentSchema = documentShape.joi.required();

/** A document with what is noteworthy about it, or null with what is wrong. */
export type ParsedDocument =
  | { readonly document: NetworkDocument; readonly diagnostics: readonly Diagnostic[] }
  | { readonly document: null; readonly diagnostics: readonly Diagnostic[] };

/**
 * Reads anything as a document: brings earlier versions to the present one, checks the shape and
 * says, with a pointer, what is wrong. Never throws.
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
        `${String(DOCUMENT_VERSION)}. Nothing of it was changed; open it with the newer release.`,
    );
  }
  const unstorable = findUnstorable(raw);
  if (unstorable) return refuse('document.shape', unstorable.pointer, unstorable.message);
  const migrated = migrateDocument(raw);
  const { error } = documentSchema.validate(migrated.raw, { abortEarly: true, convert: false });
  if (!error) return { document: migrated.raw as NetworkDocument, diagnostics: [] };
  return { document: null, diagnostics: shapeFaults(migrated.raw, error) };
}

/**
 *  How many faults are reported of a document whose shape is wrong, and how large it may be to look
 *  for more than the first.
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

import { isRecord } from '../base/record';
import type { JsonRecord } from '../base/record';
import { DOCUMENT_FORMAT } from './limits';
import type { Migration } from './migration';
import { migrateFrom0 } from './migrations/from-0';

/** One for each version before the present one, in their order. */
export const MIGRATIONS: readonly Migration[] = [migrateFrom0];

/**
 * Brings parsed JSON of an earlier version to the present one, step by step. Anything else is given
 * back as it is.
 */
export function migrateDocument(raw: unknown): {
  readonly raw: unknown;
  readonly steps: readonly Migration[];
} {
  if (!isRecord(raw) || raw['format'] !== DOCUMENT_FORMAT) return { raw, steps: [] };
  const { version } = raw;
  const steps = MIGRATIONS.filter(({ from }) => typeof version === 'number' && from >= version);
  if (steps.length === 0 || steps[0]?.from !== version) return { raw, steps: [] };
  let document: JsonRecord = raw;
  for (const step of steps) document = { ...step.migrate(document), version: step.from + 1 };
  return { raw: document, steps };
}

/** Groups of a release, which were stored with the version of the document they came from. */
export const asDocument = (groups: unknown, version: number): JsonRecord => ({
  format: DOCUMENT_FORMAT,
  version,
  name: '',
  network: { nodes: [], strands: [], regions: [], notes: [] },
  groups,
});

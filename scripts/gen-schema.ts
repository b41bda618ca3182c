/**
 * Writes the JSON Schema of documents, from the same limits the program checks by. Tests hold it
 * equal in judgement to the program.
 */
import path from 'node:path';
import { documentJsonSchema } from '@/core/graph/json-schema';
import { writeChanged } from './write-changed';

writeChanged(
  path.resolve(import.meta.dirname, '../docs/network.schema.json'),
  `${JSON.stringify(documentJsonSchema(), null, 2)}\n`,
);

import { documentShape } from './document-shape';
import { DOCUMENT_VERSION } from './limits';
import type { JsonSchema } from './shape';

/**
 * The form of a saved document as JSON Schema (draft 2020-12), for tools that write or check
 * documents without this program.
 */
export function documentJsonSchema(): JsonSchema {
  const version = String(DOCUMENT_VERSION);
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    $id: `bright-loom-network-${version}`,
    title: `Bright Loom network, version ${version}`,
    ...documentShape.json,
    $defs: documentShape.defs,
  };
}

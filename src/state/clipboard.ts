import { isClip } from '../core/edit/nodes';
import type { Clip } from '../core/edit/nodes';
import { checkReferences } from '../core/compile/check/check';
import { parseDocument } from '../core/graph/schema';
import { hasErrors } from '../core/base/diagnostic';
import { emptyDocument } from '../core/graph/document';

/** A clip from clipboard text, if it is one and everything in it is valid; else null. */
export function readClip(text: string): Clip | null {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return null;
  }
  if (!isClip(raw)) return null;
  const trial = {
    ...emptyDocument('clip'),
    groups: raw.groups,
    network: { nodes: raw.nodes, strands: raw.strands, regions: [], notes: [] },
  };
  const parsed = parseDocument(trial);
  return parsed.document && !hasErrors(checkReferences(parsed.document)) ? raw : null;
}

import { isClip } from '../core/edit/nodes';
import type { Clip } from '../core/edit/nodes';
import { checkReferences } from '../core/compile/check/check';
import { readStored } from '../core/compile/upgrade';
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
  const { document } = readStored(trial);
  if (!document || hasErrors(checkReferences(document))) return null;
  const { nodes, strands } = document.network;
  return { ...raw, nodes, strands, groups: document.groups };
}

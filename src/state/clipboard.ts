import { isClip } from '../core/edit/nodes';
import type { Clip } from '../core/edit/nodes';
import { checkReferences } from '../core/compile/check/check';
import { readStored } from '../core/compile/upgrade';
import { hasErrors } from '../core/base/diagnostic';
import { emptyDocument } from '../core/graph/document';

/** A clip, or why the text is none. */
export type ReadClip = { readonly clip: Clip } | { readonly reason: string };

const MOST_CHARACTERS = 8 * 2 ** 20;
const NOTHING = 'There are no nodes on the clipboard.';

/** Reads a clip from clipboard text; everything in it is valid then. */
export function readClip(text: string): ReadClip {
  if (text.length > MOST_CHARACTERS)
    return { reason: 'What is on the clipboard is too much to paste: nothing was pasted.' };
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return { reason: NOTHING };
  }
  if (!isClip(raw)) return { reason: NOTHING };
  const trial = {
    ...emptyDocument('clip'),
    groups: raw.groups,
    network: { nodes: raw.nodes, strands: raw.strands, regions: [], notes: [] },
  };
  const { document, diagnostics } = readStored(trial);
  const findings = document ? checkReferences(document) : diagnostics;
  if (!document || hasErrors(findings)) {
    const worst = findings.find(({ severity }) => severity === 'error');
    const why = worst?.message ?? 'They were copied in another release.';
    return { reason: `The copied nodes cannot be read here, and nothing was pasted: ${why}` };
  }
  const { nodes, strands } = document.network;
  return { clip: { ...raw, nodes, strands, groups: document.groups } };
}

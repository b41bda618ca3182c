import { own } from '../core/base/own';
import { isClip } from '../core/edit/clip';
import type { Clip } from '../core/edit/clip';
import { findNodeDefinition } from '../core/compile/catalogue';
import { checkReferences } from '../core/compile/check/check';
import { readStored } from '../core/compile/upgrade';
import { hasErrors } from '../core/base/diagnostic';
import { OUTPUT_EDGE, emptyDocument } from '../core/graph/document';
import type { NodeInstance, Strand } from '../core/graph/document';
import type { ModelFacts } from './stage-state';

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
    ...(raw.lights ? { lights: raw.lights } : {}),
    network: {
      nodes: raw.nodes,
      strands: [...raw.strands, ...(raw.end ?? [])],
      regions: [],
      notes: raw.notes ?? [],
    },
  };
  const { document, diagnostics } = readStored(trial);
  const findings = document ? checkReferences(document) : diagnostics;
  if (!document || hasErrors(findings)) {
    const worst = findings.find(({ severity }) => severity === 'error');
    const why = worst?.message ?? 'They were copied in another release.';
    return { reason: `The copied nodes cannot be read here, and nothing was pasted: ${why}` };
  }
  const { nodes, notes } = document.network;
  const isEnd = ({ to }: Strand): boolean => to.node === OUTPUT_EDGE;
  const strands = document.network.strands.filter((strand) => !isEnd(strand));
  const end = document.network.strands.filter(isEnd);
  const clip: Clip = {
    ...raw,
    nodes,
    strands,
    groups: document.groups,
    ...(raw.end ? { end } : {}),
    ...(raw.notes ? { notes } : {}),
  };
  return { clip };
}

const WORDS = { parts: 'part', attributes: 'attribute', sets: 'set of coordinates' } as const;

/** What pasted nodes name of a model that the model at hand does not have, in sentences. */
export function missingNames(
  nodes: readonly NodeInstance[],
  model: ModelFacts | null,
): readonly string[] {
  if (!model) return [];
  const missing = nodes.flatMap((node) =>
    Object.entries(findNodeDefinition(node)?.options ?? {}).flatMap(([id, { open, choices }]) => {
      const chosen = own(node.options, id);
      if (!open || !chosen || choices.some(({ value }) => value === chosen)) return [];
      return model[open].includes(chosen)
        ? []
        : [`This model has no ${WORDS[open]} “${chosen}”: choose another on the pasted card.`];
    }),
  );
  return [...new Set(missing)];
}

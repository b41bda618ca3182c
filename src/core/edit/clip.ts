import { findDefinition } from '../compile/catalogue';
import { canonicalJson } from '../graph/canonical';
import { OUTPUT_EDGE } from '../graph/document';
import type {
  GroupDefinition,
  Network,
  NetworkDocument,
  NodeInstance,
  Strand,
} from '../graph/document';
import { freshId, getNetwork, neededGroups, nodeIds, withNetwork } from './board';
import type { BoardId } from './board';
import { fitGroups } from './clip-groups';
import { markId } from './marks';
import { changeBoard } from './nodes';
import { connect } from './strands';

/**
 * What copying puts on the clipboard: nodes, the strands between them, strands from outside, and
 * the groups they need.
 */
export interface Clip {
  readonly format: 'bright-loom/clip';
  readonly version: 1;
  readonly nodes: readonly NodeInstance[];
  readonly strands: readonly Strand[];
  readonly incoming: readonly Strand[];
  readonly groups: Readonly<Record<string, GroupDefinition>>;
  /** Notes that were chosen with them. */
  readonly notes?: Network['notes'];
  /** Strands from them to the surface a material ends in. */
  readonly end?: readonly Strand[];
  /** The lights of the material, where some node among them follows lights. */
  readonly lights?: NonNullable<NetworkDocument['lights']>;
}

/** Whether a node, or one inside the groups it needs, follows the lights of its material. */
const followsLights = (
  nodes: readonly NodeInstance[],
  groups: Readonly<Record<string, GroupDefinition>>,
): boolean =>
  [...nodes, ...Object.values(groups).flatMap(({ network }) => network.nodes)].some(
    (node) => findDefinition(node.type)?.follows === 'lights',
  );

/**
 * Nodes with the strands between them, those that enter them, and the groups they need; the notes
 * among what is chosen, the strand to the material's end, and the lights they follow.
 * @param ids of nodes, and marks of notes
 */
export function copyNodes(document: NetworkDocument, board: BoardId, ids: readonly string[]): Clip {
  const network = getNetwork(document, board);
  const chosen = new Set(ids);
  // A copy is edited alone until somebody links it.
  const nodes = network.nodes
    .filter((node) => chosen.has(node.id))
    .map(({ twin: _twin, ...node }): NodeInstance => node);
  const groups = neededGroups(document, { ...network, nodes });
  const notes = network.notes.filter(({ id }) => chosen.has(markId.note(id)));
  const end =
    board === null
      ? network.strands.filter(({ from, to }) => chosen.has(from.node) && to.node === OUTPUT_EDGE)
      : [];
  const lights = followsLights(nodes, groups) ? document.lights : undefined;
  return {
    format: 'bright-loom/clip',
    version: 1,
    nodes,
    strands: network.strands.filter(({ from, to }) => chosen.has(from.node) && chosen.has(to.node)),
    incoming: network.strands.filter(
      ({ from, to }) => !chosen.has(from.node) && chosen.has(to.node),
    ),
    groups,
    ...(notes.length > 0 ? { notes } : {}),
    ...(end.length > 0 ? { end } : {}),
    ...(lights ? { lights } : {}),
  };
}

/** Whether parsed JSON looks like copied nodes; the document's check judges the rest. */
export function isClip(raw: unknown): raw is Clip {
  const clip = raw as Partial<Clip> | null;
  return (
    typeof clip === 'object' &&
    clip !== null &&
    clip.format === 'bright-loom/clip' &&
    Array.isArray(clip.nodes) &&
    Array.isArray(clip.strands) &&
    Array.isArray(clip.incoming) &&
    (clip.end === undefined || Array.isArray(clip.end)) &&
    typeof clip.groups === 'object'
  );
}

/** A document with a clip in it. */
export interface Pasted {
  readonly document: NetworkDocument;
  readonly ids: readonly string[];
  /** What of the clip had no place, in sentences. */
  readonly left: readonly string[];
}

/**
 * Pastes a clip, shifted; with `keepIncoming`, strands from outside are laid again where their
 * sources still are.
 */
export function pasteClip(
  document: NetworkDocument,
  board: BoardId,
  clip: Clip,
  shift: readonly [number, number],
  keepIncoming: boolean,
): Pasted {
  const network = getNetwork(document, board);
  const taken = nodeIds(network);
  const renamed = new Map<string, string>();
  for (const node of clip.nodes) {
    const id = freshId('n', taken);
    taken.add(id);
    renamed.set(node.id, id);
  }
  const fitted = fitGroups(document, clip.groups, clip.nodes);
  const nodes = fitted.nodes.map((node): NodeInstance => ({
    ...node,
    id: renamed.get(node.id) ?? node.id,
    at: [node.at[0] + shift[0], node.at[1] + shift[1]],
  }));
  const withNodes = withNetwork({ ...document, groups: fitted.groups }, board, {
    ...network,
    nodes: [...network.nodes, ...nodes],
  });
  const lay = (
    current: NetworkDocument,
    { from, to, conversion, plain, bends }: Strand,
  ): NetworkDocument => {
    const start = { node: renamed.get(from.node) ?? from.node, output: from.output };
    const next = connect(current, board, start, {
      node: renamed.get(to.node) ?? to.node,
      input: to.input,
    });
    const made = getNetwork(next, board).strands.at(-1);
    if (next === current || !made) return next;
    const kept: Partial<Strand> = {
      ...(conversion ? { conversion } : {}),
      ...(plain ? { plain } : {}),
      ...(bends && renamed.has(from.node)
        ? { bends: bends.map(([x, y]) => [x + shift[0], y + shift[1]] as const) }
        : {}),
    };
    return changeBoard(next, board, (network) => ({
      ...network,
      strands: network.strands.map((s) => (s.id === made.id ? { ...s, ...kept } : s)),
    }));
  };
  const inner = clip.strands.reduce(lay, withNodes);
  const wired = keepIncoming ? clip.incoming.reduce(lay, inner) : inner;
  const left: string[] = [];
  const ended = layEnd(wired, board, clip, renamed, left);
  return {
    document: withLights(withNotes(ended, board, clip, shift), clip, left),
    ids: nodes.map((node) => node.id),
    left,
  };
}

/** Lays the strand to the material's end where it is free. */
function layEnd(
  document: NetworkDocument,
  board: BoardId,
  { end = [] }: Clip,
  renamed: ReadonlyMap<string, string>,
  left: string[],
): NetworkDocument {
  const [strand] = end;
  if (!strand) return document;
  const isFree = !getNetwork(document, board).strands.some(({ to }) => to.node === OUTPUT_EDGE);
  const from = { node: renamed.get(strand.from.node) ?? '', output: strand.from.output };
  const laid = board === null && isFree ? connect(document, board, from, strand.to) : document;
  if (laid === document)
    left.push('The end of this board has a surface already: the pasted one is wired to nothing.');
  return laid;
}

function withNotes(
  document: NetworkDocument,
  board: BoardId,
  { notes = [] }: Clip,
  [dx, dy]: readonly [number, number],
): NetworkDocument {
  if (notes.length === 0) return document;
  return changeBoard(document, board, (network) => {
    const taken = new Set(network.notes.map(({ id }) => id));
    const pasted = notes.map((note) => {
      const id = freshId('note', taken);
      taken.add(id);
      return { ...note, id, at: [note.at[0] + dx, note.at[1] + dy] as const };
    });
    return { ...network, notes: [...network.notes, ...pasted] };
  });
}

/** Lights come along where the material has none of its own; else they are named. */
function withLights(document: NetworkDocument, { lights }: Clip, left: string[]): NetworkDocument {
  if (!lights || canonicalJson(lights) === canonicalJson(document.lights ?? null)) return document;
  if (!document.lights) return { ...document, lights };
  left.push('This material has lights of its own: what follows lights looks as they are here.');
  return document;
}

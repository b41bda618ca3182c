import { own } from '../base/own';
import {
  chosenOptions,
  describePorts,
  findNodeDefinition,
  getNodeTitle,
  idleInputs,
  takesMany,
} from '../compile/catalogue';
import type { ModelBounds } from '../compile/model-scale';
import { getInputValue } from '../compile/uniforms';
import { isTriple } from '../graph/document';
import type { Network, NetworkDocument, NodeInstance, Strand, Triple } from '../graph/document';
import { changeNode, getNetwork } from './board';
import type { BoardId } from './board';
import { copyNodes, pasteClip } from './clip';
import { setOption, setValue } from './nodes';
import { connect, inputKind } from './strands';

/** The most times that a chain is repeated at once. */
export const MOST_REPEATS = 32;

/** A chain that feeds an input which takes many. */
export interface ListChain {
  readonly ids: readonly string[];
  /** The strand from its end into the list. */
  readonly end: Strand;
}

/** The chosen nodes, and of a single one all that feeds nothing else. */
function chainOf({ strands }: Network, chosen: readonly string[]): readonly string[] {
  if (chosen.length !== 1) return chosen;
  const chain = new Set(chosen);
  for (let size = 0; size !== chain.size;) {
    size = chain.size;
    for (const { from } of strands.filter(({ to }) => chain.has(to.node))) {
      const readers = strands.filter((strand) => strand.from.node === from.node);
      if (readers.every(({ to }) => chain.has(to.node))) chain.add(from.node);
    }
  }
  return [...chain];
}

/** The chain that ends in a list with what is chosen; null where nothing chosen feeds one. */
export function findListChain(
  document: NetworkDocument,
  board: BoardId,
  chosen: readonly string[],
): ListChain | null {
  const network = getNetwork(document, board);
  const nodes = new Set(network.nodes.map(({ id }) => id));
  const ids = chainOf(
    network,
    chosen.filter((id) => nodes.has(id)),
  );
  const inside = new Set(ids);
  const end = network.strands.find(({ from, to }) => {
    const kind = inputKind(document, board, to);
    return inside.has(from.node) && !inside.has(to.node) && kind && takesMany(kind);
  });
  return end ? { ids, end } : null;
}

const turned = ([x, y, z]: Triple, turns: number): Triple => {
  const [c, s] = [Math.cos(turns * 2 * Math.PI), Math.sin(turns * 2 * Math.PI)];
  return [x * c + z * s, y, z * c - x * s].map((lane) => Number(lane.toFixed(5))) as never;
};

/** The model that chains are repeated on: its parts in order, and its box; null while unknown. */
export interface RepeatedOn {
  readonly parts: readonly string[];
  readonly box: ModelBounds | null;
}

const COORDINATES = [0, 1, 2] as const;
const rounded = (value: number): number => Number(value.toFixed(5));

/**
 * The k-th of so many places that share out the longest side of the model's box, in the measure of
 * the node; the first stays where it was, and the others take what is left.
 */
function placeOnModel(
  node: NodeInstance,
  [x, y, z]: Triple,
  {
    k,
    count,
    box,
  }: { readonly k: number; readonly count: number; readonly box: ModelBounds | null },
): Triple {
  const definition = findNodeDefinition(node);
  const isMetres = definition && chosenOptions(definition, node)['measure'] === 'units';
  const extent = box?.extent ?? [1, 0, 0];
  const axis = COORDINATES.reduce((a, b) => ((extent[b] ?? 0) > (extent[a] ?? 0) ? b : a), 0);
  const metres = extent[axis] ?? 1;
  const long = isMetres || !box ? metres : metres / Math.max(box.size, 1e-12);
  const low = isMetres && box ? (box.minimum[axis] ?? 0) : -long / 2;
  const slots = Array.from({ length: count }, (_, slot) => low + ((slot + 0.5) / count) * long);
  const place = [x, y, z];
  const from = place[axis] ?? 0;
  const own = slots.reduce((a, b) => (Math.abs(b - from) < Math.abs(a - from) ? b : a), Infinity);
  place[axis] = rounded(slots.filter((slot) => slot !== own)[k - 1] ?? from);
  return place as unknown as Triple;
}

/** Makes one copy differ: another place, direction, part or seed. */
function varied(
  document: NetworkDocument,
  board: BoardId,
  node: NodeInstance,
  { k, count, parts, box }: RepeatedOn & { readonly k: number; readonly count: number },
): NetworkDocument {
  const definition = findNodeDefinition(node);
  let next = document;
  const idle = new Set(idleInputs(node));
  const { strands } = getNetwork(document, board);
  const isTyped = (id: string): boolean =>
    !idle.has(id) && !strands.some(({ to }) => to.node === node.id && to.input === id);
  for (const { id, port } of describePorts(document, node)?.inputs ?? []) {
    if (!isTyped(id)) continue;
    const value = getInputValue(node, id);
    if (port?.picks === 'place' && isTriple(value))
      next = setValue(next, board, node.id, id, placeOnModel(node, value, { k, count, box }));
    if (port?.picks === 'direction' && isTriple(value))
      next = setValue(next, board, node.id, id, turned(value, k / count));
    if (port?.counts === 'seed' && typeof value === 'number')
      next = setValue(next, board, node.id, id, value + k);
  }
  const [option] =
    Object.entries(definition?.options ?? {}).find(([, each]) => each.open === 'parts') ?? [];
  const chosen = option === undefined ? '' : (own(node.options, option) ?? '');
  const part = parts[(Math.max(0, parts.indexOf(chosen)) + k) % Math.max(1, parts.length)];
  return option !== undefined && chosen !== '' && part !== undefined
    ? setOption(next, board, node.id, option, part)
    : next;
}

/**
 * Repeats a chain until it is there so many times, all ends wired into the same list. Copies keep
 * what feeds them from outside and differ by place, direction, part or seed, where they have one.
 * @param count in all, 2 to `MOST_REPEATS`
 * @param on the model: copies lie on it
 */
export function repeatChain(
  document: NetworkDocument,
  board: BoardId,
  { ids, end }: ListChain,
  count: number,
  on: RepeatedOn,
): { readonly document: NetworkDocument; readonly ids: readonly string[] } {
  const clip = copyNodes(document, board, ids);
  const rows = clip.nodes.map(({ at }) => at[1]);
  const height = Math.max(...rows) - Math.min(...rows) + 200;
  const endIndex = clip.nodes.findIndex(({ id }) => id === end.from.node);
  const made: string[] = [];
  let current = document;
  for (let k = 1; k < Math.min(count, MOST_REPEATS); k++) {
    const pasted = pasteClip(current, board, clip, [0, height * k], true);
    current = pasted.document;
    const from = { node: pasted.ids[endIndex] ?? '', output: end.from.output };
    current = connect(current, board, from, end.to);
    pasted.ids.forEach((id, at) => {
      const source = clip.nodes[at];
      if (!source) return;
      current = varied(current, board, { ...source, id }, { k, count, ...on });
      // Lists and the stage tell them apart by their names.
      const name = `${getNodeTitle(document, source)} ${String(k + 1)}`.slice(0, 200);
      current = changeNode(current, board, id, (node) => ({ ...node, name }));
    });
    made.push(...pasted.ids);
  }
  return { document: current, ids: made };
}

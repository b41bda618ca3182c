import { canonicalJson } from '../graph/canonical';
import type { Network, NetworkDocument, NodeInstance, Strand } from '../graph/document';
import { changeNode, freshId, getNetwork, withNetwork } from './board';
import type { BoardId } from './board';
import { copyNodes, pasteClip } from './clip';
import { connect, disconnect } from './strands';

/** The other nodes of a board that are edited together with one. */
export function twinsOf({ nodes }: Network, id: string): readonly NodeInstance[] {
  const twin = nodes.find((node) => node.id === id)?.twin;
  return twin === undefined ? [] : nodes.filter((node) => node.twin === twin && node.id !== id);
}

/**
 * A linked copy of a node: fed by the same strands, and from now on edited together with it. Every
 * copy is a whole node: what reads the network needs to know nothing of it.
 */
export function addTwin(
  document: NetworkDocument,
  board: BoardId,
  id: string,
): { readonly document: NetworkDocument; readonly id: string } | null {
  const network = getNetwork(document, board);
  const node = network.nodes.find((each) => each.id === id);
  if (!node) return null;
  const taken = new Set(network.nodes.flatMap(({ twin }) => twin ?? []));
  const twin = node.twin ?? freshId('t', taken);
  const marked = changeNode(document, board, id, (each) => ({ ...each, twin }));
  const pasted = pasteClip(marked, board, copyNodes(marked, board, [id]), [36, 220], true);
  const [copy] = pasted.ids;
  if (copy === undefined) return null;
  const link = (each: NodeInstance): NodeInstance => ({ ...each, twin });
  return { document: changeNode(pasted.document, board, copy, link), id: copy };
}

/** From now on the node is edited alone; the last of its kind is no copy either. */
export function partTwin(document: NetworkDocument, board: BoardId, id: string): NetworkDocument {
  const alone = ({ twin: _twin, ...node }: NodeInstance): NodeInstance => node;
  const others = twinsOf(getNetwork(document, board), id);
  const parted = changeNode(document, board, id, alone);
  const [last, ...more] = others;
  return last && more.length === 0 ? changeNode(parted, board, last.id, alone) : parted;
}

/** What twins have in common. */
const sharedOf = ({ id: _id, at: _at, folded: _folded, ...shared }: NodeInstance) => shared;
const strandsInto = ({ strands }: Network, id: string): readonly Strand[] =>
  strands.filter(({ to }) => to.node === id);
const factsOf = ({ id: _id, bends: _bends, to, ...facts }: Strand): unknown => ({
  ...facts,
  input: to.input,
});

/** Lays into a twin what was laid into a node; what would close a circle is left out. */
function fedAlike(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  twin: string,
): NetworkDocument {
  const old = strandsInto(getNetwork(document, board), twin).map((strand) => strand.id);
  const cleared = disconnect(document, board, old);
  return strandsInto(getNetwork(document, board), id).reduce((current, strand) => {
    const next = connect(current, board, strand.from, { node: twin, input: strand.to.input });
    const made = getNetwork(next, board).strands.at(-1);
    if (next === current || !made) return current;
    const { conversion, plain } = strand;
    const facts = {
      ...(conversion === undefined ? {} : { conversion }),
      ...(plain === undefined ? {} : { plain }),
    };
    return changeStrand(next, board, made.id, facts);
  }, cleared);
}

function changeStrand(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  facts: Partial<Strand>,
): NetworkDocument {
  const network = getNetwork(document, board);
  const strands = network.strands.map((each) => (each.id === id ? { ...each, ...facts } : each));
  return withNetwork(document, board, { ...network, strands });
}

/**
 * Makes an edit of a node one of all its twins: values, modes, name and what is wired into it.
 * @param before the document before the edit
 */
export function spreadToTwins(
  before: NetworkDocument,
  after: NetworkDocument,
  board: BoardId,
): NetworkDocument {
  const [was, is] = [getNetwork(before, board), getNetwork(after, board)];
  if (was === is || !is.nodes.some(({ twin }) => twin !== undefined)) return after;
  const old = new Map(was.nodes.map((node) => [node.id, node]));
  const done = new Set<string>();
  return is.nodes.reduce((current, node) => {
    const { twin, id } = node;
    const known = old.get(id);
    // Only what is there longer can have been edited; of two that were, the first counts.
    if (twin === undefined || known?.twin !== twin || done.has(twin)) return current;
    const isChanged =
      known !== node && canonicalJson(sharedOf(known)) !== canonicalJson(sharedOf(node));
    const isRewired =
      canonicalJson(strandsInto(was, id).map(factsOf)) !==
      canonicalJson(strandsInto(is, id).map(factsOf));
    if (!isChanged && !isRewired) return current;
    done.add(twin);
    return twinsOf(is, id).reduce((next, other) => {
      const changed = isChanged
        ? changeNode(next, board, other.id, (each) => ({
            ...sharedOf(node),
            id: each.id,
            at: each.at,
            ...(each.folded === undefined ? {} : { folded: each.folded }),
          }))
        : next;
      return isRewired ? fedAlike(changed, board, id, other.id) : changed;
    }, current);
  }, after);
}

import { describePorts } from '../compile/catalogue';
import { getInputValue } from '../compile/uniforms';
import type { NetworkDocument, NodeInstance } from '../graph/document';
import { getNetwork } from './board';
import type { BoardId } from './board';
import { addNode, removeNodes, setValue } from './nodes';
import { insertIntoStrand } from './strands';

/** Where a node says, from 0 to 1, which of two others shows: its mask. */
const MASKS: readonly string[] = ['where', 'mask', 'amount'];
const NUMBERS: ReadonlySet<string> = new Set(['scalar', 'flex']);

/** The input that decides between the others of a node, by its name; undefined without one. */
export const maskInput = (document: NetworkDocument, node: NodeInstance): string | undefined => {
  const inputs = describePorts(document, node)?.inputs ?? [];
  return MASKS.flatMap((name) =>
    inputs.filter(({ id, kind }) => NUMBERS.has(kind) && id === name),
  )[0]?.id;
};

const isInvert = ({ type, options }: NodeInstance): boolean =>
  type === 'math.math' && options['operation'] === 'invert';

/**
 * Makes what arrives at an input its complement, 1 − x: a typed value is turned over; into a strand
 * an inversion is put, and one that stands there for this input alone goes.
 */
export function complementInput(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  input: string,
): NetworkDocument {
  const network = getNetwork(document, board);
  const node = network.nodes.find((each) => each.id === id);
  const strand = network.strands.find(({ to }) => to.node === id && to.input === input);
  if (!node) return document;
  if (!strand) {
    const typed = getInputValue(node, input);
    const turned = typeof typed === 'number' ? Number((1 - typed).toPrecision(7)) : undefined;
    return turned === undefined ? document : setValue(document, board, id, input, turned);
  }
  const source = network.nodes.find((each) => each.id === strand.from.node);
  const readers = network.strands.filter(({ from }) => from.node === source?.id).length;
  if (source && isInvert(source) && readers === 1) return removeNodes(document, board, [source.id]);
  const [x, y] = node.at;
  const at = [x - 170, y + 40] as const;
  const added = addNode(document, board, 'math.math', at, undefined, { operation: 'invert' });
  return insertIntoStrand(added.document, board, strand.id, added.id);
}

import { passedInput } from '../compile/bypass';
import { describePorts } from '../compile/catalogue';
import type { BoardId, NetworkDocument, NodeInstance, Strand } from '../graph/document';
import { getNetwork, withNetwork } from './board';

/** Two nodes of a chain in the other order, and the output that now ends the two. */
export interface OtherOrder {
  readonly document: NetworkDocument;
  readonly ends: { readonly node: string; readonly output: string };
  /** The node that comes first now. */
  readonly first: NodeInstance;
}

/** The strand into the input that an output passes on while its node is off. */
function mainStrand(
  document: NetworkDocument,
  strands: readonly Strand[],
  node: NodeInstance,
  output: string,
): Strand | undefined {
  const ports = describePorts(document, node);
  const port = ports?.outputs.find(({ id }) => id === output);
  const wired = (input: string): Strand | undefined =>
    strands.find(({ to }) => to.node === node.id && to.input === input);
  if (!ports || !port) return undefined;
  const passed = passedInput(node, ports, port, (input) => wired(input) !== undefined);
  return passed && wired(passed.id);
}

/**
 * Puts a node behind the one it feeds: what it got goes into that one, whose result goes into it.
 * Everything else of both stays.
 * @returns null where the two are no plain piece of a chain: the first feeds something else as
 *   well, or one of them passes nothing on
 */
export function exchangeOrder(
  document: NetworkDocument,
  board: BoardId,
  id: string,
): OtherOrder | null {
  const network = getNetwork(document, board);
  const { nodes, strands } = network;
  const [between, other] = strands.filter(({ from }) => from.node === id);
  const first = nodes.find((node) => node.id === id);
  const second = nodes.find((node) => node.id === between?.to.node);
  if (!between || other || !first || !second) return null;
  const outgoing = strands.filter(({ from }) => from.node === second.id);
  const outputs = [...new Set(outgoing.map(({ from }) => from.output))];
  const [output] = outputs;
  if (output === undefined || outputs.length > 1) return null;
  const into = mainStrand(document, strands, first, between.from.output);
  if (!into || mainStrand(document, strands, second, output)?.id !== between.id) return null;
  const end = { node: first.id, output: between.from.output };
  const laid = strands.map((strand): Strand => {
    if (strand.id === into.id) return { ...strand, to: between.to };
    if (strand.id === between.id)
      return { ...strand, from: { node: second.id, output }, to: into.to };
    return outgoing.includes(strand) ? { ...strand, from: end } : strand;
  });
  const placed = nodes.map((node) =>
    node.id === first.id
      ? { ...node, at: second.at }
      : node.id === second.id
        ? { ...node, at: first.at }
        : node,
  );
  return {
    document: withNetwork(document, board, { ...network, nodes: placed, strands: laid }),
    ends: end,
    first: second,
  };
}

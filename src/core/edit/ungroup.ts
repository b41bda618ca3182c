import type { NodeId } from '../base/ids';
import { settleAll } from './amounts';
import { own } from '../base/own';
import { INPUT_EDGE, OUTPUT_EDGE } from '../graph/document';
import type {
  BoardId,
  GroupDefinition,
  Network,
  NetworkDocument,
  NodeInstance,
  Strand,
} from '../graph/document';
import { dissolvedNodes } from './dissolved-values';
import { freshId, getNetwork, nodeIds, strandIds, withNetwork } from './board';

/** A group that is opened up: where its card stands, and the new ids of its nodes. */
interface Opening {
  readonly network: Network;
  readonly group: GroupDefinition;
  readonly nodeId: NodeId;
  readonly renamed: ReadonlyMap<NodeId, NodeId>;
}

/**
 * Puts a group's nodes back on the board in place of one of its cards; what its dials set is
 * written into them, and its overall amount becomes nodes of the board.
 * @throws AppError when a dial is wired, or moved and acting on a strand: that would be lost
 */
export function ungroup(given: NetworkDocument, board: BoardId, nodeId: NodeId): NetworkDocument {
  const document = settleAll(given, board, nodeId);
  const network = getNetwork(document, board);
  const instance = network.nodes.find((node) => node.id === nodeId);
  const group = instance?.group === undefined ? undefined : own(document.groups, instance.group);
  if (!instance || !group) return document;
  const opening = { network, group, nodeId, renamed: renameNodes(network, group) };
  const nodes = dissolvedNodes({ document, network, group, card: instance }).map(
    (node): NodeInstance => ({
      ...node,
      id: opening.renamed.get(node.id) ?? node.id,
    }),
  );
  const others = network.strands.filter(
    (strand) => strand.from.node !== nodeId && strand.to.node !== nodeId,
  );
  return withNetwork(document, board, {
    ...network,
    nodes: [...network.nodes.filter((node) => node.id !== nodeId), ...nodes],
    strands: [...others, ...innerStrands(opening), ...leavingStrands(opening)],
  });
}

function renameNodes(network: Network, group: GroupDefinition): ReadonlyMap<NodeId, NodeId> {
  const taken = nodeIds(network);
  return new Map(
    group.network.nodes.map((node): [NodeId, NodeId] => {
      const id = taken.has(node.id) ? freshId('n', taken) : node.id;
      taken.add(id);
      return [node.id, id];
    }),
  );
}

/** What an output within the group is outside: of a renamed node, or all that fed the group. */
function outsideOf({ network, nodeId, renamed }: Opening, from: Strand['from']): Strand['from'][] {
  if (from.node !== INPUT_EDGE)
    return [{ node: renamed.get(from.node) ?? '', output: from.output }];
  return network.strands
    .filter(({ to }) => to.node === nodeId && to.input === from.output)
    .sort((a, b) => a.order - b.order)
    .map((strand) => strand.from);
}

function innerStrands(opening: Opening): Strand[] {
  const taken = strandIds(opening.network);
  const fresh = (): string => {
    const id = freshId('w', taken);
    taken.add(id);
    return id;
  };
  return opening.group.network.strands.flatMap((strand): Strand[] => {
    if (strand.to.node === OUTPUT_EDGE) return [];
    const to = { node: opening.renamed.get(strand.to.node) ?? '', input: strand.to.input };
    const sources = outsideOf(opening, strand.from);
    // Of a list each strand has a place of its own, right after the one before.
    return sources.map((from, k) => ({
      ...strand,
      id: fresh(),
      from,
      to,
      order: strand.order + k / Math.max(1, sources.length),
    }));
  });
}

function leavingStrands(opening: Opening): Strand[] {
  return opening.network.strands
    .filter((strand) => strand.from.node === opening.nodeId)
    .flatMap((strand): Strand[] => {
      const end = opening.group.network.strands.find(
        (each) => each.to.node === OUTPUT_EDGE && each.to.input === strand.from.output,
      );
      const [from] = end ? outsideOf(opening, end.from) : [];
      return from ? [{ ...strand, from }] : [];
    });
}

import { AppError } from '../base/diagnostic';
import type { NodeId } from '../base/ids';
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
import { freshId, getNetwork, nodeIds, strandIds, withNetwork } from './board';

/** A group that is opened up: where its card stands, and the new ids of its nodes. */
interface Opening {
  readonly network: Network;
  readonly group: GroupDefinition;
  readonly nodeId: NodeId;
  readonly renamed: ReadonlyMap<NodeId, NodeId>;
}

/**
 * Puts a group's nodes back on the board in place of one of its instances.
 * @throws AppError when one of its dials is wired or away from home: that would be lost
 */
export function ungroup(
  document: NetworkDocument,
  board: BoardId,
  nodeId: NodeId,
): NetworkDocument {
  const network = getNetwork(document, board);
  const instance = network.nodes.find((node) => node.id === nodeId);
  const group = instance?.group === undefined ? undefined : own(document.groups, instance.group);
  if (!instance || !group) return document;
  refuseUsedDials(network, instance, group);
  const opening = { network, group, nodeId, renamed: renameNodes(network, group) };
  const nodes = group.network.nodes.map((node): NodeInstance => ({
    ...node,
    id: opening.renamed.get(node.id) ?? node.id,
  }));
  const others = network.strands.filter(
    (strand) => strand.from.node !== nodeId && strand.to.node !== nodeId,
  );
  return withNetwork(document, board, {
    ...network,
    nodes: [...network.nodes.filter((node) => node.id !== nodeId), ...nodes],
    strands: [...others, ...innerStrands(opening), ...leavingStrands(opening)],
  });
}

function refuseUsedDials(network: Network, instance: NodeInstance, group: GroupDefinition): void {
  const wired = group.dials.find((dial) =>
    network.strands.some(({ to }) => to.node === instance.id && to.input === dial.id),
  );
  const moved = group.dials.find((dial) => {
    const value = own(instance.values, dial.id);
    return value !== undefined && JSON.stringify(value) !== JSON.stringify(dial.home);
  });
  const used = wired ?? moved;
  if (!used) return;
  throw new AppError(
    'group.dial-in-use',
    `The dial “${used.name}” ${wired ? 'has a strand' : 'is not at home'}.`,
    'Reset it before opening the group up.',
    { kept: 'Nothing was changed.' },
  );
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

/** What an output within the group is outside: of a renamed node, or of what fed the group. */
function outsideOf(
  { network, nodeId, renamed }: Opening,
  from: Strand['from'],
): Strand['from'] | undefined {
  if (from.node !== INPUT_EDGE) return { node: renamed.get(from.node) ?? '', output: from.output };
  return network.strands.find(({ to }) => to.node === nodeId && to.input === from.output)?.from;
}

function innerStrands(opening: Opening): Strand[] {
  const taken = strandIds(opening.network);
  const fresh = (): string => {
    const id = freshId('w', taken);
    taken.add(id);
    return id;
  };
  return opening.group.network.strands.flatMap((strand): Strand[] => {
    const from = outsideOf(opening, strand.from);
    if (!from || strand.to.node === OUTPUT_EDGE) return [];
    const to = { node: opening.renamed.get(strand.to.node) ?? '', input: strand.to.input };
    return [{ ...strand, id: fresh(), from, to }];
  });
}

function leavingStrands(opening: Opening): Strand[] {
  return opening.network.strands
    .filter((strand) => strand.from.node === opening.nodeId)
    .flatMap((strand): Strand[] => {
      const end = opening.group.network.strands.find(
        (each) => each.to.node === OUTPUT_EDGE && each.to.input === strand.from.output,
      );
      const from = end && outsideOf(opening, end.from);
      return from ? [{ ...strand, from }] : [];
    });
}

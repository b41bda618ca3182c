import { own } from '../base/own';
import { outputKey, parseResultKey } from '../graph/result-key';
import type { GroupId, NodeId, ResultKey } from '../base/ids';
import { AppError } from '../base/diagnostic';
import { compileNetwork } from '../compile/compile';
import { topologicalOrder } from '../compile/order';
import { INPUT_EDGE, OUTPUT_EDGE, isFlowing } from '../graph/document';
import type {
  GroupDefinition,
  GroupPort,
  Network,
  NetworkDocument,
  NodeInstance,
  Strand,
  ValueKind,
} from '../graph/document';
import { freshId, getNetwork, nodeIds, withNetwork } from './board';
import type { BoardId } from './board';
import { inputTitle, makePorts, openEnds, outputTitle, portKey } from './group-outline';

/** Which nodes are packaged, and as what. */
export interface GroupRequest {
  readonly board: BoardId;
  readonly ids: readonly string[];
  readonly name: string;
  /**
   * The saved revision the network had just before; the proof compares with it. Absent while
   * nothing is saved.
   */
  readonly source?: { readonly materialId: string; readonly revision: number };
  /** The path of nodes that leads to the board, to know the kinds of what flows there. */
  readonly path: readonly string[];
}

/** What is packaged: the nodes, what is around them, and the strands across the border. */
interface Selection {
  readonly document: NetworkDocument;
  readonly network: Network;
  readonly nodes: readonly NodeInstance[];
  readonly chosen: ReadonlySet<NodeId>;
  readonly incoming: readonly Strand[];
  readonly outgoing: readonly Strand[];
}
/** The ports of the group, by the outputs they stand for. */
interface Ports {
  readonly inputs: ReadonlyMap<ResultKey, GroupPort>;
  readonly outputs: ReadonlyMap<ResultKey, GroupPort>;
}

/**
 * Packages nodes as a group: an input per output that fed them from outside, an output per value
 * used outside; of what leads nowhere yet, an output for each open end. The look does not change.
 * @throws AppError when a dial of the surrounding group
 * drives one of the nodes, or the group would feed itself.
 */
export function groupSelection(
  document: NetworkDocument,
  request: GroupRequest,
): { document: NetworkDocument; nodeId: NodeId; groupId: GroupId } {
  const { board } = request;
  const selection = select(document, request);
  refuseDriven(document, board, selection.chosen);
  const ports = portsOf(selection, request);
  const group = makeGroup(selection, ports, request);
  const instance = makeInstance(selection, group.id);
  const { network, chosen } = selection;
  const outer = withNetwork(
    { ...document, groups: { ...document.groups, [group.id]: group } },
    board,
    {
      ...network,
      nodes: [...network.nodes.filter((node) => !chosen.has(node.id)), instance],
      strands: outerStrands(selection, ports, instance.id),
    },
  );
  if (topologicalOrder(getNetwork(outer, board)).cycle.length > 0)
    throw new AppError(
      'group.circle',
      'A strand leaves the selection and comes back into it through other nodes, so the ' +
        'group would feed itself.',
      'Select the nodes in between as well.',
      { kept: 'Nothing was changed.' },
    );
  return { document: outer, nodeId: instance.id, groupId: group.id };
}

function select(document: NetworkDocument, { board, ids }: GroupRequest): Selection {
  const network = getNetwork(document, board);
  const chosen = new Set(ids);
  const nodes = network.nodes.filter((node) => chosen.has(node.id));
  if (nodes.length === 0)
    throw new AppError('group.empty', 'Nothing is selected.', 'Select the nodes to package first.');
  return {
    document,
    network,
    nodes,
    chosen,
    incoming: network.strands.filter(
      ({ from, to }) => !chosen.has(from.node) && chosen.has(to.node),
    ),
    outgoing: network.strands.filter(
      ({ from, to }) => chosen.has(from.node) && !chosen.has(to.node),
    ),
  };
}

function portsOf(selection: Selection, { board, path }: GroupRequest): Ports {
  const { document, network, nodes, incoming, outgoing } = selection;
  const kinds = compileNetwork(document, { surface: false, taps: [] }).kinds;
  const around = board === null ? undefined : own(document.groups, board);
  const kindOf = (from: Strand['from']): ValueKind => {
    if (from.node !== INPUT_EDGE)
      return kinds.get(outputKey([...path, from.node], from.output)) ?? 'scalar';
    const edge = [...(around?.inputs ?? []), ...(around?.dials.filter(isFlowing) ?? [])];
    return edge.find((port) => port.id === from.output)?.kind ?? 'scalar';
  };
  return {
    inputs: makePorts(
      incoming.map((strand) => strand.from),
      'in',
      (from) => inputTitle(document, nodes, incoming, from),
      kindOf,
    ),
    outputs: makePorts(
      outgoing.length > 0 ? outgoing.map(({ from }) => from) : openEnds(document, network, nodes),
      'out',
      (from) => outputTitle(document, nodes, from),
      kindOf,
    ),
  };
}

function makeGroup(
  selection: Selection,
  ports: Ports,
  { board, name, source }: GroupRequest,
): GroupDefinition {
  const { document, nodes, incoming } = selection;
  const origin = source && {
    ...source,
    inputs: sourcesOf(incoming, ports.inputs),
    outputs: sourcesOf(
      [...ports.outputs.keys()].map((key) => ({ from: sourceOf(key) })),
      ports.outputs,
    ),
  };
  return {
    id: freshId('g', new Set(Object.keys(document.groups))),
    name,
    description: '',
    inputs: [...ports.inputs.values()],
    outputs: [...ports.outputs.values()],
    dials: [],
    network: { nodes, strands: innerStrands(selection, ports), regions: [], notes: [] },
    ...(origin && board === null ? { origin } : {}),
  };
}

/** The card of a group, in the middle of the nodes it stands for. */
function makeInstance({ network, nodes }: Selection, group: GroupId): NodeInstance {
  const middle = (axis: 0 | 1): number =>
    nodes.reduce((sum, node) => sum + node.at[axis], 0) / nodes.length;
  return {
    id: freshId('n', nodeIds(network)),
    type: 'group',
    version: 1,
    at: [middle(0), middle(1)],
    values: {},
    options: {},
    group,
  };
}

function refuseDriven(
  document: NetworkDocument,
  board: BoardId,
  chosen: ReadonlySet<string>,
): void {
  const dial =
    board === null
      ? undefined
      : own(document.groups, board)?.dials.find((each) =>
          each.drives.some((drive) => chosen.has(drive.node)),
        );
  if (dial)
    throw new AppError(
      'group.driven',
      `The dial “${dial.name}” drives a value of the selection.`,
      'Remove that drive first, or leave the node out.',
      { kept: 'Nothing was changed.' },
    );
}

/** The output that a key of `makePorts` names. */
function sourceOf(key: ResultKey): Strand['from'] {
  const { path, port } = parseResultKey(key);
  return { node: path[0] ?? '', output: port };
}

function sourcesOf(
  strands: readonly Pick<Strand, 'from'>[],
  ports: ReadonlyMap<string, GroupPort>,
): Record<string, Strand['from']> {
  return Object.fromEntries(
    strands.flatMap(({ from }) => {
      const port = ports.get(portKey(from));
      return port ? [[port.id, from]] : [];
    }),
  );
}

function innerStrands(
  { network: { strands }, chosen, incoming }: Selection,
  { inputs, outputs }: Ports,
): Strand[] {
  const inner = strands.filter(({ from, to }) => chosen.has(from.node) && chosen.has(to.node));
  const fed = incoming.map((strand): Strand => ({
    ...strand,
    from: { node: INPUT_EDGE, output: inputs.get(portKey(strand.from))?.id ?? '' },
  }));
  const ends = [...outputs].map(([key, port], k): Strand => {
    return {
      id: `e${String(k + 1)}`,
      from: sourceOf(key),
      to: { node: OUTPUT_EDGE, input: port.id },
      order: 0,
    };
  });
  return [...inner, ...fed, ...ends];
}

function outerStrands(
  { network: { strands }, chosen, incoming, outgoing }: Selection,
  { inputs, outputs }: Ports,
  nodeId: NodeId,
): Strand[] {
  const outside = strands.filter(({ from, to }) => !chosen.has(from.node) && !chosen.has(to.node));
  const taken = new Set(strands.map((strand) => strand.id));
  const fresh = (): string => {
    const id = freshId('w', taken);
    taken.add(id);
    return id;
  };
  const feeding = [...inputs].map(([key, port]): Strand => {
    const from = incoming.find((strand) => portKey(strand.from) === key)?.from ?? {
      node: '',
      output: '',
    };
    return { id: fresh(), from, to: { node: nodeId, input: port.id }, order: 0 };
  });
  const leaving = outgoing.map((strand): Strand => ({
    ...strand,
    from: { node: nodeId, output: outputs.get(portKey(strand.from))?.id ?? '' },
  }));
  return [...outside, ...feeding, ...leaving];
}

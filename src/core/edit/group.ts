import { own } from '../base/own';
import { outputKey, parseResultKey } from '../graph/result-key';
import type { ResultKey } from '../base/ids';
import { AppError } from '../base/diagnostic';
import { compileNetwork } from '../compile/compile';
import { describePorts } from '../compile/catalogue';
import { topologicalOrder } from '../compile/order';
import { INPUT_EDGE, OUTPUT_EDGE } from '../graph/document';
import type {
  GroupDefinition,
  GroupPort,
  NetworkDocument,
  NodeInstance,
  Strand,
  ValueKind,
} from '../graph/document';
import { freshId, networkOf, nodeIds, strandIds, withGroup, withNetwork } from './board';
import type { BoardId } from './board';

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

/** Names an output of the board, so that several strands from it make one port. */
const portKey = ({ node, output }: Strand['from']): ResultKey => outputKey([node], output);

/**
 * Packages nodes as a group: an input per output that fed them from outside, an output per value
 * used outside. The look does not change. @throws AppError when a dial of the surrounding group
 * drives one of the nodes.
 */
export function groupSelection(
  document: NetworkDocument,
  request: GroupRequest,
): { document: NetworkDocument; nodeId: string; groupId: string } {
  const { board, ids, name } = request;
  const network = networkOf(document, board);
  const chosen = new Set(ids);
  const nodes = network.nodes.filter((node) => chosen.has(node.id));
  if (nodes.length === 0)
    throw new AppError('group.empty', 'Nothing is selected.', 'Select the nodes to package first.');
  refuseDriven(document, board, chosen);
  const kinds = compileNetwork(document, { surface: false, taps: [] }).kinds;
  const kindOf = (from: Strand['from']): ValueKind => {
    const group = board === null ? undefined : own(document.groups, board);
    if (from.node === INPUT_EDGE)
      return (
        group?.inputs.find((port) => port.id === from.output)?.kind ??
        group?.dials.find((dial) => dial.id === from.output)?.kind ??
        'scalar'
      );
    return kinds.get(outputKey([...request.path, from.node], from.output)) ?? 'scalar';
  };
  const incoming = network.strands.filter(
    ({ from, to }) => !chosen.has(from.node) && chosen.has(to.node),
  );
  const outgoing = network.strands.filter(
    ({ from, to }) => chosen.has(from.node) && !chosen.has(to.node),
  );
  const groupId = freshId('g', new Set(Object.keys(document.groups)));
  const nodeId = freshId('n', nodeIds(network));
  const inputs = makePorts(
    incoming.map((strand) => strand.from),
    'in',
    (from) => inputTitle(document, nodes, incoming, from),
    kindOf,
  );
  const outputs = makePorts(
    outgoing.map((strand) => strand.from),
    'out',
    (from) => outputTitle(document, nodes, from),
    kindOf,
  );
  const group: GroupDefinition = {
    id: groupId,
    name,
    description: '',
    inputs: [...inputs.values()],
    outputs: [...outputs.values()],
    dials: [],
    network: {
      nodes,
      strands: innerStrands(network.strands, chosen, incoming, inputs, outputs),
      regions: [],
      notes: [],
    },
    ...(request.source && board === null
      ? {
          origin: {
            ...request.source,
            inputs: sourcesOf(incoming, inputs),
            outputs: sourcesOf(outgoing, outputs),
          },
        }
      : {}),
  };
  const centre = [0, 1].map(
    (axis) => nodes.reduce((sum, node) => sum + (node.at[axis as 0] ?? 0), 0) / nodes.length,
  ) as [number, number];
  const instance: NodeInstance = {
    id: nodeId,
    type: 'group',
    version: 1,
    at: centre,
    values: {},
    options: {},
    group: groupId,
  };
  const outer = withNetwork(
    { ...document, groups: { ...document.groups, [groupId]: group } },
    board,
    {
      ...network,
      nodes: [...network.nodes.filter((node) => !chosen.has(node.id)), instance],
      strands: outerStrands(network.strands, chosen, nodeId, inputs, outputs, incoming, outgoing),
    },
  );
  if (topologicalOrder(networkOf(outer, board)).cycle.length > 0) {
    throw new AppError(
      'group.circle',
      'A strand leaves the selection and comes back into it through other nodes, so the ' +
        'group would feed itself.',
      'Select the nodes in between as well.',
      { kept: 'Nothing was changed.' },
    );
  }
  return { document: outer, nodeId, groupId };
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

function makePorts(
  starts: readonly Strand['from'][],
  stem: string,
  title: (from: Strand['from']) => string,
  kindOf: (from: Strand['from']) => ValueKind,
): Map<string, GroupPort> {
  const ports = new Map<string, GroupPort>();
  const names = new Set<string>();
  for (const from of starts) {
    if (ports.has(portKey(from))) continue;
    const base = title(from);
    let name = base;
    for (let k = 2; names.has(name); k++) name = `${base} ${String(k)}`;
    names.add(name);
    ports.set(portKey(from), { id: `${stem}${String(ports.size + 1)}`, name, kind: kindOf(from) });
  }
  return ports;
}

function inputTitle(
  document: NetworkDocument,
  nodes: readonly NodeInstance[],
  incoming: readonly Strand[],
  from: Strand['from'],
): string {
  const strand = incoming.find((each) => portKey(each.from) === portKey(from));
  const node = nodes.find((each) => each.id === strand?.to.node);
  return (
    (node &&
      describePorts(document, node)?.inputs.find((port) => port.id === strand?.to.input)?.title) ??
    'Input'
  );
}

function outputTitle(
  document: NetworkDocument,
  nodes: readonly NodeInstance[],
  from: Strand['from'],
): string {
  const node = nodes.find((each) => each.id === from.node);
  return (
    (node &&
      describePorts(document, node)?.outputs.find((port) => port.id === from.output)?.title) ??
    'Output'
  );
}

function sourcesOf(
  strands: readonly Strand[],
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
  strands: readonly Strand[],
  chosen: ReadonlySet<string>,
  incoming: readonly Strand[],
  inputs: ReadonlyMap<string, GroupPort>,
  outputs: ReadonlyMap<string, GroupPort>,
): Strand[] {
  const inner = strands.filter(({ from, to }) => chosen.has(from.node) && chosen.has(to.node));
  const fed = incoming.map((strand): Strand => ({
    ...strand,
    from: { node: INPUT_EDGE, output: inputs.get(portKey(strand.from))?.id ?? '' },
  }));
  const ends = [...outputs].map(([key, port], k): Strand => {
    const { path, port: output } = parseResultKey(key);
    return {
      id: `e${String(k + 1)}`,
      from: { node: path[0] ?? '', output },
      to: { node: OUTPUT_EDGE, input: port.id },
      order: 0,
    };
  });
  return [...inner, ...fed, ...ends];
}

function outerStrands(
  strands: readonly Strand[],
  chosen: ReadonlySet<string>,
  nodeId: string,
  inputs: ReadonlyMap<string, GroupPort>,
  outputs: ReadonlyMap<string, GroupPort>,
  incoming: readonly Strand[],
  outgoing: readonly Strand[],
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

/**
 * Puts a group's nodes back on the board in place of one of its instances. Dials away from home are
 * worked into the values.
 */
export function ungroup(
  document: NetworkDocument,
  board: BoardId,
  nodeId: string,
): NetworkDocument {
  const network = networkOf(document, board);
  const instance = network.nodes.find((node) => node.id === nodeId);
  const group = instance?.group === undefined ? undefined : own(document.groups, instance.group);
  if (!instance || !group) return document;
  const wired = group.dials.find((dial) =>
    network.strands.some((strand) => strand.to.node === nodeId && strand.to.input === dial.id),
  );
  const moved = group.dials.find((dial) => {
    const value = own(instance.values, dial.id);
    return value !== undefined && JSON.stringify(value) !== JSON.stringify(dial.home);
  });
  const awkward = wired ?? moved;
  if (awkward)
    throw new AppError(
      'group.dial-in-use',
      `The dial “${awkward.name}” ${wired ? 'has a strand' : 'is not at home'}.`,
      'Reset it before opening the group up.',
      { kept: 'Nothing was changed.' },
    );
  const taken = nodeIds(network);
  const renamed = new Map(
    group.network.nodes.map((node): [string, string] => {
      const id = taken.has(node.id) ? freshId('n', taken) : node.id;
      taken.add(id);
      return [node.id, id];
    }),
  );
  const strandTaken = strandIds(network);
  const fresh = (): string => {
    const id = freshId('w', strandTaken);
    strandTaken.add(id);
    return id;
  };
  const into = (id: string): Strand | undefined =>
    network.strands.find((strand) => strand.to.node === nodeId && strand.to.input === id);
  const inner = group.network.strands.flatMap((strand): Strand[] => {
    const from =
      strand.from.node === INPUT_EDGE
        ? into(strand.from.output)?.from
        : { node: renamed.get(strand.from.node) ?? '', output: strand.from.output };
    if (!from || strand.to.node === OUTPUT_EDGE) return [];
    return [
      {
        ...strand,
        id: fresh(),
        from,
        to: { node: renamed.get(strand.to.node) ?? '', input: strand.to.input },
      },
    ];
  });
  const leaving = network.strands
    .filter((strand) => strand.from.node === nodeId)
    .flatMap((strand): Strand[] => {
      const end = group.network.strands.find(
        (each) => each.to.node === OUTPUT_EDGE && each.to.input === strand.from.output,
      );
      if (!end) return [];
      const from =
        end.from.node === INPUT_EDGE
          ? into(end.from.output)?.from
          : { node: renamed.get(end.from.node) ?? '', output: end.from.output };
      return from ? [{ ...strand, from }] : [];
    });
  const nodes = group.network.nodes.map((node): NodeInstance => ({
    ...node,
    id: renamed.get(node.id) ?? node.id,
  }));
  return withNetwork(document, board, {
    ...network,
    nodes: [...network.nodes.filter((node) => node.id !== nodeId), ...nodes],
    strands: [
      ...network.strands.filter(
        (strand) => strand.from.node !== nodeId && strand.to.node !== nodeId,
      ),
      ...inner,
      ...leaving,
    ],
  });
}

export { withGroup };

import { describePorts } from '../compile/catalogue';
import { INPUT_EDGE, LIMITS, OUTPUT_EDGE } from '../graph/document';
import type {
  BoardId,
  GroupDefinition,
  GroupPort,
  Network,
  NetworkDocument,
  Strand,
  ValueKind,
} from '../graph/document';
import type { GroupId, NodeId } from '../base/ids';
import type { PortKind } from '../nodes/define';
import { freshId, getNetwork, nodeIds, withGroup, withNetwork } from './board';
import { connect, inputKind, outputKind } from './strands';

/** Which selvedge a port stands on: what comes in, or what goes out. */
export type PortSide = 'inputs' | 'outputs';
/** The end of a strand that is dropped on a selvedge: there a port of its own is made. */
export const NEW_PORT = '@new';

/** Adds a group without nodes, ports or dials, as a card at a place of the board. */
export function addEmptyGroup(
  document: NetworkDocument,
  board: BoardId,
  at: readonly [number, number],
): { readonly document: NetworkDocument; readonly id: NodeId } {
  const groupId: GroupId = freshId('g', new Set(Object.keys(document.groups)));
  const network = getNetwork(document, board);
  const id: NodeId = freshId('n', nodeIds(network));
  const group: GroupDefinition = {
    id: groupId,
    name: 'New group',
    description: '',
    inputs: [],
    outputs: [],
    dials: [],
    network: { nodes: [], strands: [], regions: [], notes: [] },
  };
  const node = { id, type: 'group', version: 1, at, values: {}, options: {}, group: groupId };
  return {
    id,
    document: withNetwork(
      { ...document, groups: { ...document.groups, [groupId]: group } },
      board,
      { ...network, nodes: [...network.nodes, node] },
    ),
  };
}

/** A name no other port of that side has. */
function freeName(group: GroupDefinition, side: PortSide, wanted: string): string {
  const names = new Set(
    [...group[side], ...(side === 'inputs' ? group.dials : [])].map(({ name }) => name),
  );
  let name = wanted;
  for (let k = 2; names.has(name); k++) name = `${wanted} ${String(k)}`;
  return name;
}

/** What a new port is to be: its id is found for it. */
export type NewPort = Pick<GroupPort, 'name' | 'kind'> & Partial<GroupPort>;

/** Adds a port at the end of a selvedge; null where there may be no more. */
export function addPort(
  document: NetworkDocument,
  groupId: GroupId,
  side: PortSide,
  port: NewPort,
): { readonly document: NetworkDocument; readonly id: string } | null {
  const group = document.groups[groupId];
  if (!group || group[side].length >= LIMITS.ports) return null;
  const taken = new Set([...group.inputs, ...group.outputs, ...group.dials].map(({ id }) => id));
  const id = freshId(side === 'inputs' ? 'in' : 'out', taken);
  const made: GroupPort = { ...port, id, name: freeName(group, side, port.name) };
  return {
    id,
    document: withGroup(document, groupId, (each) => ({ ...each, [side]: [...each[side], made] })),
  };
}

/** Changes what a port says of itself; its id and so everything wired to it stays. */
export const changePort = (
  document: NetworkDocument,
  groupId: GroupId,
  side: PortSide,
  id: string,
  change: Partial<Omit<GroupPort, 'id'>>,
): NetworkDocument =>
  withGroup(document, groupId, (group) => ({
    ...group,
    [side]: group[side].map((port) =>
      port.id === id ? withoutEmpty({ ...port, ...change }) : port,
    ),
  }));

/** A member that is set to undefined is not there. */
function withoutEmpty(port: {
  readonly [K in keyof GroupPort]: GroupPort[K] | undefined;
}): GroupPort {
  return Object.fromEntries(
    Object.entries(port).filter(([, value]) => value !== undefined),
  ) as unknown as GroupPort;
}

/** Moves a port by so many places along its selvedge; at the end it stays. */
export function movePort(
  document: NetworkDocument,
  groupId: GroupId,
  side: PortSide,
  id: string,
  by: -1 | 1,
): NetworkDocument {
  return withGroup(document, groupId, (group) => {
    const at = group[side].findIndex((port) => port.id === id);
    const to = at + by;
    const port = group[side][at];
    if (!port || to < 0 || to >= group[side].length) return group;
    return { ...group, [side]: group[side].toSpliced(at, 1).toSpliced(to, 0, port) };
  });
}

const withoutStrands = (network: Network, isGone: (strand: Strand) => boolean): Network =>
  network.strands.some(isGone)
    ? { ...network, strands: network.strands.filter((strand) => !isGone(strand)) }
    : network;

/** Removes a port, and the strands to it, inside and at every card of the group. */
export function removePort(
  document: NetworkDocument,
  groupId: GroupId,
  side: PortSide,
  id: string,
): NetworkDocument {
  const isInput = side === 'inputs';
  const outside = (network: Network): Network => {
    const cards = new Set(network.nodes.filter(({ group }) => group === groupId).map((n) => n.id));
    return withoutStrands(network, ({ from, to }) =>
      isInput ? cards.has(to.node) && to.input === id : cards.has(from.node) && from.output === id,
    );
  };
  const inside = (network: Network): Network =>
    withoutStrands(network, ({ from, to }) =>
      isInput
        ? from.node === INPUT_EDGE && from.output === id
        : to.node === OUTPUT_EDGE && to.input === id,
    );
  const groups = Object.fromEntries(
    Object.entries(document.groups).map(([key, group]) => [
      key,
      { ...group, network: outside(key === groupId ? inside(group.network) : group.network) },
    ]),
  );
  return withGroup(
    { ...document, network: outside(document.network), groups },
    groupId,
    (group) => ({
      ...group,
      [side]: group[side].filter((port) => port.id !== id),
    }),
  );
}

const flowing = (kind: PortKind): ValueKind =>
  kind === 'vector' || kind === 'colour' || kind === 'surface' ? kind : 'scalar';

/**
 * Lays a strand from an output to the right selvedge, where a port for it is made.
 * @param kind what really flows there, where that is known
 */
export function leadOut(
  document: NetworkDocument,
  groupId: GroupId,
  from: Strand['from'],
  kind?: ValueKind,
): NetworkDocument {
  const node = getNetwork(document, groupId).nodes.find(({ id }) => id === from.node);
  const declared = outputKind(document, groupId, from);
  if (!declared) return document;
  const title =
    (node && describePorts(document, node)?.outputs.find(({ id }) => id === from.output)?.title) ??
    'Output';
  const made = addPort(document, groupId, 'outputs', {
    name: title,
    kind: kind ?? flowing(declared),
  });
  return made
    ? connect(made.document, groupId, from, { node: OUTPUT_EDGE, input: made.id })
    : document;
}

/** Lays a strand from the left selvedge, where a port for it is made, to an input. */
export function leadIn(
  document: NetworkDocument,
  groupId: GroupId,
  to: Strand['to'],
): NetworkDocument {
  const node = getNetwork(document, groupId).nodes.find(({ id }) => id === to.node);
  const kind = inputKind(document, groupId, to);
  if (!kind) return document;
  const view = node && describePorts(document, node)?.inputs.find(({ id }) => id === to.input);
  const usual = view?.port?.default;
  const coordinates = typeof usual === 'string' ? COORDINATES[usual] : undefined;
  const made = addPort(document, groupId, 'inputs', {
    name: view?.title ?? 'Input',
    kind: flowing(kind),
    ...(kind === 'scalars' ? { many: true as const } : {}),
    // Said from the beginning, so that it never counts as something by silence.
    ...(coordinates ? { unwired: coordinates } : {}),
  });
  return made
    ? connect(made.document, groupId, { node: INPUT_EDGE, output: made.id }, to)
    : document;
}

const COORDINATES: Readonly<Record<string, NonNullable<GroupPort['unwired']>>> = {
  position: 'position',
  normal: 'normal',
  'texture coordinates': 'texture',
};

import { own } from '../base/own';
import { describePorts, findDefinition, mayConnect, findStop } from '../compile/catalogue';
import { rampModes } from '../compile/uniforms';
import { isRamp } from '../graph/document';
import type { InputValue, Network, NetworkDocument, NodeInstance } from '../graph/document';
import { changeNode, freshId, getNetwork, nodeIds, withNetwork } from './board';
import type { BoardId } from './board';
import { rearranged, withStop } from './ramps';
import { connect, inputKind, outputKind } from './strands';

/** Adds a node of the catalogue, or of a group of the document; gives back its id. */
export function addNode(
  document: NetworkDocument,
  board: BoardId,
  type: string,
  at: readonly [number, number],
  group?: string,
  options: Readonly<Record<string, string>> = {},
): { document: NetworkDocument; id: string } {
  const network = getNetwork(document, board);
  const id = freshId('n', nodeIds(network));
  const node: NodeInstance = {
    id,
    type,
    version: findDefinition(type)?.version ?? 1,
    at,
    values: {},
    options,
    ...(group === undefined ? {} : { group }),
  };
  return {
    document: withNetwork(document, board, { ...network, nodes: [...network.nodes, node] }),
    id,
  };
}

/**
 * Removes nodes, and heals: what fed the first wired input of a node now feeds what the node fed,
 * where kinds fit.
 */
export function removeNodes(
  document: NetworkDocument,
  board: BoardId,
  ids: readonly string[],
): NetworkDocument {
  return ids.reduce((current, id) => removeNode(current, board, id), document);
}

function removeNode(document: NetworkDocument, board: BoardId, id: string): NetworkDocument {
  const network = getNetwork(document, board);
  const node = network.nodes.find((each) => each.id === id);
  if (!node) return document;
  const order = describePorts(document, node)?.inputs.map((port) => port.id) ?? [];
  const incoming = network.strands
    .filter((strand) => strand.to.node === id)
    .sort((a, b) => order.indexOf(a.to.input) - order.indexOf(b.to.input));
  const outgoing = network.strands.filter((strand) => strand.from.node === id);
  const bare = withNetwork(withoutDrives(document, board, id), board, {
    ...network,
    nodes: network.nodes.filter((each) => each.id !== id),
    strands: network.strands.filter((strand) => strand.from.node !== id && strand.to.node !== id),
  });
  return outgoing.reduce((current, { to }) => {
    const target = inputKind(current, board, to);
    const source = incoming.find(({ from }) => {
      const kind = outputKind(current, board, from);
      return kind && target && mayConnect(kind, target);
    });
    return source ? connect(current, board, source.from, to) : current;
  }, bare);
}

function withoutDrives(document: NetworkDocument, board: BoardId, nodeId: string): NetworkDocument {
  const group = board === null ? undefined : own(document.groups, board);
  if (!group) return document;
  const dials = group.dials.map((dial) => ({
    ...dial,
    drives: dial.drives.filter((drive) => drive.node !== nodeId),
  }));
  return { ...document, groups: { ...document.groups, [group.id]: { ...group, dials } } };
}

/** Moves nodes by an offset on the board. */
export function moveNodes(
  document: NetworkDocument,
  board: BoardId,
  places: ReadonlyMap<string, readonly [number, number]>,
): NetworkDocument {
  const network = getNetwork(document, board);
  return withNetwork(document, board, {
    ...network,
    nodes: network.nodes.map((node) => ({ ...node, at: places.get(node.id) ?? node.at })),
  });
}

/** Sets an input's value; undefined puts it back to its default. */
export function setValue(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  input: string,
  value: InputValue | undefined,
): NetworkDocument {
  const changed = changeNode(document, board, id, (node) => {
    const stop = findStop(node, input);
    if (stop)
      return { ...node, values: { ...node.values, [stop.input]: withStop(node, stop, value) } };
    const rest = Object.fromEntries(Object.entries(node.values).filter(([name]) => name !== input));
    return { ...node, values: value === undefined ? rest : { ...rest, [input]: value } };
  });
  return isRamp(value) || value === undefined
    ? withoutLostStops(changed, board, id, input)
    : changed;
}

/** A stop that is gone or closed is no input any more: its strands and drives go with it. */
function withoutLostStops(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  input: string,
): NetworkDocument {
  const network = getNetwork(document, board);
  const node = network.nodes.find((each) => each.id === id);
  const isLost = (port: string): boolean =>
    port.startsWith(`${input}.`) && node !== undefined && findStop(node, port) === null;
  const strands = network.strands.filter(
    (strand) => strand.to.node !== id || !isLost(strand.to.input),
  );
  const kept =
    strands.length === network.strands.length
      ? document
      : withNetwork(document, board, { ...network, strands });
  const group = board === null ? undefined : own(kept.groups, board);
  if (
    !group?.dials.some((dial) =>
      dial.drives.some((drive) => drive.node === id && isLost(drive.input)),
    )
  )
    return kept;
  const dials = group.dials.map((dial) => ({
    ...dial,
    drives: dial.drives.filter((drive) => drive.node !== id || !isLost(drive.input)),
  }));
  return { ...kept, groups: { ...kept.groups, [group.id]: { ...group, dials } } };
}

/** Chooses an option of a node. */
export function setOption(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  option: string,
  choice: string,
): NetworkDocument {
  return changeNode(document, board, id, (node) => {
    const changed = { ...node, options: { ...node.options, [option]: choice } };
    return option === 'layout'
      ? { ...changed, values: rearranged(node, rampModes(node).layout, rampModes(changed).layout) }
      : changed;
  });
}

/** The document with the network of a board changed by a function. */
export function changeBoard(
  document: NetworkDocument,
  board: BoardId,
  change: (network: Network) => Network,
): NetworkDocument {
  return withNetwork(document, board, change(getNetwork(document, board)));
}

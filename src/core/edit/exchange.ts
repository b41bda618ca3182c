import { own } from '../base/own';
import { describePorts, findDefinition, mayConnect } from '../compile/catalogue';
import type { InputView, OutputView, PortsView } from '../compile/catalogue';
import { getInputValue } from '../compile/uniforms';
import type { Drive, NetworkDocument, NodeInstance, Strand } from '../graph/document';
import { NOT_DRIVEN } from '../nodes/define';
import { getNetwork, withGroup, withNetwork } from './board';
import type { BoardId } from './board';

/** What a node is exchanged for. */
export interface Replacement {
  readonly type: string;
  /** The definition of a group node. */
  readonly group?: string;
  readonly options?: Readonly<Record<string, string>>;
}
/** A document with a node exchanged, and how many strands found no place. */
export interface Exchanged {
  readonly document: NetworkDocument;
  readonly kept: number;
  readonly lost: number;
}

type Port = InputView | OutputView;
type PortMap = ReadonlyMap<string, string>;
const isNamedAlike = (a: Port, b: Port): boolean =>
  a.id === b.id || a.title.toLowerCase() === b.title.toLowerCase();

/**
 * Pairs ports: those of the same name first, then in turn those still free, `wanted` ones only.
 * @param fits whether what was at the old port may be at the new one
 */
function pairPorts<P extends Port>(
  before: readonly P[],
  after: readonly P[],
  wanted: ReadonlySet<string>,
  fits: (old: P, next: P) => boolean,
): PortMap {
  const pairs = new Map<string, string>();
  const taken = new Set<string>();
  const pair = (isPair: (old: P, next: P) => boolean): void => {
    for (const old of before) {
      if (pairs.has(old.id)) continue;
      const next = after.find(
        (each) => !taken.has(each.id) && fits(old, each) && isPair(old, each),
      );
      if (!next) continue;
      pairs.set(old.id, next.id);
      taken.add(next.id);
    }
  };
  pair(isNamedAlike);
  pair((old, next) => wanted.has(old.id) && old.kind === next.kind);
  pair((old) => wanted.has(old.id));
  return pairs;
}

/** The values that mean the same at the new node: of ports of the same name and kind. */
function keptValues(
  node: NodeInstance,
  before: PortsView,
  after: PortsView,
): NodeInstance['values'] {
  return Object.fromEntries(
    Object.entries(node.values).flatMap(([id, value]) => {
      const old = before.inputs.find((port) => port.id === id);
      const next = old && after.inputs.find((port) => isNamedAlike(old, port));
      return next && next.kind === old.kind ? [[next.id, value]] : [];
    }),
  );
}

function keptOptions(node: NodeInstance, { type, options = {} }: Replacement) {
  const definition = findDefinition(type);
  const same = Object.entries(node.options).filter(([id, choice]) =>
    own(definition?.options, id)?.choices.some((each) => each.value === choice),
  );
  return { ...Object.fromEntries(same), ...options };
}

function replacementOf(node: NodeInstance, to: Replacement): NodeInstance {
  const { limited, folded, name } = node;
  return {
    id: node.id,
    type: to.type,
    version: findDefinition(to.type)?.version ?? 1,
    at: node.at,
    values: {},
    options: keptOptions(node, to),
    ...(name === undefined ? {} : { name }),
    ...(limited === undefined ? {} : { limited }),
    ...(folded === undefined ? {} : { folded }),
    ...(to.group === undefined ? {} : { group: to.group }),
  };
}

/** A strand with its end at the node at the port that took the old one's place; or nothing. */
function movedStrand(strand: Strand, id: string, inputs: PortMap, outputs: PortMap): Strand[] {
  const { from, to } = strand;
  if (to.node === id) {
    const input = inputs.get(to.input);
    return input === undefined ? [] : [{ ...strand, to: { node: id, input } }];
  }
  if (from.node !== id) return [strand];
  const output = outputs.get(from.output);
  return output === undefined ? [] : [{ ...strand, from: { node: id, output } }];
}

function movedDrives(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  place: (drive: Drive) => Drive[],
): NetworkDocument {
  if (board === null) return document;
  return withGroup(document, board, (group) => ({
    ...group,
    dials: group.dials.map((dial) => ({
      ...dial,
      drives: dial.drives.flatMap((drive) => (drive.node === id ? place(drive) : [drive])),
    })),
  }));
}

/**
 * Puts another node in the place of one: strands go to ports of the same name, then to those that
 * fit in turn; values and modes of the same name stay, and so do drives. A name given by hand
 * stays.
 * @returns null where the node or its replacement is unknown
 */
export function exchangeNode(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  to: Replacement,
): Exchanged | null {
  const network = getNetwork(document, board);
  const node = network.nodes.find((each) => each.id === id);
  const before = node && describePorts(document, node);
  const bare = node && replacementOf(node, to);
  const after = bare && describePorts(document, bare);
  if (!before || !after) return null;
  const touching = network.strands.filter((s) => s.from.node === id || s.to.node === id);
  const wiredIn = new Set(touching.filter((s) => s.to.node === id).map((s) => s.to.input));
  const wiredOut = new Set(touching.filter((s) => s.from.node === id).map((s) => s.from.output));
  const inputs = pairPorts(before.inputs, after.inputs, wiredIn, (a, b) =>
    mayConnect(a.kind, b.kind),
  );
  const outputs = pairPorts(before.outputs, after.outputs, wiredOut, (a, b) =>
    mayConnect(a.kind, b.kind),
  );
  const strands = network.strands.flatMap((strand) => movedStrand(strand, id, inputs, outputs));
  const made = withNetwork(document, board, {
    ...network,
    nodes: network.nodes.map((each) =>
      each.id === id ? { ...bare, values: keptValues(node, before, after) } : each,
    ),
    strands,
  });
  const lost = network.strands.length - strands.length;
  return {
    document: movedDrives(made, board, id, (drive) => {
      const input = inputs.get(drive.input);
      const port = after.inputs.find((each) => each.id === input);
      return port && !NOT_DRIVEN.has(port.kind) ? [{ ...drive, input: port.id }] : [];
    }),
    kept: touching.length - lost,
    lost,
  };
}

/** Which pairs of inputs of a node may change places: neighbours of one kind. */
export function swappableInputs(
  document: NetworkDocument,
  node: NodeInstance,
): readonly (readonly [InputView, InputView])[] {
  const inputs = describePorts(document, node)?.inputs ?? [];
  return inputs.flatMap((input, k) => {
    const next = inputs[k + 1];
    const isOperand = ['flex', 'colour', 'surface', 'vector'].includes(input.kind);
    return next?.kind === input.kind && isOperand ? [[input, next] as const] : [];
  });
}

/** Lets two inputs of a node change places, with their strands, values and drives. */
export function swapInputs(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  [a, b]: readonly [string, string],
): NetworkDocument {
  const network = getNetwork(document, board);
  const other = (input: string): string => (input === a ? b : input === b ? a : input);
  const swapped = withNetwork(document, board, {
    ...network,
    nodes: network.nodes.map((node) =>
      node.id === id ? { ...node, values: swappedValues(node, a, b) } : node,
    ),
    strands: network.strands.map((strand) =>
      strand.to.node === id
        ? { ...strand, to: { node: id, input: other(strand.to.input) } }
        : strand,
    ),
  });
  return movedDrives(swapped, board, id, (drive) => [{ ...drive, input: other(drive.input) }]);
}

/** What is typed or stands by default at two inputs, the other way round. */
function swappedValues(node: NodeInstance, a: string, b: string): NodeInstance['values'] {
  const rest = Object.entries(node.values).filter(([input]) => input !== a && input !== b);
  const given = [
    [a, getInputValue(node, b)],
    [b, getInputValue(node, a)],
  ] as const;
  return {
    ...Object.fromEntries(rest),
    ...Object.fromEntries(given.filter(([, value]) => value !== undefined)),
  } as NodeInstance['values'];
}

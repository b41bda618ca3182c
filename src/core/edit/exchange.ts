import { own } from '../base/own';
import {
  chosenOptions,
  describePorts,
  findDefinition,
  findNodeDefinition,
  mayConnect,
} from '../compile/catalogue';
import type { InputView, OutputView, PortsView } from '../compile/catalogue';
import { getInputValue } from '../compile/uniforms';
import type { Drive, InputValue, NetworkDocument, NodeInstance, Strand } from '../graph/document';
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
/** A document with a node exchanged, and what found no place. */
export interface Exchanged {
  readonly document: NetworkDocument;
  /** Strands that stay, and that found no place. */
  readonly kept: number;
  readonly lost: number;
  /** Titles of what was set by hand, values and options, and has no place at the new node. */
  readonly unkept: readonly string[];
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

/** Whether the values of two ports mean the same: one kind, unit and quantity. */
const isSameMeasure = (a: InputView, b: InputView): boolean =>
  a.kind === b.kind &&
  a.port?.quantity !== undefined &&
  a.port.quantity === b.port?.quantity &&
  a.port.unit === b.port.unit;

/**
 * The port whose value means the same as that of an old one: of the same name and kind, or else the
 * only one of its quantity on both sides.
 */
function sameInput(old: InputView, before: PortsView, after: PortsView): InputView | undefined {
  const named = after.inputs.find((port) => isNamedAlike(old, port));
  if (named) return named.kind === old.kind ? named : undefined;
  const [alike, ...more] = after.inputs.filter(
    (port) => isSameMeasure(old, port) && !before.inputs.some((other) => isNamedAlike(other, port)),
  );
  const rivals = before.inputs.filter((port) => isSameMeasure(old, port));
  return more.length === 0 && rivals.length === 1 ? alike : undefined;
}

/** The values that mean the same at the new node, and the titles of those that have no place. */
function keptValues(
  node: NodeInstance,
  before: PortsView,
  after: PortsView,
): { values: NodeInstance['values']; unkept: readonly string[] } {
  const typed = Object.entries(node.values).flatMap(([id, value]) => {
    const old = before.inputs.find((port) => port.id === id);
    return old ? [{ old, value, next: sameInput(old, before, after) }] : [];
  });
  return {
    values: Object.fromEntries(
      typed.flatMap(({ next, value }) => (next ? [[next.id, value]] : [])),
    ),
    unkept: typed.flatMap(({ old, next, value }) =>
      next || isDefault(old, value) ? [] : [old.title],
    ),
  };
}

const isDefault = ({ port, dial }: InputView, value: InputValue): boolean =>
  JSON.stringify(value) === JSON.stringify(port?.default ?? dial?.home);

/**
 * What is chosen, by hand or as a default, where the new node has the same choice: an option of the
 * same name with a choice of the same name, under whatever id.
 */
function keptOptions(
  node: NodeInstance,
  { type, options = {} }: Replacement,
): { options: NodeInstance['options']; unkept: readonly string[] } {
  const before = findNodeDefinition(node);
  const after = findDefinition(type);
  const kept: Record<string, string> = {};
  const unkept: string[] = [];
  for (const [id, value] of before ? Object.entries(chosenOptions(before, node)) : []) {
    const old = own(before?.options, id);
    const named = Object.entries(after?.options ?? {}).find(
      ([nextId, next]) => nextId === id || next.title === old?.title,
    );
    const title = old?.choices.find((each) => each.value === value)?.title;
    const choice = named?.[1].choices.find((each) => each.value === value || each.title === title);
    if (named && choice) {
      if (choice.value !== named[1].default) kept[named[0]] = choice.value;
    } else if (old && value !== old.default) unkept.push(`${old.title}: ${title ?? value}`);
  }
  return { options: { ...kept, ...options }, unkept };
}

function replacementOf(node: NodeInstance, to: Replacement): NodeInstance {
  const { limited, folded, name } = node;
  return {
    id: node.id,
    type: to.type,
    version: findDefinition(to.type)?.version ?? 1,
    at: node.at,
    values: {},
    options: keptOptions(node, to).options,
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
 * fit in turn; values that mean the same and modes of the same name stay, and so do drives. A name
 * given by hand stays.
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
  const typed = keptValues(node, before, after);
  const strands = network.strands.flatMap((strand) => movedStrand(strand, id, inputs, outputs));
  const made = withNetwork(document, board, {
    ...network,
    nodes: network.nodes.map((each) => (each.id === id ? { ...bare, values: typed.values } : each)),
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
    unkept: [...typed.unkept, ...keptOptions(node, to).unkept],
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

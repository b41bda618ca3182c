import { own } from '../base/own';
import { describePorts, mayConnect, neutralValue, takesMany } from '../compile/catalogue';
import { INPUT_EDGE, OUTPUT_EDGE, SURFACE_OUTPUT } from '../graph/document';
import type { Conversion, Network, NetworkDocument, Strand } from '../graph/document';
import type { PortKind } from '../nodes/define';
import { changeNode, freshId, getNetwork, strandIds, withNetwork } from './board';
import type { BoardId } from './board';

/** The output a strand begins at. */
export type StrandStart = Strand['from'];
/** The input a strand ends at. */
export type StrandEnd = Strand['to'];

/** The kind of an output on a board, the selvedge included; undefined when it is not there. */
export function outputKind(
  document: NetworkDocument,
  board: BoardId,
  from: StrandStart,
): PortKind | undefined {
  if (from.node === INPUT_EDGE) {
    const group = board === null ? undefined : own(document.groups, board);
    return (
      group?.inputs.find((port) => port.id === from.output)?.kind ??
      group?.dials.find((dial) => dial.id === from.output)?.kind
    );
  }
  const node = getNetwork(document, board).nodes.find((each) => each.id === from.node);
  return (
    node && describePorts(document, node)?.outputs.find((port) => port.id === from.output)?.kind
  );
}

/** The kind of an input, or of a port of the selvedge; undefined where it does not exist. */
export function inputKind(
  document: NetworkDocument,
  board: BoardId,
  to: StrandEnd,
): PortKind | undefined {
  if (to.node === OUTPUT_EDGE) {
    if (board === null) return to.input === SURFACE_OUTPUT ? 'surface' : undefined;
    return own(document.groups, board)?.outputs.find((port) => port.id === to.input)?.kind;
  }
  const node = getNetwork(document, board).nodes.find((each) => each.id === to.node);
  return node && describePorts(document, node)?.inputs.find((port) => port.id === to.input)?.kind;
}

/** Whether a strand may be laid: kinds fit, and it closes no circle. */
export function canConnect(
  document: NetworkDocument,
  board: BoardId,
  from: StrandStart,
  to: StrandEnd,
): boolean {
  const [source, target] = [outputKind(document, board, from), inputKind(document, board, to)];
  if (!source || !target || !mayConnect(source, target)) return false;
  return !reaches(getNetwork(document, board), to.node, from.node);
}

/** Whether what leaves `start` can arrive at `goal`. */
function reaches(network: Network, start: string, goal: string): boolean {
  if (start === goal) return true;
  const seen = new Set<string>([start]);
  const pending = [start];
  for (let at = pending.pop(); at !== undefined; at = pending.pop()) {
    for (const { from, to } of network.strands) {
      if (from.node !== at || seen.has(to.node)) continue;
      if (to.node === goal) return true;
      seen.add(to.node);
      pending.push(to.node);
    }
  }
  return false;
}

/**
 * Lays a strand; one that an input with a single place already has is replaced. Unchanged when it
 * may not be laid.
 */
export function connect(
  document: NetworkDocument,
  board: BoardId,
  from: StrandStart,
  to: StrandEnd,
): NetworkDocument {
  if (!canConnect(document, board, from, to)) return document;
  const network = getNetwork(document, board);
  const target = inputKind(document, board, to);
  const many = target !== undefined && takesMany(target);
  const same = (strand: Strand): boolean =>
    strand.to.node === to.node && strand.to.input === to.input;
  if (
    network.strands.some(
      (strand) =>
        same(strand) && strand.from.node === from.node && strand.from.output === from.output,
    )
  )
    return document;
  const kept = many ? network.strands : network.strands.filter((strand) => !same(strand));
  const order = kept.filter(same).reduce((max, strand) => Math.max(max, strand.order + 1), 0);
  const strand: Strand = { id: freshId('w', strandIds(network)), from, to, order };
  return withNetwork(document, board, { ...network, strands: [...kept, strand] });
}

/** Removes strands by their ids. */
export function disconnect(
  document: NetworkDocument,
  board: BoardId,
  ids: readonly string[],
): NetworkDocument {
  const network = getNetwork(document, board);
  return withNetwork(document, board, {
    ...network,
    strands: network.strands.filter((strand) => !ids.includes(strand.id)),
  });
}

/** Chooses which number a strand makes of its colour or vector; null carries it whole. */
export function setConversion(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  conversion: Conversion | null,
): NetworkDocument {
  const network = getNetwork(document, board);
  return withNetwork(document, board, {
    ...network,
    strands: network.strands.map((strand) => {
      if (strand.id !== id) return strand;
      const { conversion: _old, ...rest } = strand;
      return conversion === null ? rest : { ...rest, conversion };
    }),
  });
}

/** Carries a strand as a mere number, or again as what it stands for. */
export function setPlain(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  isPlain: boolean,
): NetworkDocument {
  const network = getNetwork(document, board);
  return withNetwork(document, board, {
    ...network,
    strands: network.strands.map((strand) => {
      if (strand.id !== id) return strand;
      const { plain: _old, ...rest } = strand;
      return isPlain ? { ...rest, plain: true } : rest;
    }),
  });
}

/** Puts a node into a strand by its first fitting input and output; unchanged when none fit. */
export function insertIntoStrand(
  document: NetworkDocument,
  board: BoardId,
  strandId: string,
  nodeId: string,
): NetworkDocument {
  const network = getNetwork(document, board);
  const strand = network.strands.find((each) => each.id === strandId);
  const node = network.nodes.find((each) => each.id === nodeId);
  const ports = node && describePorts(document, node);
  const source = strand && outputKind(document, board, strand.from),
    target = strand && inputKind(document, board, strand.to);
  if (
    !strand ||
    !ports ||
    !source ||
    !target ||
    strand.from.node === nodeId ||
    strand.to.node === nodeId
  )
    return document;
  const input = ports.inputs.find((port) => mayConnect(source, port.kind));
  const output = ports.outputs.find((port) => mayConnect(port.kind, target));
  if (!input || !output) return document;
  const opened = disconnect(document, board, [strandId]);
  const first = connect(opened, board, strand.from, { node: nodeId, input: input.id });
  const second = connect(first, board, { node: nodeId, output: output.id }, strand.to);
  return first === opened || second === first
    ? document
    : withNeutralOperands(second, board, nodeId, input.id);
}

/** Sets the operands that nothing is wired to so that the node changes nothing as it comes. */
function withNeutralOperands(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  wired: string,
): NetworkDocument {
  const node = getNetwork(document, board).nodes.find((each) => each.id === id);
  if (!node) return document;
  const neutral = (describePorts(document, node)?.inputs ?? []).flatMap((port) => {
    const value = neutralValue(node, port.id);
    const isOperand = port.kind === 'flex' && port.id !== wired && !(port.id in node.values);
    return value !== undefined && isOperand ? [[port.id, value] as const] : [];
  });
  return neutral.length === 0
    ? document
    : changeNode(document, board, id, (each) => ({
        ...each,
        values: { ...each.values, ...Object.fromEntries(neutral) },
      }));
}

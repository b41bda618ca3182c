import type { ResultKey } from '../base/ids';
import { describePorts } from '../compile/catalogue';
import type {
  GroupPort,
  Network,
  NetworkDocument,
  NodeInstance,
  Strand,
  ValueKind,
} from '../graph/document';
import { outputKey } from '../graph/result-key';

/** Names an output of the board, so that several strands from it make one port. */
export const portKey = ({ node, output }: Strand['from']): ResultKey => outputKey([node], output);

/**
 * What nodes give that lead nowhere: the first output of each, so that a group of them has an end
 * before it is wired.
 */
export const openEnds = (
  document: NetworkDocument,
  { strands }: Network,
  nodes: readonly NodeInstance[],
): readonly Strand['from'][] =>
  nodes
    .filter(({ id }) => !strands.some(({ from }) => from.node === id))
    .flatMap((node) => {
      const [first] = describePorts(document, node)?.outputs ?? [];
      return first ? [{ node: node.id, output: first.id }] : [];
    });

/** Ports for some outputs of a board, one for each, by the keys of those. */
export function makePorts(
  starts: readonly Strand['from'][],
  stem: string,
  title: (from: Strand['from']) => string,
  kindOf: (from: Strand['from']) => ValueKind,
): Map<ResultKey, GroupPort> {
  const ports = new Map<ResultKey, GroupPort>();
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

/** What a port is called that feeds nodes: as the first input that it feeds. */
export function inputTitle(
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

/** What a port is called that gives what a node gives. */
export function outputTitle(
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

import { describePorts } from '../compile/catalogue';
import { getNetwork, withNetwork } from '../edit/board';
import type { BoardId } from '../edit/board';
import { canonicalJson } from '../graph/canonical';
import type { Network, NetworkDocument, NodeInstance, Strand } from '../graph/document';
import type { DocumentChange } from './change';
import { titleInList } from '../compile/told-apart';

interface Compared {
  readonly before: NetworkDocument;
  readonly after: NetworkDocument;
  readonly board: BoardId;
  /** The group of the board, in words. */
  readonly words: string;
}

/** What of one part of a board's wiring changed: nodes that came or went, inputs wired anew. */
interface Part {
  readonly nodes: ReadonlySet<string>;
  readonly inputs: ReadonlySet<string>;
}

const inputKey = ({ node, input }: Strand['to']): string => `${node} ${input}`;

/** What leads to each input of a board, as text that tells changes apart. */
function incoming({ strands }: Network): ReadonlyMap<string, readonly Strand[]> {
  const byInput = new Map<string, Strand[]>();
  for (const strand of strands) {
    const key = inputKey(strand.to);
    byInput.set(key, [...(byInput.get(key) ?? []), strand]);
  }
  return byInput;
}
const wiringText = (strands: readonly Strand[] = []): string =>
  canonicalJson(
    [...strands]
      .sort((a, b) => a.order - b.order)
      .map(({ from, conversion, plain }) => ({ from, conversion, plain })),
  );

const kindOf = ({ type, group }: NodeInstance): string => `${type} ${group ?? ''}`;

/** Nodes that came, went, or became something else. */
function changedNodes(was: Network, is: Network): Set<string> {
  const [old, now] = [was, is].map(
    ({ nodes }) => new Map(nodes.map((node) => [node.id as string, kindOf(node)])),
  ) as [Map<string, string>, Map<string, string>];
  return new Set([...old.keys(), ...now.keys()].filter((id) => old.get(id) !== now.get(id)));
}

/** Changes of wiring, apart where they do not hang together. */
function findParts(was: Network, is: Network): readonly Part[] {
  const nodes = changedNodes(was, is);
  const [old, now] = [incoming(was), incoming(is)];
  const inputs = [...new Set([...old.keys(), ...now.keys()])].filter(
    (key) => wiringText(old.get(key)) !== wiringText(now.get(key)),
  );
  const leader = new Map<string, string>();
  const find = (key: string): string => {
    const above = leader.get(key) ?? key;
    return above === key ? key : find(above);
  };
  for (const key of inputs)
    for (const { from, to } of [...(old.get(key) ?? []), ...(now.get(key) ?? [])])
      for (const id of [from.node, to.node])
        if (nodes.has(id)) leader.set(find(`node ${id}`), find(`input ${key}`));
  const parts = new Map<string, { nodes: Set<string>; inputs: Set<string> }>();
  const partOf = (key: string): { nodes: Set<string>; inputs: Set<string> } => {
    const made = parts.get(find(key)) ?? { nodes: new Set(), inputs: new Set() };
    parts.set(find(key), made);
    return made;
  };
  for (const id of nodes) partOf(`node ${id}`).nodes.add(id);
  for (const key of inputs) partOf(`input ${key}`).inputs.add(key);
  return [...parts.values()];
}

/** The later board with one part of its wiring as it was. */
function putBack(now: Network, was: Network, { nodes, inputs }: Part): Network {
  const isOf = (strand: Strand): boolean => inputs.has(inputKey(strand.to));
  const kept = [
    ...now.nodes.filter(({ id }) => !nodes.has(id)),
    ...was.nodes.filter(({ id }) => nodes.has(id)),
  ];
  const ids = new Set([...kept.map(({ id }) => id as string), '@in', '@out']);
  const strands = [...now.strands.filter((each) => !isOf(each)), ...was.strands.filter(isOf)];
  return {
    ...now,
    nodes: kept,
    strands: strands.filter(({ from, to }) => ids.has(from.node) && ids.has(to.node)),
  };
}

/** What a part is called: the nodes that came or went, else the inputs wired anew. */
function describePart(
  { before, after, board }: Compared,
  { nodes, inputs }: Part,
): Pick<DocumentChange, 'what' | 'before' | 'after' | 'node'> {
  const list = (document: NetworkDocument): string =>
    getNetwork(document, board)
      .nodes.filter(({ id }) => nodes.has(id))
      .map((node) => `“${titleInList(document, getNetwork(document, board), node)}”`)
      .join(', ') || 'not there';
  if (nodes.size > 0)
    return {
      what: nodes.size > 1 ? 'nodes and their strands' : 'a node and its strands',
      before: list(before),
      after: list(after),
      node: [...nodes][0] ?? null,
    };
  const sources = (document: NetworkDocument): string => {
    const network = getNetwork(document, board);
    const { nodes: all, strands } = network;
    const from = strands.filter(({ to }) => inputs.has(inputKey(to)));
    return (
      from
        .map((strand) => {
          const node = all.find(({ id }) => id === strand.from.node);
          return node ? `“${titleInList(document, network, node)}”` : 'outside';
        })
        .join(', ') || 'unwired'
    );
  };
  const [node = '', input = ''] = ([...inputs][0] ?? '').split(' ');
  const network = getNetwork(after, board);
  const card = network.nodes.find(({ id }) => id === node);
  const port = card && describePorts(after, card)?.inputs.find(({ id }) => id === input);
  return {
    what: card
      ? `what leads to “${titleInList(after, network, card)}”, ${port?.title ?? input}`
      : `what goes out as ${input}`,
    before: sources(before),
    after: sources(after),
    node: card ? node : null,
  };
}

/** What of a board's wiring is not as it was: parts that hang together are one change. */
export function wiringChanges(compared: Compared): DocumentChange[] {
  const { before, after, board, words } = compared;
  const [was, is] = [getNetwork(before, board), getNetwork(after, board)];
  return findParts(was, is).map((part) => ({
    kind: 'wiring' as const,
    board,
    place: words || 'The material’s board',
    ...describePart(compared, part),
    undo: (whole) => withNetwork(whole, board, putBack(getNetwork(whole, board), was, part)),
  }));
}

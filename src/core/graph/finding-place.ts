import { own } from '../base/own';
import type { Diagnostic } from '../base/diagnostic';
import type { BoardId, Network, NetworkDocument, NodeInstance } from './document';
import { INPUT_EDGE, OUTPUT_EDGE, isRamp } from './document';
import { parsePointer } from './pointer';

/** What of a document a finding is about, by ids: it stays true while the document is edited. */
export interface FindingPlace {
  /** The group whose board it is on; null for the material's own. */
  readonly board: BoardId;
  readonly node?: string;
  readonly strand?: string;
  /** The end of the strand that is wrong; left out where it is the strand as a whole. */
  readonly end?: 'from' | 'to';
  readonly input?: string;
  readonly output?: string;
  readonly option?: string;
  /** A stop of the ramp at `input`. */
  readonly stop?: string;
  /** A point of the curve at `input`, counted from 0. */
  readonly point?: number;
  /** A character of the formula at `input`, counted from 0. */
  readonly character?: number;
  readonly dial?: string;
  /** What the dial drives, counted from 0. */
  readonly drive?: number;
  /** A group as a whole: it is shown on every card that stands for it. */
  readonly group?: string;
}

/**
 * Finds what a finding is about, by its pointer.
 * @param document the document that was checked: pointers count its nodes and strands
 */
export function locateFinding(document: NetworkDocument, finding: Diagnostic): FindingPlace {
  const [root, ...rest] = parsePointer(finding.pointer);
  if (root === 'network') return inNetwork(document.network, null, rest, finding);
  const id = rest[0] ?? '';
  const group = root === 'groups' && Object.hasOwn(document.groups, id) && own(document.groups, id);
  if (!group) return { board: null };
  const [member, ...within] = rest.slice(1);
  if (member === 'network') return inNetwork(group.network, id, within, finding);
  const dial = member === 'dials' ? group.dials[Number(within[0])] : undefined;
  if (!dial) return { board: id, group: id };
  const place = { board: id, group: id, dial: dial.id };
  if (within[1] !== 'drives') return place;
  const drive = Number(within[2]);
  // A drive is shown at what it drives, too.
  const target = dial.drives[drive];
  const exists = group.network.nodes.some((node) => node.id === target?.node);
  return {
    ...place,
    drive,
    ...(target && exists ? { node: target.node, input: target.input } : {}),
  };
}

function inNetwork(
  network: Network,
  board: BoardId,
  [list, at, ...within]: readonly string[],
  finding: Diagnostic,
): FindingPlace {
  const node = list === 'nodes' ? network.nodes[Number(at)] : undefined;
  if (node) return { board, node: node.id, ...inNode(node, within, finding) };
  const strand = list === 'strands' ? network.strands[Number(at)] : undefined;
  if (!strand) return { board, ...(finding.nodeId === undefined ? {} : { node: finding.nodeId }) };
  const { from, to } = strand;
  const here = { board, strand: strand.id };
  // Of a strand that leads nowhere, the end that exists is where it can be seen.
  const isThere = (id: string): boolean =>
    id === INPUT_EDGE || id === OUTPUT_EDGE || network.nodes.some((each) => each.id === id);
  if (!isThere(from.node)) return { ...here, end: 'from', node: to.node, input: to.input };
  if (!isThere(to.node)) return { ...here, end: 'to', node: from.node, output: from.output };
  if (within[0] === 'from') return { ...here, end: 'from', node: from.node, output: from.output };
  const target = { ...here, node: to.node, input: to.input };
  return within[0] === 'to' ? { ...target, end: 'to' } : target;
}

function inNode(
  node: NodeInstance,
  [member, id, ...within]: readonly string[],
  finding: Diagnostic,
): Omit<FindingPlace, 'board'> {
  if (member === 'options' && id !== undefined) return { option: id };
  if (member !== 'values' || id === undefined) return {};
  const [list, at] = within;
  const value = Object.hasOwn(node.values, id) ? own(node.values, id) : undefined;
  const stop = list === 'stops' && isRamp(value) ? value.stops[Number(at)] : undefined;
  return {
    input: id,
    ...(stop ? { stop: stop.id } : {}),
    ...(list === 'points' ? { point: Number(at) } : {}),
    ...(finding.character === undefined ? {} : { character: finding.character }),
  };
}

/**
 * The group nodes that lead from the material's board to a board; null where nothing leads there.
 * The shortest way, the first of equals.
 */
export function wayTo(document: NetworkDocument, board: BoardId): readonly string[] | null {
  if (board === null) return [];
  const seen = new Set<BoardId>([null]);
  let edge: { readonly network: Network; readonly path: readonly string[] }[] = [
    { network: document.network, path: [] },
  ];
  while (edge.length > 0) {
    const next: typeof edge = [];
    for (const { network, path } of edge)
      for (const { id, group } of network.nodes) {
        if (group === undefined || seen.has(group) || !Object.hasOwn(document.groups, group))
          continue;
        if (group === board) return [...path, id];
        seen.add(group);
        const definition = own(document.groups, group);
        if (definition) next.push({ network: definition.network, path: [...path, id] });
      }
    edge = next;
  }
  return null;
}

import { INPUT_EDGE, OUTPUT_EDGE, SURFACE_OUTPUT } from '../../graph/document';
import type {
  GroupDefinition,
  Network,
  NetworkDocument,
  NodeInstance,
  Strand,
} from '../../graph/document';
import type { PortKind } from '../../nodes/define';
import {
  describePorts,
  findNodeDefinition,
  findGroupDefinition,
  mayConnect,
  takesMany,
} from '../catalogue';
import { topologicalOrder } from '../order';
import { quantityNote } from '../quantities';
import { kindWord } from './kinds';
import type { CheckReport, DocumentPath } from './report';

/** One network of a document: the material's own, or a group's. */
export interface CheckedNetwork {
  readonly document: NetworkDocument;
  readonly network: Network;
  readonly group: GroupDefinition | null;
  readonly nodes: ReadonlyMap<string, NodeInstance>;
  readonly at: DocumentPath;
}

/** Checks that each strand has two ends that go together, and that none closes a circle. */
export function checkStrands(report: CheckReport, checked: CheckedNetwork): void {
  const taken = new Set<string>();
  const ids = new Set<string>();
  checked.network.strands.forEach((strand, k) => {
    const at = [...checked.at, 'strands', k];
    if (ids.has(strand.id))
      report.add('strand.duplicate-id', [...at, 'id'], `Two strands share the id ${strand.id}.`);
    ids.add(strand.id);
    const target = checkEnds(report, checked, strand, at);
    if (!target) return;
    const key = `${strand.to.node}/${strand.to.input}`;
    if (taken.has(key) && !takesMany(target))
      report.add(
        'strand.twice',
        [...at, 'to'],
        `Two strands end at ${portName(checked, strand.to.node, strand.to.input)}, which takes ` +
          'one. Remove one of them.',
        { node: strand.to.node },
      );
    taken.add(key);
  });
  checkCircle(report, checked);
}

/** @returns the kind of the input the strand ends at; null where it does not hold together */
function checkEnds(
  report: CheckReport,
  checked: CheckedNetwork,
  strand: Strand,
  at: DocumentPath,
): PortKind | null {
  const { from, to } = strand;
  const { nodes } = checked;
  if (!nodes.has(from.node) && from.node !== INPUT_EDGE)
    return missingNode(report, [...at, 'from'], 'starts', from.node);
  if (!nodes.has(to.node) && to.node !== OUTPUT_EDGE)
    return missingNode(report, [...at, 'to'], 'ends', to.node);
  // What ports a node of another release has is not known: its strands are kept as they are.
  if (isUnknown(checked, from.node) || isUnknown(checked, to.node)) return null;
  const source = outputKind(checked, from.node, from.output);
  const target = inputKind(checked, to.node, to.input);
  if (!source || !target) {
    const [end, node, port] = source
      ? (['to', to.node, `input ${to.input}`] as const)
      : (['from', from.node, `output ${from.output}`] as const);
    report.add(
      'strand.missing-port',
      [...at, end],
      `${nodeName(checked, node)} has no ${port}. Lay the strand anew, or remove it.`,
      { node },
    );
    return null;
  }
  if (!mayConnect(source, target))
    report.add('strand.kind', at, `A ${kindWord(source)} cannot go into a ${kindWord(target)}.`, {
      node: to.node,
    });
  checkQuantity(report, checked, strand, at);
  return target;
}

function missingNode(
  report: CheckReport,
  at: DocumentPath,
  verb: 'starts' | 'ends',
  node: string,
): null {
  report.add(
    'strand.missing-node',
    at,
    `A strand ${verb} at the node ${node}, which does not exist. Remove the strand.`,
  );
  return null;
}

function checkQuantity(
  report: CheckReport,
  { document, network, group }: CheckedNetwork,
  strand: Strand,
  at: DocumentPath,
): void {
  const note = quantityNote(document, network, group, strand);
  if (note?.formula !== null) return;
  report.add(
    'strand.quantity',
    at,
    `A strand carries ${note.from} into ${strand.to.input} of ${strand.to.node}, which is ` +
      `${note.to}: they are not the same thing, and nothing converts them. Carry it as a plain ` +
      'number if that is meant.',
    { node: strand.to.node, severity: 'warning' },
  );
}

function checkCircle(report: CheckReport, { network, nodes, at }: CheckedNetwork): void {
  const { cycle } = topologicalOrder(network);
  if (cycle.length === 0) return;
  const inCircle = new Set(cycle);
  const closing = network.strands.findLastIndex(
    ({ from, to }) => inCircle.has(from.node) && inCircle.has(to.node),
  );
  const names = cycle.map((id) => titleOf(nodes.get(id)) ?? id);
  report.add(
    'network.cycle',
    [...at, 'strands', closing],
    `The nodes ${names.join(' → ')} feed each other in a circle. Remove one of the strands ` +
      'between them.',
    { node: cycle[0] ?? '' },
  );
}

const titleOf = (node: NodeInstance | undefined): string | undefined =>
  node && (node.name ?? findNodeDefinition(node)?.title);
const nodeName = ({ nodes }: CheckedNetwork, id: string): string =>
  id === INPUT_EDGE || id === OUTPUT_EDGE
    ? 'The edge of the board'
    : `“${titleOf(nodes.get(id)) ?? id}”`;
const portName = ({ document, nodes }: CheckedNetwork, id: string, input: string): string => {
  const node = nodes.get(id);
  const title =
    node && describePorts(document, node)?.inputs.find((port) => port.id === input)?.title;
  return `${title ?? input} of “${titleOf(node) ?? id}”`;
};

function isUnknown({ document, nodes }: CheckedNetwork, id: string): boolean {
  const node = nodes.get(id);
  if (!node) return false;
  return node.type === 'group' ? !findGroupDefinition(document, node) : !findNodeDefinition(node);
}

function outputKind(
  { document, group, nodes }: CheckedNetwork,
  id: string,
  output: string,
): PortKind | undefined {
  if (id === INPUT_EDGE)
    return [...(group?.inputs ?? []), ...(group?.dials ?? [])].find((port) => port.id === output)
      ?.kind;
  const node = nodes.get(id);
  return node && describePorts(document, node)?.outputs.find((port) => port.id === output)?.kind;
}

function inputKind(
  { document, group, nodes }: CheckedNetwork,
  id: string,
  input: string,
): PortKind | undefined {
  if (id === OUTPUT_EDGE)
    return group
      ? group.outputs.find((port) => port.id === input)?.kind
      : input === SURFACE_OUTPUT
        ? 'surface'
        : undefined;
  const node = nodes.get(id);
  return node && describePorts(document, node)?.inputs.find((port) => port.id === input)?.kind;
}

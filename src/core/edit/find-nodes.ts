import { own } from '../base/own';
import { describePorts, findGroupDefinition, findNodeDefinition } from '../compile/catalogue';
import { OUTPUT_EDGE } from '../graph/document';
import type { BoardId, NetworkDocument, NodeInstance } from '../graph/document';
import { getNetwork } from './board';
import { indexNetwork } from './network-index';

/** What about a node met what was asked for. */
export type FoundBy = 'name' | 'type' | 'value' | 'feeds' | 'dial' | 'finding';
/** A node of a board that was found. */
export interface FoundNode {
  readonly id: string;
  readonly title: string;
  /** What it is, in the catalogue's words. */
  readonly type: string;
  readonly by: FoundBy;
  /** The words that met it. */
  readonly words: string;
}
/** A finding at a node, in words. */
export interface FindingWords {
  readonly node: string;
  readonly message: string;
}

const typeOf = (document: NetworkDocument, node: NodeInstance): string =>
  node.group !== undefined
    ? `Group ${findGroupDefinition(document, node)?.name ?? ''}`.trim()
    : (findNodeDefinition(node)?.title ?? node.type);

/** What a node is called on its card. */
export const nodeTitle = (document: NetworkDocument, node: NodeInstance): string =>
  node.name ??
  findGroupDefinition(document, node)?.name ??
  findNodeDefinition(node)?.title ??
  node.type;

interface Words {
  readonly by: FoundBy;
  readonly words: string;
}

/** All that a node may be found by, what is most its own first. */
function wordsOf(
  document: NetworkDocument,
  board: BoardId,
): (node: NodeInstance, findings: readonly FindingWords[]) => readonly Words[] {
  const { nodes, leaving } = indexNetwork(getNetwork(document, board));
  const group = board === null ? undefined : own(document.groups, board);
  const titleAt = (id: string): string => {
    const node = nodes.get(id);
    return node ? nodeTitle(document, node) : id === OUTPUT_EDGE ? 'the material' : id;
  };
  return (node, findings) => [
    { by: 'name', words: nodeTitle(document, node) },
    { by: 'type', words: typeOf(document, node) },
    ...(group?.dials ?? [])
      .filter(({ drives }) => drives.some((drive) => drive.node === node.id))
      .map(({ name }) => ({ by: 'dial' as const, words: name })),
    ...(leaving.get(node.id) ?? []).map(({ to }) => ({
      by: 'feeds' as const,
      words: titleAt(to.node),
    })),
    ...(describePorts(document, node)?.inputs ?? [])
      .filter(({ id }) => own(node.values, id) !== undefined)
      .map(({ title }) => ({ by: 'value' as const, words: title })),
    ...findings.map(({ message }) => ({ by: 'finding' as const, words: message })),
  ];
}

const ORDER: readonly FoundBy[] = ['name', 'type', 'dial', 'feeds', 'value', 'finding'];

/**
 * Finds the nodes of a board in which every word of a text occurs: in the name, the type, a dial
 * that drives it, what it feeds, a value that was set, or a finding. Capitals make no difference.
 * @param only what is looked at; everything unless given
 * @returns the best found first; all nodes for an empty text
 */
export function findNodes(
  document: NetworkDocument,
  board: BoardId,
  text: string,
  { findings = [], only }: { findings?: readonly FindingWords[]; only?: FoundBy } = {},
): readonly FoundNode[] {
  const asked = text.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const meets = (words: string): boolean => {
    const lower = words.toLocaleLowerCase();
    return asked.every((each) => lower.includes(each));
  };
  const words = wordsOf(document, board);
  const found = getNetwork(document, board).nodes.flatMap((node): FoundNode[] => {
    const mine = findings.filter((finding) => finding.node === node.id);
    const met = words(node, mine).find(
      (each) => (only === undefined || each.by === only) && meets(each.words),
    );
    if (!met) return [];
    return [
      { id: node.id, title: nodeTitle(document, node), type: typeOf(document, node), ...met },
    ];
  });
  return found.sort(
    (a, b) => ORDER.indexOf(a.by) - ORDER.indexOf(b.by) || a.title.localeCompare(b.title),
  );
}

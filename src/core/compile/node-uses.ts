import { findNodeDefinition } from './catalogue';
import type { Network, NetworkDocument } from '../graph/document';
import type { NodeDefinition } from '../nodes/define';
import { NODES } from '../nodes/registry.generated';

/** Something that was counted, and how often. */
export interface Counted {
  readonly title: string;
  readonly count: number;
}
/** Where a node stands in finished networks, and beside what. */
export interface NodeUses {
  /** The networks it stands in. */
  readonly networks: readonly string[];
  /** What feeds it most, and what it feeds most. */
  readonly fedBy: readonly Counted[];
  readonly feeds: readonly Counted[];
}

/** So many of each are told. */
const MOST = 3;

function counted(titles: readonly string[]): readonly Counted[] {
  const counts = new Map<string, number>();
  for (const title of titles) counts.set(title, (counts.get(title) ?? 0) + 1);
  return [...counts]
    .map(([title, count]) => ({ title, count }))
    .sort((a, b) => b.count - a.count || a.title.localeCompare(b.title))
    .slice(0, MOST);
}

/** How a node is used in finished networks. */
export function findUses(type: string, documents: readonly NetworkDocument[]): NodeUses {
  const [networks, fedBy, feeds] = [new Set<string>(), [] as string[], [] as string[]];
  const read = (name: string, { nodes, strands }: Network): void => {
    const byId = new Map(nodes.map((node) => [node.id as string, node]));
    const titleOf = (id: string): readonly string[] => {
      const node = byId.get(id);
      const definition = node && findNodeDefinition(node);
      return definition ? [definition.title] : [];
    };
    for (const node of nodes) if (node.type === type) networks.add(name);
    for (const { from, to } of strands) {
      if (byId.get(to.node)?.type === type) fedBy.push(...titleOf(from.node));
      if (byId.get(from.node)?.type === type) feeds.push(...titleOf(to.node));
    }
  };
  for (const { name, network, groups } of documents) {
    read(name, network);
    for (const group of Object.values(groups)) read(name, group.network);
  }
  return { networks: [...networks], fedBy: counted(fedBy), feeds: counted(feeds) };
}

const wordsOf = ({ title, synonyms }: NodeDefinition): ReadonlySet<string> =>
  new Set([title, ...synonyms].flatMap((words) => words.toLowerCase().split(/[^a-z]+/)));
/** Words that say nothing of what a node does. */
const PLAIN = new Set(['', 'a', 'of', 'the', 'in', 'to', 'mask', 'value', 'values', 'colour']);

/** Nodes that are sought by the same words, those with most of them in common first. */
export function similarNodes(definition: NodeDefinition): readonly NodeDefinition[] {
  const own = wordsOf(definition);
  return NODES.filter(({ id }) => id !== definition.id)
    .map((other) => ({
      other,
      shared:
        [...wordsOf(other)].filter((word) => own.has(word) && !PLAIN.has(word)).length +
        (other.family === definition.family ? 0.5 : 0),
    }))
    .filter(({ shared }) => shared >= 1)
    .sort((a, b) => b.shared - a.shared)
    .slice(0, MOST)
    .map(({ other }) => other);
}

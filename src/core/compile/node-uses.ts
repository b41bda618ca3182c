import { findNodeDefinition } from './catalogue';
import type { Network, NetworkDocument } from '../graph/document';
import type { NodeDefinition } from '../nodes/define';
import type { Quantity } from '../nodes/quantities';
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

/** Words that say nothing of what a node does. */
const PLAIN = new Set(['', 'a', 'of', 'the', 'in', 'to', 'mask', 'value', 'values', 'colour']);
const wordsOf = ({ title, synonyms }: NodeDefinition): ReadonlySet<string> =>
  new Set(
    [title, ...synonyms]
      .flatMap((words) => words.toLowerCase().split(/[^a-z]+/))
      .filter((word) => !PLAIN.has(word)),
  );

/** What goes in and out: kinds of the outputs, and the quantities that are more than a mask. */
function measuresOf({ inputs, outputs }: NodeDefinition): ReadonlySet<string> {
  const [first] = Object.values(inputs);
  const told = (way: string, ports: readonly { readonly quantity?: Quantity }[]): string[] =>
    ports.flatMap(({ quantity }) =>
      quantity === undefined || quantity === 'mask' ? [] : [`${way} ${quantity}`],
    );
  return new Set([
    ...(first ? [`takes ${first.kind}`] : []),
    ...Object.values(outputs).map(({ kind }) => `gives ${kind}`),
    ...told('in', Object.values(inputs)),
    ...told('out', Object.values(outputs)),
  ]);
}

/** What two sets have in common, of all that is in either: 0 to 1. */
function overlap<T>(a: ReadonlySet<T>, b: ReadonlySet<T>): number {
  const both = [...a].filter((each) => b.has(each)).length;
  return both === 0 ? 0 : both / (a.size + b.size - both);
}

/** How much each counts: what a node is for before what it is called. */
const WEIGHT = { measures: 2, family: 1, uses: 1.5, words: 0.3 } as const;
/** Less in common than this is no likeness. */
const LEAST_ALIKE = 1.4;

/**
 * Nodes that one might take in place of another, the likeliest first: of the same family, for the
 * same quantities, used beside the same nodes. Words in common only decide between these.
 * @param documents finished networks, in which the use is looked up
 */
export function similarNodes(
  definition: NodeDefinition,
  documents: readonly NetworkDocument[],
): readonly NodeDefinition[] {
  const beside = (id: string): ReadonlySet<string> => {
    const { fedBy, feeds } = findUses(id, documents);
    return new Set([
      ...fedBy.map(({ title }) => `after ${title}`),
      ...feeds.map(({ title }) => `before ${title}`),
    ]);
  };
  const [measures, words, uses] = [
    measuresOf(definition),
    wordsOf(definition),
    beside(definition.id),
  ];
  return NODES.filter(({ id }) => id !== definition.id)
    .map((other) => ({
      other,
      likeness:
        WEIGHT.measures * overlap(measures, measuresOf(other)) +
        (other.family === definition.family ? WEIGHT.family : 0) +
        WEIGHT.uses * overlap(uses, beside(other.id)),
      called: WEIGHT.words * [...wordsOf(other)].filter((word) => words.has(word)).length,
    }))
    .filter(({ likeness }) => likeness >= LEAST_ALIKE)
    .sort((a, b) => b.likeness + b.called - a.likeness - a.called)
    .slice(0, MOST)
    .map(({ other }) => other);
}

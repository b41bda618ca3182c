import { own } from '../base/own';
import type { NodeDefinition } from '../nodes/define';
import { NODES } from '../nodes/registry.generated';

/** Something a search offers: a node, or a node with one of its choices made. */
export interface SearchHit {
  readonly key: string;
  readonly title: string;
  readonly help: string;
  readonly definition: NodeDefinition;
  readonly options: Readonly<Record<string, string>>;
}

const HITS: readonly { readonly hit: SearchHit; readonly words: readonly string[] }[] =
  NODES.flatMap((definition) => {
    const plain = {
      hit: {
        key: definition.id,
        title: definition.title,
        help: definition.help,
        definition,
        options: {},
      },
      words: definition.synonyms.map((word) => word.toLowerCase()),
    };
    const { presets } = definition;
    const choices = presets ? (own(definition.options, presets.option)?.choices ?? []) : [];
    return [
      plain,
      ...choices.map((choice) => ({
        hit: {
          key: `${definition.id} ${choice.value}`,
          title: choice.title,
          help: choice.help,
          definition,
          options: { [presets?.option ?? '']: choice.value },
        },
        words: presets?.synonyms[choice.value] ?? [],
      })),
    ];
  });

/**
 * Finds nodes by part of their title, of a synonym, or by family; best first. Without a query:
 * every node.
 */
export function searchNodes(query: string): readonly SearchHit[] {
  const wanted = query.trim().toLowerCase();
  if (!wanted)
    return HITS.map(({ hit }) => hit).filter((hit) => Object.keys(hit.options).length === 0);
  return HITS.map(({ hit, words }) => ({ hit, rank: rankOf(hit, words, wanted) }))
    .filter(({ rank }) => rank > 0)
    .sort((a, b) => b.rank - a.rank || a.hit.title.localeCompare(b.hit.title))
    .map(({ hit }) => hit);
}

function rankOf(hit: SearchHit, words: readonly string[], wanted: string): number {
  const title = hit.title.toLowerCase();
  if (title === wanted) return 7;
  if (title.startsWith(wanted)) return 6;
  if (words.includes(wanted)) return 5;
  if (title.includes(wanted)) return 4;
  if (words.some((word) => word.startsWith(wanted))) return 3;
  if (words.some((word) => word.includes(wanted))) return 2;
  return hit.definition.family.startsWith(wanted) ? 1 : 0;
}

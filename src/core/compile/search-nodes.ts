import { own } from '../base/own';
import type { NodeDefinition } from '../nodes/define';
import { NODES } from '../nodes/registry.generated';
import { TRADE_WORDS } from './trade-words';

/** Something a search offers: a node, or a node with one of its choices made. */
export interface SearchHit {
  readonly key: string;
  readonly title: string;
  readonly help: string;
  readonly definition: NodeDefinition;
  readonly options: Readonly<Record<string, string>>;
}

interface Entry {
  readonly hit: SearchHit;
  /** Words it is also found by, those of the trade apart. */
  readonly words: readonly string[];
  readonly trade: readonly string[];
}

const keyOf = (id: string, options: Readonly<Record<string, string>>): string =>
  [id, ...Object.entries(options).map(([option, choice]) => `${option}=${choice}`)].join(' ');

const TRADE = new Map<string, string[]>();
for (const { word, target } of TRADE_WORDS) {
  if ('ready' in target) continue;
  const key = keyOf(target.node, target.options);
  TRADE.set(key, [...(TRADE.get(key) ?? []), word]);
}

/** Every node, and every node with one of its choices made, which sets itself where it is taken. */
const HITS: readonly Entry[] = NODES.flatMap((definition): readonly Entry[] => {
  const { id, title, help, synonyms, presets } = definition;
  const entry = (
    options: Readonly<Record<string, string>>,
    shown: Pick<SearchHit, 'title' | 'help'>,
    words: readonly string[],
  ): Entry => {
    const key = keyOf(id, options);
    return {
      hit: { key, ...shown, definition, options },
      words: words.map((word) => word.toLowerCase()),
      trade: TRADE.get(key) ?? [],
    };
  };
  return [
    entry({}, { title, help }, synonyms),
    ...Object.entries(definition.options).flatMap(([option, { choices }]) =>
      choices.map((choice) =>
        entry(
          { [option]: choice.value },
          { title: choice.title, help: `${title}: ${choice.help}` },
          presets?.option === option ? (own(presets.synonyms, choice.value) ?? []) : [],
        ),
      ),
    ),
  ];
});

/**
 * Finds nodes by part of their title, of a synonym or of a word of the trade, by a choice of an
 * option, or by family; best first. Without a query: every node.
 */
export function searchNodes(query: string): readonly SearchHit[] {
  const wanted = query.trim().toLowerCase();
  if (!wanted)
    return HITS.map(({ hit }) => hit).filter((hit) => Object.keys(hit.options).length === 0);
  return HITS.map((entry) => ({ ...entry, rank: rankOf(entry, wanted) }))
    .filter(({ rank }) => rank > 0)
    .sort(
      (a, b) =>
        b.rank - a.rank ||
        Object.keys(a.hit.options).length - Object.keys(b.hit.options).length ||
        // Of equals, what takes numbers and colours alike fits wherever it is put.
        takesAny(b.hit) - takesAny(a.hit) ||
        a.hit.title.localeCompare(b.hit.title),
    )
    .map(({ hit }) => hit);
}

const takesAny = ({ definition }: SearchHit): number =>
  Object.values(definition.inputs).some(({ kind }) => kind === 'flex') ? 1 : 0;

/** Whether every word that was typed begins one of some words. */
const hasEach = (wanted: string, words: readonly string[]): boolean => {
  const known = words.flatMap((word) => word.split(/[^\p{L}\p{N}]+/u));
  return wanted.split(/\s+/).every((part) => known.some((word) => word.startsWith(part)));
};

function rankOf({ hit, words, trade }: Entry, wanted: string): number {
  const title = hit.title.toLowerCase();
  const { definition, options } = hit;
  const isChoice = Object.keys(options).length > 0;
  if (title === wanted) return isChoice ? 9 : 11;
  if (trade.includes(wanted)) return 10;
  const isNamed = !isChoice || definition.presets?.option === Object.keys(options)[0];
  if (title.startsWith(wanted) && isNamed) return 8;
  if (words.includes(wanted)) return 7;
  if (title.includes(wanted) && isNamed) return 6;
  if (trade.some((word) => word.startsWith(wanted))) return 5;
  if (words.some((word) => word.startsWith(wanted))) return 4;
  if (words.some((word) => word.includes(wanted))) return 3;
  const all = [title, definition.title.toLowerCase(), ...words, ...trade];
  if (/\s/.test(wanted) && hasEach(wanted, all)) return 2;
  return !isChoice && definition.family.startsWith(wanted) ? 1 : 0;
}

'use client';
import type { LibraryQuery } from '@/contract/library';
import { useFacets } from '@/state/library-search';

/** The groups of facets, by the beginning of their names, in the order they are asked for. */
const SECTIONS = [
  { begins: 'gives:', title: 'Gives' },
  { begins: 'free:', title: 'Works without' },
  { begins: 'needs:', title: 'Needs' },
  { begins: 'follows:', title: 'Follows the' },
  { begins: 'tag:', title: 'Tags' },
  { begins: 'author:', title: 'Author' },
  { begins: 'state:', title: 'State' },
] as const;
/** Of one section so many are shown at once. */
const MOST_SHOWN = 8;

/** What is said of a facet where its own word is a programmer's. */
const WORDS: Readonly<Record<string, string>> = { 'gives:scalar': 'mask or number' };

interface Props {
  readonly query: LibraryQuery;
  readonly chosen: readonly string[];
  readonly onChoose: (facets: readonly string[]) => void;
}

/** What narrows the search, with how many entries have it. */
export function FacetPanel({ query, chosen, onChoose }: Props) {
  const { data } = useFacets(query);
  const facets = data?.facets ?? [];
  const known = new Set(facets.map(({ facet }) => facet));
  // What is chosen stays in sight even where nothing has it.
  const all = [
    ...facets,
    ...chosen
      .filter((facet) => !known.has(facet))
      .map((facet) => ({ facet, title: facet.slice(facet.indexOf(':') + 1), count: 0 })),
  ];
  return (
    <div className="text-[12px]" data-testid="facets">
      {SECTIONS.map(({ begins, title }) => {
        const own = all.filter(({ facet }) => facet.startsWith(begins)).slice(0, MOST_SHOWN);
        if (own.length === 0) return null;
        return (
          <fieldset key={begins} className="mb-2">
            <legend className="text-soft">{title}</legend>
            {own.map((each) => (
              <label key={each.facet} className="flex min-h-[24px] items-center gap-1.5">
                <input
                  type="checkbox"
                  checked={chosen.includes(each.facet)}
                  onChange={(event) => {
                    onChoose(
                      event.target.checked
                        ? [...chosen, each.facet]
                        : chosen.filter((facet) => facet !== each.facet),
                    );
                  }}
                />
                <span className="min-w-0 flex-1 truncate" title={each.title}>
                  {WORDS[each.facet] ?? each.title}
                </span>
                <span className="figures text-soft">{each.count}</span>
              </label>
            ))}
          </fieldset>
        );
      })}
    </div>
  );
}

'use client';
import { useState } from 'react';
import { SORTS } from '@/contract/library';
import type { LibraryAnswer, LibraryQuery, Sort } from '@/contract/library';
import { describeError } from '@/core/base/problem';
import { useLibrarySearch } from '@/state/library-search';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { ProblemNote } from '@/ui/ProblemNote';
import { RackChoice } from '@/ui/RackChoice';
import { BringGroup } from './BringGroup';
import { EntryGrid } from './EntryGrid';
import { FacetPanel } from './FacetPanel';

const SORT_TITLES: Readonly<Record<Sort, string>> = {
  match: 'Best match first',
  use: 'Most used first',
  date: 'Newest first',
  name: 'By name',
};
/** Entries of a page. */
const PAGE = 40;

interface Props {
  readonly projects: readonly { readonly id: string; readonly name: string }[];
}

/** All racks the user sees: search, facets, order, pages. */
export function LibraryBrowser({ projects }: Props) {
  const [query, setQuery] = useState<LibraryQuery>({});
  const [facets, setFacets] = useState<readonly string[]>([]);
  const [first, setFirst] = useState(0);
  const asked: LibraryQuery = {
    ...query,
    ...(facets.length > 0 ? { facets: facets.join(',') } : {}),
    ...(first > 0 ? { first: String(first) } : {}),
  };
  const { data: answer, error } = useLibrarySearch(asked);
  const change = (next: Partial<LibraryQuery>): void => {
    setQuery((now) => ({ ...now, ...next }));
    setFirst(0);
  };
  return (
    <div className="grid grid-cols-[180px_1fr] gap-5">
      <aside aria-label="Narrow the search">
        <UsedBy projects={projects} value={query.usedBy ?? ''} onChange={change} />
        <FacetPanel
          query={asked}
          chosen={facets}
          onChoose={(next) => {
            setFacets(next);
            setFirst(0);
          }}
        />
      </aside>
      <div onKeyDown={moveByArrows} data-testid="library">
        <SearchLine {...{ query, racks: answer?.racks ?? [], change }} />
        {error ? <ProblemNote problem={describeError(error)} /> : null}
        {answer ? (
          <EntryGrid answer={answer} />
        ) : error ? null : (
          <p className="text-soft">Looking …</p>
        )}
        <Pages first={first} answer={answer} onTurn={setFirst} />
      </div>
    </div>
  );
}

interface PagesProps {
  readonly first: number;
  readonly answer: LibraryAnswer | undefined;
  readonly onTurn: (first: number) => void;
}

function Pages({ first, answer, onTurn }: PagesProps) {
  if (first === 0 && !answer?.hasMore) return null;
  return (
    <nav aria-label="Pages" className="mt-3 flex items-center gap-2">
      <Button
        disabled={first === 0}
        onClick={() => {
          onTurn(Math.max(0, first - PAGE));
        }}
      >
        Page before
      </Button>
      <span className="figures text-soft">
        {first + 1} – {first + (answer?.entries.length ?? 0)}
      </span>
      <Button
        disabled={!answer?.hasMore}
        onClick={() => {
          onTurn(first + PAGE);
        }}
      >
        Next page
      </Button>
    </nav>
  );
}

interface LineProps {
  readonly query: LibraryQuery;
  readonly racks: readonly { readonly id: string; readonly name: string }[];
  readonly change: (next: Partial<LibraryQuery>) => void;
}

/** What is looked for, on which rack, in which order. */
function SearchLine({ query, racks, change }: LineProps) {
  return (
    <div className="mb-3 flex flex-wrap items-center gap-3">
      <input
        autoFocus
        aria-label="Search the library"
        placeholder="By name, tag, dial or what it does"
        value={query.query ?? ''}
        onChange={(event) => {
          change({ query: event.target.value });
        }}
        className="w-[300px] border border-line bg-panel px-2 py-1"
      />
      <RackChoice
        racks={racks}
        value={query.rack ?? ''}
        onChange={(rack) => {
          change({ rack: rack || undefined });
        }}
      />
      <BringGroup />
      <span className="ml-auto">
        <Choose
          label="Order"
          value={query.sort ?? 'match'}
          items={SORTS.map((sort) => ({ value: sort, title: SORT_TITLES[sort] }))}
          onChange={(sort) => {
            change({ sort: SORTS.find((each) => each === sort) });
          }}
        />
      </span>
    </div>
  );
}

interface UsedProps {
  readonly projects: Props['projects'];
  readonly value: string;
  readonly onChange: LineProps['change'];
}

function UsedBy({ projects, value, onChange }: UsedProps) {
  return (
    <label className="mb-2 block text-[12px]">
      <span className="block text-soft">Used by</span>
      <Choose
        label="Used by the project"
        value={value}
        items={[
          { value: '', title: 'anybody, or nobody yet' },
          ...projects.map(({ id, name }) => ({ value: id, title: name })),
        ]}
        onChange={(usedBy) => {
          onChange({ usedBy: usedBy || undefined });
        }}
      />
    </label>
  );
}

/** From the search the arrows lead to the entries, and among them from one to the next. */
function moveByArrows(event: React.KeyboardEvent<HTMLElement>): void {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (step === undefined) return;
  const links = [...event.currentTarget.querySelectorAll<HTMLElement>('[data-entry-link]')];
  const field = event.currentTarget.querySelector<HTMLElement>('input');
  const at = links.findIndex((link) => link === document.activeElement);
  const isField = document.activeElement === field;
  if (at < 0 && !isField) return;
  event.preventDefault();
  const next = isField ? (step > 0 ? 0 : -1) : at + step;
  (next < 0 ? field : (links[next] ?? links.at(-1)))?.focus();
}

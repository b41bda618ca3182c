'use client';
import { Archive, Search } from 'lucide-react';
import { useEffect, useEffectEvent, useRef } from 'react';
import type { MaterialOrder } from '@/contract/materials';
import type { Project } from '@/contract/session';
import type { MaterialListing } from '@/state/material-list';
import { Choose } from '@/ui/Choose';
import { BringFile } from './BringFile';
import { ORDERS } from './material-list';

interface Props {
  readonly projects: readonly Project[];
  readonly listing: MaterialListing;
  readonly onChange: (listing: Partial<MaterialListing>) => void;
}

/** Search, order, and the archive. */
export function ListTools({ projects, listing, onChange }: Props) {
  const isArchive = listing.archived === 'yes';
  return (
    <div className="sticky top-0 z-10 mb-3 flex flex-wrap items-center gap-2 bg-ground py-1">
      <SearchField
        query={listing.query ?? ''}
        onChange={(query) => {
          onChange({ query });
        }}
      />
      <Choose
        label="Order"
        value={listing.order ?? 'lately'}
        items={Object.entries(ORDERS).map(([value, title]) => ({ value, title }))}
        onChange={(order) => {
          onChange({ order: order as MaterialOrder });
        }}
      />
      <span className="ml-auto" />
      <BringFile projects={projects} />
      <button
        type="button"
        aria-pressed={isArchive}
        className={
          'flex min-h-[24px] items-center gap-1.5 border px-2 ' +
          (isArchive ? 'border-weld' : 'border-line text-soft hover:text-ink')
        }
        onClick={() => {
          onChange({ archived: isArchive ? undefined : 'yes' });
        }}
      >
        <Archive size={13} aria-hidden />
        Archive
      </button>
    </div>
  );
}

interface SearchProps {
  readonly query: string;
  readonly onChange: (query: string) => void;
}

/** The words that are looked for; what was typed before the page ran counts, too. */
function SearchField({ query, onChange }: SearchProps) {
  const field = useRef<HTMLInputElement>(null);
  const takeTyped = useEffectEvent(() => {
    const typed = field.current?.value ?? '';
    if (typed !== query) onChange(typed);
  });
  useEffect(() => {
    takeTyped();
  }, []);
  return (
    <label className="flex w-[300px] items-center gap-1.5 border border-line bg-panel px-2">
      <Search size={14} className="shrink-0 text-soft" aria-hidden />
      <input
        ref={field}
        type="search"
        aria-label="Search materials"
        placeholder="Name, model, person, project"
        value={query}
        onChange={(event) => {
          onChange(event.target.value);
        }}
        className="min-w-0 flex-1 bg-transparent py-1 outline-none"
      />
    </label>
  );
}

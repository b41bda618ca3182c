'use client';
import { Archive, Search } from 'lucide-react';
import { useState } from 'react';
import type { MaterialSummary } from '@/contract/materials';
import type { ModelEntry } from '@/contract/models';
import type { Project } from '@/contract/session';
import type { StarterText } from '@/core/starters/define';
import { Choose } from '@/ui/Choose';
import { BringFile } from './BringFile';
import { MaterialCard } from './MaterialCard';
import { NewMaterial } from './NewMaterial';
import { ORDERS, listByProject } from './material-list';
import type { Listing, Order } from './material-list';

interface Props {
  readonly materials: readonly MaterialSummary[];
  readonly models: readonly ModelEntry[];
  readonly projects: readonly Project[];
  readonly starters: readonly StarterText[];
}

const GRID = 'grid grid-cols-[repeat(auto-fill,minmax(clamp(186px,13vw,300px),1fr))] gap-3';

/** The start: what one's projects are working on, and what a new material may begin from. */
export function MaterialsScreen({ materials, models, projects, starters }: Props) {
  const [listing, setListing] = useState<Listing>({
    search: '',
    order: 'lately',
    isArchive: false,
  });
  const shown = listByProject(materials, listing);
  const change = (next: Partial<Listing>): void => {
    setListing({ ...listing, ...next });
  };
  return (
    <main className="scaled flex-1 overflow-auto p-5">
      <h1 className="sr-only">Materials</h1>
      <NewMaterial
        starters={starters}
        projects={projects}
        models={models.filter(({ isArchived }) => !isArchived)}
        taken={materials.filter(({ isArchived }) => !isArchived)}
      />
      <ListTools {...{ materials, projects, listing }} onChange={change} />
      {shown.length === 0 ? <Nothing listing={listing} /> : null}
      {shown.map(({ id, name, materials: list }) => (
        <section key={id} className="mb-6" aria-label={name}>
          <h2 className="mb-2 flex items-baseline gap-2 text-[14px] font-semibold">
            {name} <span className="figures font-normal text-soft">{list.length}</span>
          </h2>
          <ul className={GRID}>
            {list.map((material) => (
              <MaterialCard
                key={material.id}
                material={material}
                projects={projects}
                taken={new Set(list.map((each) => each.name))}
              />
            ))}
          </ul>
        </section>
      ))}
    </main>
  );
}

function Nothing({ listing: { search, isArchive } }: { readonly listing: Listing }) {
  const words = search.trim()
    ? `No material is called or made on “${search.trim()}”.`
    : isArchive
      ? 'Nothing is archived.'
      : 'Your projects have no materials yet. Begin the first one from a picture above.';
  return <p className="py-8 text-center text-soft">{words}</p>;
}

interface ToolsProps {
  readonly projects: readonly Project[];
  readonly materials: readonly MaterialSummary[];
  readonly listing: Listing;
  readonly onChange: (listing: Partial<Listing>) => void;
}

/** Search, order, and the archive. */
function ListTools({ materials, projects, listing, onChange }: ToolsProps) {
  const archived = materials.filter(({ isArchived }) => isArchived).length;
  return (
    <div className="sticky top-0 z-10 mb-3 flex flex-wrap items-center gap-2 bg-ground py-1">
      <label className="flex w-[300px] items-center gap-1.5 border border-line bg-panel px-2">
        <Search size={14} className="shrink-0 text-soft" aria-hidden />
        <input
          type="search"
          aria-label="Search materials"
          placeholder="Name, model, person, project"
          value={listing.search}
          onChange={(event) => {
            onChange({ search: event.target.value });
          }}
          className="min-w-0 flex-1 bg-transparent py-1 outline-none"
        />
      </label>
      <Choose
        label="Order"
        value={listing.order}
        items={Object.entries(ORDERS).map(([value, title]) => ({ value, title }))}
        onChange={(order) => {
          onChange({ order: order as Order });
        }}
      />
      <span className="ml-auto" />
      <BringFile projects={projects} />
      <button
        type="button"
        aria-pressed={listing.isArchive}
        className={
          'flex min-h-[24px] items-center gap-1.5 border px-2 ' +
          (listing.isArchive ? 'border-weld' : 'border-line text-soft hover:text-ink')
        }
        onClick={() => {
          onChange({ isArchive: !listing.isArchive });
        }}
      >
        <Archive size={13} aria-hidden />
        Archive <span className="figures">{archived}</span>
      </button>
    </div>
  );
}

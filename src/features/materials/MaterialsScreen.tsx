'use client';
import { useState } from 'react';
import type { FoundMaterials, MaterialPlaces } from '@/contract/materials';
import type { ModelEntry } from '@/contract/models';
import type { StarterText } from '@/core/starters/define';
import { describeError } from '@/core/base/problem';
import { useMaterialList, usePlaces } from '@/state/material-list';
import type { MaterialList, MaterialListing } from '@/state/material-list';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';
import { ChosenBar } from './ChosenBar';
import { ListTools } from './ListTools';
import { MaterialCard } from './MaterialCard';
import { NewMaterial } from './NewMaterial';
import { PlaceRail } from './PlaceRail';
import type { Place } from './PlaceRail';
import { FIRST_MODEL } from './material-list';
import { usePastedMaterial } from './use-pasted-material';

interface Props {
  /** What the address asks for, and the first page of it. */
  readonly listing: MaterialListing;
  readonly first: FoundMaterials;
  readonly places: MaterialPlaces;
  readonly models: readonly ModelEntry[];
  readonly starters: readonly StarterText[];
}

const GRID = 'grid grid-cols-[repeat(auto-fill,minmax(clamp(186px,13vw,300px),1fr))] gap-3';

/** The place that is looked at stands in the address, so that it can be sent and come back to. */
function writeAddress({ project, set }: Place): void {
  const query = new URLSearchParams({
    ...(project === undefined ? {} : { project }),
    ...(set === undefined ? {} : { set }),
  }).toString();
  window.history.replaceState(null, '', query ? `?${query}` : window.location.pathname);
}

/** The start: what one's projects are working on, and what a new material may begin from. */
export function MaterialsScreen({ listing: given, first, places: sent, models, starters }: Props) {
  const [listing, setListing] = useState<MaterialListing>(given);
  const list = useMaterialList(listing, { listing: given, first });
  const places = usePlaces(listing.archived === 'yes', sent);
  const standing = models.filter(({ isArchived }) => !isArchived);
  usePastedMaterial(
    listing.project ?? sent.projects[0]?.id,
    (standing.find(({ id }) => id === FIRST_MODEL) ?? standing[0])?.id,
  );
  return (
    <main className="scaled flex-1 overflow-auto p-5">
      <h1 className="sr-only">Materials</h1>
      <NewMaterial starters={starters} projects={sent.projects} models={standing} />
      <div className="flex gap-4">
        <PlaceRail
          places={places}
          place={listing}
          onPlace={(place) => {
            writeAddress(place);
            setListing(({ project: _project, set: _set, ...rest }) => ({ ...rest, ...place }));
          }}
        />
        <section className="min-w-0 flex-1" aria-label={titleOf(listing, places)}>
          <ListTools
            projects={sent.projects}
            listing={listing}
            onChange={(change) => {
              setListing({ ...listing, ...change });
            }}
          />
          <Materials {...{ list, listing, places }} />
        </section>
      </div>
    </main>
  );
}

const titleOf = ({ project, set }: Place, { projects, sets }: MaterialPlaces): string =>
  sets.find(({ id }) => id === set)?.name ??
  projects.find(({ id }) => id === project)?.name ??
  'All projects';

interface MaterialsProps {
  readonly list: MaterialList;
  readonly listing: MaterialListing;
  readonly places: MaterialPlaces;
}

function Materials({ list, listing, places }: MaterialsProps) {
  const { materials, hasMore, isReading, error, readMore } = list;
  const [chosenIds, setChosen] = useState<ReadonlySet<string>>(new Set());
  const chosen = materials.filter(({ id }) => chosenIds.has(id));
  const choose = (id: string, isChosen: boolean): void => {
    const next = new Set(chosenIds);
    if (isChosen) next.add(id);
    else next.delete(id);
    setChosen(next);
  };
  return (
    <>
      {error ? <ProblemNote problem={describeError(error)} className="mb-3" /> : null}
      {chosen.length > 0 ? (
        <ChosenBar
          chosen={chosen}
          sets={places.sets}
          set={places.sets.find(({ id }) => id === listing.set)}
          onDone={() => {
            setChosen(new Set());
          }}
        />
      ) : null}
      {materials.length === 0 && !isReading ? <Nothing listing={listing} /> : null}
      <ul className={GRID}>
        {materials.map((material) => (
          <MaterialCard
            key={material.id}
            material={material}
            projects={places.projects}
            showsProject={listing.project === undefined && places.projects.length > 1}
            isChosen={chosenIds.has(material.id)}
            onChoose={(isChosen) => {
              choose(material.id, isChosen);
            }}
          />
        ))}
      </ul>
      {hasMore ? <More isReading={isReading} onMore={readMore} /> : null}
    </>
  );
}

/** Reads on by itself once the end of the list comes near. */
function More({ isReading, onMore }: { readonly isReading: boolean; readonly onMore: () => void }) {
  return (
    <p
      className="py-4 text-center"
      ref={(element) => {
        if (!element) return;
        const observer = new IntersectionObserver(
          ([entry]) => {
            if (entry?.isIntersecting) onMore();
          },
          { rootMargin: '400px' },
        );
        observer.observe(element);
        return () => {
          observer.disconnect();
        };
      }}
    >
      <Button disabled={isReading} onClick={onMore}>
        {isReading ? 'Reading …' : 'Show more'}
      </Button>
    </p>
  );
}

function Nothing({ listing: { query = '', archived, set } }: Pick<MaterialsProps, 'listing'>) {
  const words = query.trim()
    ? `No material is called or made on “${query.trim()}”.`
    : archived === 'yes'
      ? 'Nothing is archived.'
      : set !== undefined
        ? 'The set is empty. Choose materials of its project by their ticks, and put them here.'
        : 'There are no materials here yet. Begin the first one from a picture above.';
  return <p className="py-8 text-center text-soft">{words}</p>;
}

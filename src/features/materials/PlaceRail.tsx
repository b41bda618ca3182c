'use client';
import { LONGEST_SET_NAME } from '@/contract/sets';
import { FolderPlus } from 'lucide-react';
import { useState } from 'react';
import type { MaterialPlaces } from '@/contract/materials';
import { SetMenu } from './SetMenu';
import { NameField } from '@/ui/NameField';
import { SET_ACTS } from './set-acts';

/** A project, a set of it, or all there is. */
export interface Place {
  readonly project?: string;
  readonly set?: string;
}
interface Props {
  readonly places: MaterialPlaces;
  readonly place: Place;
  readonly onPlace: (place: Place) => void;
}

/** One's projects, and the sets of the one that is looked at. */
export function PlaceRail({ places, place, onPlace }: Props) {
  const { projects } = places;
  const total = projects.reduce((sum, { materials }) => sum + materials, 0);
  return (
    <nav
      aria-label="Projects and sets"
      className="sticky top-0 max-h-[calc(100vh-72px)] w-[196px] shrink-0 self-start overflow-auto"
    >
      <PlaceButton
        title="All projects"
        count={total}
        isHere={place.project === undefined}
        onClick={() => {
          onPlace({});
        }}
      />
      {projects.map((project) => (
        <div key={project.id}>
          <PlaceButton
            title={project.name}
            count={project.materials}
            isHere={place.project === project.id && place.set === undefined}
            onClick={() => {
              onPlace({ project: project.id });
            }}
          />
          {place.project === project.id ? (
            <Sets projectId={project.id} {...{ places, place, onPlace }} />
          ) : null}
        </div>
      ))}
    </nav>
  );
}

function Sets({ places, place, onPlace, projectId }: Props & { readonly projectId: string }) {
  const { create } = SET_ACTS;
  const [isNaming, setNaming] = useState(false);
  const sets = places.sets.filter((set) => set.projectId === projectId);
  return (
    <div className="mb-1 ml-2 border-l border-line pl-1">
      {sets.map((set) => (
        <div key={set.id} className="flex items-center">
          <PlaceButton
            title={set.name}
            count={set.materials}
            isHere={place.set === set.id}
            onClick={() => {
              onPlace({ project: projectId, set: set.id });
            }}
          />
          <SetMenu
            set={set}
            onGone={() => {
              if (place.set === set.id) onPlace({ project: projectId });
            }}
          />
        </div>
      ))}
      {isNaming ? (
        <NameField
          longest={LONGEST_SET_NAME}
          label="Name of the new set"
          act="Make"
          onName={(name) => {
            setNaming(false);
            if (name !== null) create(projectId, name);
          }}
        />
      ) : (
        <button
          type="button"
          className="flex min-h-[24px] items-center gap-1.5 px-2 text-soft hover:text-ink"
          onClick={() => {
            setNaming(true);
          }}
        >
          <FolderPlus size={13} aria-hidden /> New set …
        </button>
      )}
    </div>
  );
}

interface ButtonProps {
  readonly title: string;
  readonly count: number;
  readonly isHere: boolean;
  readonly onClick: () => void;
}

function PlaceButton({ title, count, isHere, onClick }: ButtonProps) {
  return (
    <button
      type="button"
      aria-current={isHere ? 'true' : undefined}
      title={title}
      onClick={onClick}
      className={
        'flex min-h-[26px] w-full min-w-0 items-baseline gap-2 border-l-2 px-2 text-left ' +
        (isHere
          ? 'border-weld bg-panel font-semibold'
          : 'border-transparent text-soft hover:bg-panel hover:text-ink')
      }
    >
      <span className="min-w-0 flex-1 truncate">{title}</span>
      <span className="figures font-normal text-soft">{count}</span>
    </button>
  );
}

'use client';
import { LONGEST_SET_NAME } from '@/contract/sets';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import { arrangeMaterial } from '@/contract/materials';
import type { MaterialSet, MaterialSummary } from '@/contract/materials';
import { call } from '@/state/api';
import { refreshMaterials } from '@/state/material-list';
import { Button } from '@/ui/Button';
import { Menu } from '@/ui/Menu';
import { tellProblem } from '@/ui/tell-problem';
import { SET_ACTS } from './set-acts';
import { NameField } from '@/ui/NameField';

interface Props {
  readonly chosen: readonly MaterialSummary[];
  readonly sets: readonly MaterialSet[];
  /** The set that is looked at. */
  readonly set: MaterialSet | undefined;
  readonly onDone: () => void;
}

/** What can be done with several materials at once. */
export function ChosenBar({ chosen, sets, set, onDone }: Props) {
  const [isNaming, setNaming] = useState(false);
  const projects = new Set(chosen.map(({ projectId }) => projectId));
  const [projectId = ''] = projects;
  const ids = chosen.map(({ id }) => id);
  return (
    <div
      role="group"
      aria-label="Chosen materials"
      className="mb-3 flex flex-wrap items-center gap-2 border border-weld bg-panel px-2 py-1"
    >
      <span className="figures">{chosen.length} chosen</span>
      {projects.size > 1 ? (
        <span className="text-soft">A set holds materials of one project.</span>
      ) : isNaming ? (
        <NameField
          longest={LONGEST_SET_NAME}
          label="Name of the new set"
          act="Make"
          onName={(name) => {
            setNaming(false);
            if (name === null) return;
            SET_ACTS.create(projectId, name, ids);
            onDone();
          }}
        />
      ) : (
        <PutMenu
          sets={sets.filter((each) => each.projectId === projectId && each.id !== set?.id)}
          onPut={(into) => {
            SET_ACTS.put(into, ids, onDone);
          }}
          onNew={() => {
            setNaming(true);
          }}
        />
      )}
      {set ? (
        <Button
          onClick={() => {
            SET_ACTS.takeOut(set, ids, onDone);
          }}
        >
          Take out of this set
        </Button>
      ) : null}
      <ArchiveButton chosen={chosen} onDone={onDone} />
      <Button onClick={onDone}>Choose none</Button>
    </div>
  );
}

interface PutProps {
  readonly sets: readonly MaterialSet[];
  readonly onPut: (set: MaterialSet) => void;
  readonly onNew: () => void;
}

function PutMenu({ sets, onPut, onNew }: PutProps) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button>Put into a set …</Button>
      </DropdownMenu.Trigger>
      <Menu
        sections={() => [
          sets.map((set) => ({
            title: set.name,
            act: () => {
              onPut(set);
            },
          })),
          [{ title: 'New set …', act: onNew }],
        ]}
      />
    </DropdownMenu.Root>
  );
}

/** Archives what is chosen, or restores it, one after the other; what is refused is told. */
function ArchiveButton({ chosen, onDone }: Pick<Props, 'chosen' | 'onDone'>) {
  const isArchive = chosen[0]?.isArchived === true;
  const arrange = async (): Promise<void> => {
    let done = 0;
    try {
      for (const { id } of chosen) {
        await call(arrangeMaterial, { params: { id }, body: { isArchived: !isArchive } });
        done++;
      }
      onDone();
    } finally {
      if (done > 0) toast(`${isArchive ? 'Restored' : 'Archived'} ${String(done)}`);
      await refreshMaterials();
    }
  };
  return (
    <Button
      onClick={() => {
        arrange().catch(tellProblem);
      }}
    >
      {isArchive ? 'Restore' : 'Archive'}
    </Button>
  );
}

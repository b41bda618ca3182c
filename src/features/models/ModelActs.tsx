'use client';
import { useRef, useState } from 'react';
import { DropdownMenu } from 'radix-ui';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { arrangeModel, duplicateModel, restoreModelFile } from '@/contract/models';
import { call } from '@/state/api';
import { Button } from '@/ui/Button';
import { Menu } from '@/ui/Menu';
import type { MenuItem } from '@/ui/Menu';
import { tellProblem } from '@/ui/tell-problem';
import type { ModelRow } from './model-row';
import { ReplaceSheet } from './ReplaceSheet';

export interface ProjectRow {
  readonly id: string;
  readonly name: string;
}
interface Props {
  readonly model: ModelRow;
  readonly projects: readonly ProjectRow[];
  /** What is shown of the model is read anew. */
  readonly onChanged: () => void;
}

/** What can be done with a model as a thing: its name, place, file, and the archive. */
export function ModelActs({ model, projects, onChanged }: Props) {
  const { id, name, mayMend } = model;
  const picker = useRef<HTMLInputElement>(null);
  const [newer, setNewer] = useState<File | null>(null);
  const act = useAct();
  return (
    <span className="flex flex-wrap items-center gap-2">
      {mayMend ? (
        <NameField
          key={`${id}${name}`}
          name={name}
          onName={(next) => {
            act(`Renamed to “${next}”`, () =>
              call(arrangeModel, { params: { id }, body: { name: next } }),
            );
          }}
        />
      ) : (
        <h2 className="text-[18px] font-semibold">{name}</h2>
      )}
      {model.isArchived ? <span className="text-madder">archived</span> : null}
      <span className="ml-auto flex gap-2">
        {mayMend ? (
          <Button onClick={() => picker.current?.click()}>Replace its file …</Button>
        ) : null}
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button>Model …</Button>
          </DropdownMenu.Trigger>
          <Menu sections={() => sectionsFor(model, projects, act, onChanged)} />
        </DropdownMenu.Root>
      </span>
      <input
        ref={picker}
        type="file"
        hidden
        accept=".glb,.obj"
        aria-label={`Newer file of ${name}`}
        onChange={(event) => {
          setNewer(event.target.files?.[0] ?? null);
          event.target.value = '';
        }}
      />
      {newer ? (
        <ReplaceSheet
          model={model}
          file={newer}
          onClose={(isReplaced) => {
            setNewer(null);
            if (isReplaced) onChanged();
          }}
        />
      ) : null}
    </span>
  );
}

type Act = (words: string, work: () => Promise<unknown>, then?: () => void) => void;

/** Does something on the server, says that it is done, and reads the list anew. */
function useAct(): Act {
  const router = useRouter();
  return (words, work, then) => {
    work().then(() => {
      toast(words);
      router.refresh();
      then?.();
    }, tellProblem);
  };
}

function sectionsFor(
  { id, name, projectId, mayMend, isArchived, hasFormer }: ModelRow,
  projects: readonly ProjectRow[],
  act: Act,
  onChanged: () => void,
): readonly (readonly MenuItem[])[] {
  const copies = projects.map((project): MenuItem => ({
    title: `Duplicate into ${project.name}`,
    act: () => {
      const body = { name: `${name} (copy)`.slice(0, 120), projectId: project.id };
      act(`Made “${body.name}”`, () => call(duplicateModel, { params: { id }, body }));
    },
  }));
  if (!mayMend) return [copies];
  const arrange = (
    words: string,
    body: { readonly projectId: string } | { readonly isArchived: boolean },
  ): void => {
    act(words, () => call(arrangeModel, { params: { id }, body }));
  };
  const moves = projects
    .filter((project) => project.id !== projectId && projectId !== null)
    .map((project): MenuItem => ({
      title: `Move to ${project.name}`,
      act: () => {
        arrange(`Moved “${name}” to ${project.name}`, { projectId: project.id });
      },
    }));
  const former: readonly MenuItem[] = hasFormer
    ? [
        {
          title: 'Put the former file back',
          help: 'The present one is kept as the former',
          act: () => {
            const back = () => call(restoreModelFile, { params: { id } });
            act('The former file is back', back, onChanged);
          },
        },
      ]
    : [];
  const archive: MenuItem = {
    title: isArchived ? 'Restore' : 'Archive',
    ...(isArchived ? {} : { help: 'Materials that use it go on; it leaves the lists' }),
    act: () => {
      arrange(isArchived ? `“${name}” is back` : `Archived “${name}”`, {
        isArchived: !isArchived,
      });
    },
  };
  return [copies, moves, former, [archive]];
}

interface NameProps {
  readonly name: string;
  readonly onName: (name: string) => void;
}

function NameField({ name, onName }: NameProps) {
  return (
    <h2 className="min-w-0 flex-1">
      <input
        aria-label="Name of the model"
        defaultValue={name}
        maxLength={120}
        className={
          'w-full max-w-[420px] border-b border-transparent bg-transparent text-[18px] ' +
          'font-semibold hover:border-seam'
        }
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
        }}
        onBlur={(event) => {
          const next = event.target.value.trim();
          if (next && next !== name) onName(next);
          else event.target.value = name;
        }}
      />
    </h2>
  );
}

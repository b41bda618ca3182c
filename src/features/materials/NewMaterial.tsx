'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useEffectEvent, useState } from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';
import type { Control } from 'react-hook-form';
import { createMaterial } from '@/contract/materials';
import type { ModelEntry } from '@/contract/models';
import type { Project } from '@/contract/session';
import { identifier, record, text } from '@/contract/forms';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import type { StarterText } from '@/core/starters/define';
import { call } from '@/state/api';
import { useNameTaken } from '@/state/material-list';
import { uploadModelFile } from '@/state/upload';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { ProblemNote } from '@/ui/ProblemNote';
import { contractResolver } from '@/ui/contract-form';
import { StarterRow } from './StarterRow';
import { FIRST_MODEL } from './material-list';
import { beginFrom, useStarters } from './starter-choices';
import type { StarterChoice } from './starter-choices';

interface Props {
  readonly projects: readonly Project[];
  readonly models: readonly ModelEntry[];
  readonly starters: readonly StarterText[];
}
const newMaterialForm = record({ name: text(200), model: identifier, project: identifier });

/** Creates a material from a starter or empty, on one of the models or on a GLB or OBJ file. */
export function NewMaterial({ projects, models, starters }: Props) {
  const { make, fromFile, busy, problem } = useMaking();
  const choices = useStarters(starters);
  const [starter, setStarter] = useState<StarterChoice | null>(null);
  const first = models.find((each) => each.id === FIRST_MODEL) ?? models[0];
  const { register, control, getValues, setValue, handleSubmit } = useForm({
    resolver: contractResolver(newMaterialForm),
    // The name has none of its own: what was typed before the page ran is taken.
    defaultValues: { model: first?.id ?? '', project: projects[0]?.id ?? '' },
  });
  const take = (file: File | undefined): void => {
    const { name, project } = getValues();
    if (file && busy === '') void fromFile(file, project, name, starter);
  };
  useDroppedFile(take);
  const submit = handleSubmit(({ name, model, project }) =>
    make(project, model, name.trim() || (starter?.title ?? 'New material'), starter),
  );
  const choose = (next: StarterChoice | null): void => {
    setStarter(next);
    if (next && models.some(({ id }) => id === next.model)) setValue('model', next.model);
  };
  return (
    <form className="mb-5 border border-line bg-panel p-3" onSubmit={(event) => void submit(event)}>
      <StarterRow starters={choices} models={models} chosen={starter} onChoose={choose} />
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <span className="font-semibold">
          New material {starter ? `from ${starter.title}` : 'from nothing'}
        </span>
        <input
          aria-label="Name of the new material"
          placeholder={starter?.title ?? 'Name'}
          className="w-[220px] border border-line bg-ground px-2 py-0.5"
          {...register('name')}
        />
        <span className="text-soft">on</span>
        <ChosenFrom control={control} name="model" label="Model" among={models} />
        <span className="text-soft">in</span>
        <ChosenFrom control={control} name="project" label="Project" among={projects} />
        <Button look="strong" type="submit" disabled={busy !== '' || projects.length === 0}>
          Create
        </Button>
        <FileChoice onTake={take} />
        <TakenNote control={control} />
      </div>
      {projects.length === 0 ? (
        <p className="w-full">You are in no project yet. Ask a librarian to add you to one.</p>
      ) : null}
      {busy ? (
        <p role="status" className="w-full">
          {busy}
        </p>
      ) : null}
      {problem ? <ProblemNote problem={problem} className="w-full" /> : null}
    </form>
  );
}

/** Says that the project has a material of this name; two may have one, but nobody wants it. */
function TakenNote({ control }: { readonly control: Control<NewMaterialFields> }) {
  const [name, project] = useWatch({
    control,
    name: ['name', 'project'],
    defaultValue: { name: '' },
  });
  const isTaken = useNameTaken(project, name);
  return isTaken ? (
    <span role="status" className="text-madder">
      This project has a material of that name already.
    </span>
  ) : null;
}

type NewMaterialFields = Readonly<Record<'name' | 'model' | 'project', string>>;
function ChosenFrom({
  control,
  name,
  label,
  among,
}: {
  readonly control: Control<NewMaterialFields>;
  readonly name: 'model' | 'project';
  readonly label: string;
  readonly among: readonly { readonly id: string; readonly name: string }[];
}) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field }) => (
        <Choose
          label={label}
          value={field.value}
          onChange={field.onChange}
          items={among.map((each) => ({ value: each.id, title: each.name }))}
        />
      )}
    />
  );
}

function FileChoice({ onTake }: { readonly onTake: (file: File | undefined) => void }) {
  return (
    <label className="ml-2 cursor-pointer text-soft underline">
      or drop a GLB or OBJ file onto the window
      <input
        type="file"
        accept=".glb,.obj"
        className="sr-only"
        onChange={(event) => {
          onTake(event.target.files?.[0]);
        }}
      />
    </label>
  );
}

/** Creating a material, and what is said meanwhile. */
function useMaking() {
  const router = useRouter();
  const [busy, setBusy] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const begin = async (words: string, work: () => Promise<void>): Promise<void> => {
    setBusy(words);
    setProblem(null);
    try {
      await work();
    } catch (error) {
      setProblem(describeError(error));
      setBusy('');
    }
  };
  const create = async (
    projectId: string,
    modelId: string,
    name: string,
    starter: StarterChoice | null,
  ): Promise<void> => {
    const { id } = await call(createMaterial, {
      body: {
        projectId,
        modelId,
        document: await beginFrom(starter, name),
      },
    });
    router.push(`/materials/${id}`);
  };
  const make = (
    projectId: string,
    modelId: string,
    name: string,
    starter: StarterChoice | null,
  ): Promise<void> => begin('Creating it …', () => create(projectId, modelId, name, starter));
  const fromFile = (
    file: File,
    projectId: string,
    name: string,
    starter: StarterChoice | null,
  ): Promise<void> =>
    begin(`Reading ${file.name} …`, async () => {
      const { id } = await uploadModelFile(file, projectId);
      const given = name.trim() || file.name.replace(/\.(glb|obj)$/i, '');
      await create(projectId, id, given, starter);
    });
  return { make, fromFile, busy, problem };
}

/** A file may be dropped anywhere in the window. */
function useDroppedFile(take: (file: File | undefined) => void): void {
  const dropped = useEffectEvent((event: DragEvent) => {
    event.preventDefault();
    take(event.dataTransfer?.files[0]);
  });
  useEffect(() => {
    const allow = (event: DragEvent): void => {
      event.preventDefault();
    };
    const drop = (event: DragEvent): void => {
      dropped(event);
    };
    window.addEventListener('dragover', allow);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', allow);
      window.removeEventListener('drop', drop);
    };
  }, []);
}

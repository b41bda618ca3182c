'use client';
import { useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import type { Control, UseFormReturn } from 'react-hook-form';
import { toast } from 'sonner';
import { publicationForm, publishGroup } from '@/contract/library';
import type { Job } from '@/contract/jobs';
import type { PublicationRequest } from '@/contract/library';
import { getSession } from '@/contract/session';
import { AppError } from '@/core/base/diagnostic';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { withGroup } from '@/core/edit/board';
import type { GroupDefinition } from '@/core/graph/document';
import { call } from '@/state/api';
import { commit } from '@/state/editing';
import type { Saver } from '@/state/saving';
import { useCall } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { FIELD, Field } from '@/ui/Field';
import { ProblemNote } from '@/ui/ProblemNote';
import { contractResolver } from '@/ui/contract-form';
import { BeforePublishing } from './BeforePublishing';
import { NextChoice, useNextRelease } from './NextChoice';
import type { NextRelease } from './NextChoice';
import { TagsInput } from './TagsInput';
import { RequiredReading, useReading } from './RequiredReading';
import { PublicationProgress } from './PublicationProgress';
import { stores } from '@/state/stores';

interface Props {
  readonly group: GroupDefinition;
  readonly saver: Saver | null;
  readonly onClose: () => void;
}

export function PublishForm({ group, saver, onClose }: Props) {
  const { racks, problem: sessionProblem } = useRacks();
  const next = useNextRelease(group);
  const { send, save, jobId, problem, isSending, begin } = usePublishing(group, saver);
  const chosen = racks[0]?.value ?? '';
  const form = usePublicationForm(group, chosen, next);
  const reading = useReading(group);
  const [isSeen, setSeen] = useState(false);
  const submit = form.handleSubmit((body) => send({ ...body, next: next.chosen }));
  const isReady = reading.isDone && (next.chosen === null || isSeen || next.users === 0);
  const done = (job: Job | undefined): void => {
    tellPublished(group.id, form.getValues(), job);
    onClose();
  };
  return (
    <form className="flex flex-col gap-3" noValidate onSubmit={(event) => void submit(event)}>
      <NextChoice next={next} />
      <WordFields form={form} racks={next.chosen ? null : racks} />
      <Contents group={group} />
      {next.chosen && next.users > 0 ? (
        <BeforePublishing
          entryId={next.chosen.entryId}
          groupId={group.id}
          save={save}
          onSeen={setSeen}
        />
      ) : null}
      <RequiredReading {...reading} />
      {(problem ?? sessionProblem) ? (
        <ProblemNote problem={problem ?? (sessionProblem as Problem)} testId="publish-failure" />
      ) : null}
      {jobId === null ? null : (
        <PublicationProgress key={jobId} id={jobId} onDone={done} onEnded={begin} />
      )}
      {isSending ? <p role="status">Saving the material …</p> : null}
      <div>
        <Button
          look="strong"
          type="submit"
          disabled={isSending || jobId !== null || chosen === '' || !isReady}
        >
          {next.chosen ? 'Publish the next release' : 'Publish'}
        </Button>
      </div>
    </form>
  );
}

interface WordProps {
  readonly form: UseFormReturn<PublicationRequest>;
  /** The racks there are; null for the next release of an entry, which stays where it is. */
  readonly racks: ReturnType<typeof useRacks>['racks'] | null;
}

/** What it is called and what it does; where it goes, or what is new. */
function WordFields({ form, racks }: WordProps) {
  const { register, control, formState } = form;
  const { errors } = formState;
  return (
    <>
      <Field label="Name" fault={errors.name?.message}>
        <input
          className={FIELD}
          {...register('name', { setValueAs: (text: string) => text.trim() })}
        />
      </Field>
      {racks ? <RackChoice control={control} racks={racks} /> : null}
      <Field label="Description" fault={errors.description?.message}>
        <textarea rows={3} className={FIELD} {...register('description')} />
      </Field>
      {racks === null ? (
        <Field label="What is new" fault={errors.notes?.message}>
          <textarea rows={4} className={FIELD} {...register('notes')} />
        </Field>
      ) : (
        <Field
          label="Tags, with commas between"
          fault={errors.tags && 'At most 20 tags of 40 characters each.'}
        >
          <Controller
            control={control}
            name="tags"
            render={({ field }) => <TagsInput onChange={field.onChange} />}
          />
        </Field>
      )}
    </>
  );
}

/** What came of it, in words; the group knows from now on which release it is. */
function tellPublished(
  groupId: string,
  { name, description }: PublicationRequest,
  job: Job | undefined,
): void {
  const { entryId, version, state, isNew, rack } = job?.result ?? {};
  if (typeof entryId !== 'string' || typeof version !== 'string') return;
  if (isNew === false) {
    toast(`Nothing is new: it is as it was released as ${version}.`);
    return;
  }
  if (state === 'proposed') {
    toast(`Proposed ${name} ${version}: a librarian looks at it before it goes out.`);
    return;
  }
  commit(`Published ${version}`, (document) =>
    withGroup(document, groupId, (each) => ({
      ...each,
      name,
      description,
      release: { entryId, version },
    })),
  );
  toast(`Published ${name} ${version} to ${rackWords(rack)}`);
}

const rackWords = (rack: unknown): string => {
  if (rack === 'studio') return 'the studio rack';
  return String(rack).startsWith('person:') ? 'your own rack' : 'the project rack';
};

/** What goes out with it: the dials in their order, and what it takes and gives. */
function Contents({ group: { dials, inputs, outputs } }: { readonly group: GroupDefinition }) {
  return (
    <section className="border-t border-line pt-2 text-[12px]" aria-label="What is published">
      <h3 className="text-soft">What is published</h3>
      <p>
        Takes {inputs.map(({ name }) => name).join(', ') || 'nothing'}; gives{' '}
        {outputs.map(({ name }) => name).join(', ') || 'nothing'}.
      </p>
      {dials.length === 0 ? (
        <p className="text-madder">It has no dials: nobody can set anything from outside.</p>
      ) : (
        <ol className="mt-1">
          {dials.map(({ id, name, help }) => (
            <li key={id} className="border-t border-line py-0.5">
              <strong>{name}</strong>{' '}
              {help ? (
                <span className="text-soft">{help}</span>
              ) : (
                <span className="text-madder">says nothing of what its ends do</span>
              )}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

/** The form as it begins: what is known only when it is sent stands in for itself. */
function usePublicationForm(group: GroupDefinition, rack: string, next: NextRelease) {
  return useForm<PublicationRequest>({
    resolver: contractResolver(publicationForm),
    values: {
      materialId: 'this',
      revision: 1,
      groupId: group.id,
      rack,
      name: group.name,
      description: group.description || (next.offered?.description ?? ''),
      tags: [],
      next: null,
      notes: next.notes,
    },
    resetOptions: { keepDirtyValues: true },
  });
}

function RackChoice({
  control,
  racks,
}: {
  readonly control: Control<PublicationRequest>;
  readonly racks: ReturnType<typeof useRacks>['racks'];
}) {
  if (racks.length === 0) return null;
  return (
    <div>
      <span className="block">Rack</span>
      <Controller
        control={control}
        name="rack"
        render={({ field }) => (
          <Choose label="Rack" value={field.value} onChange={field.onChange} items={racks} />
        )}
      />
    </div>
  );
}

/** The racks one may publish to, the one most likely meant first. */
function useRacks() {
  const { data, error } = useCall(getSession);
  const { publishes } = data ?? {};
  const studio = publishes?.studio ? [{ value: 'studio', title: 'Studio rack' }] : [];
  const projects = (publishes?.projects ? (data?.projects ?? []) : []).map(({ id, name }) => ({
    value: `project:${id}`,
    title: `Rack of ${name}`,
  }));
  const own = data ? [{ value: `person:${data.user.id}`, title: 'My own rack' }] : [];
  return {
    racks: [...studio, ...projects, ...own],
    problem: error ? describeError(error) : null,
  };
}

/** Saves the material, sends the request, and keeps which job does it. */
function usePublishing(group: GroupDefinition, saver: Saver | null) {
  const [jobId, setJobId] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [isSending, setSending] = useState(false);
  const save = async (): Promise<{ materialId: string; revision: number }> => {
    if (!(await saver?.flush())) throw unsaved();
    const { materialId, revision } = stores.document.getState();
    return { materialId, revision };
  };
  const send = async (given: PublicationRequest): Promise<void> => {
    setProblem(null);
    setSending(true);
    try {
      if (given.name === UNNAMED || given.description.trim() === '') throw undescribed(given.name);
      const body = { ...given, ...(await save()), groupId: group.id };
      const { id } = await call(publishGroup, { body });
      setJobId(id);
    } catch (error) {
      setProblem(describeError(error));
    } finally {
      setSending(false);
    }
  };
  const begin = (ended: Problem | null): void => {
    setProblem(ended);
    setJobId(null);
  };
  return { send, save, jobId, problem, isSending, begin };
}

/** The name that packaging gives. */
const UNNAMED = 'New group';
const undescribed = (name: string): AppError =>
  new AppError(
    'publish.undescribed',
    name === UNNAMED
      ? 'It still has the name that packaging gave it.'
      : 'It has no description: nobody could tell what it is for.',
    'Say in the form what it is called and what it does.',
    { kept: 'Nothing was published.' },
  );

const unsaved = (): AppError => {
  const why = stores.saving.getState().saveMessage || 'The material could not be saved first.';
  return new AppError('publish.unsaved', why, 'Publish again once it is saved.', {
    kept: 'Nothing was published.',
  });
};

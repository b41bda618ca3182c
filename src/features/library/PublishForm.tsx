'use client';
import { useState } from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';
import type { Control } from 'react-hook-form';
import { toast } from 'sonner';
import { publicationForm, publishGroup } from '@/contract/library';
import type { PublicationRequest } from '@/contract/library';
import { getSession } from '@/contract/session';
import { AppError } from '@/core/base/diagnostic';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import type { GroupDefinition } from '@/core/graph/document';
import { call } from '@/state/api';
import type { Saver } from '@/state/saving';
import { useCall } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { FIELD, Field } from '@/ui/Field';
import { ProblemNote } from '@/ui/ProblemNote';
import { contractResolver } from '@/ui/contract-form';
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
  const { send, jobId, asked, problem, isSending, begin } = usePublishing(group, saver);
  const chosen = racks[0]?.value ?? '';
  const { register, control, handleSubmit, formState } = usePublicationForm(group, chosen);
  const { errors } = formState;
  const reading = useReading(group);
  const submit = handleSubmit((body) => send(body));
  const done = (): void => {
    tellPublished(asked);
    onClose();
  };
  return (
    <form className="flex flex-col gap-3" noValidate onSubmit={(event) => void submit(event)}>
      <Field label="Name" fault={errors.name?.message}>
        <input
          className={FIELD}
          {...register('name', { setValueAs: (text: string) => text.trim() })}
        />
      </Field>
      <div className="flex items-start gap-3">
        <Field label="Version" fault={errors.version && 'Three numbers, such as 1.0.0.'}>
          <input className={FIELD} {...register('version')} />
        </Field>
        <RackChoice control={control} racks={racks} />
      </div>
      <Field label="Description" fault={errors.description?.message}>
        <textarea rows={3} className={FIELD} {...register('description')} />
      </Field>
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
      <Contents group={group} />
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
          disabled={isSending || jobId !== null || chosen === '' || !reading.isDone}
        >
          Publish <PublishedVersion control={control} />
        </Button>
      </div>
    </form>
  );
}

function tellPublished(asked: PublicationRequest | null): void {
  const rack = asked?.rack === 'studio' ? 'studio' : 'project';
  toast(`Published ${asked?.name ?? ''} ${asked?.version ?? ''} to the ${rack} rack`);
}

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
function usePublicationForm(group: GroupDefinition, rack: string) {
  return useForm<PublicationRequest>({
    resolver: contractResolver(publicationForm),
    values: {
      materialId: 'this',
      revision: 1,
      groupId: group.id,
      rack,
      version: '1.0.0',
      name: group.name,
      description: group.description,
      tags: [],
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

/** The version as it is typed. */
function PublishedVersion({ control }: { readonly control: Control<PublicationRequest> }) {
  return <span className="figures">{useWatch({ control, name: 'version' })}</span>;
}

/** Tags as text with commas between. */
function TagsInput({ onChange }: { readonly onChange: (tags: readonly string[]) => void }) {
  const [text, setText] = useState('');
  const change = (typed: string): void => {
    setText(typed);
    onChange(
      typed
        .split(',')
        .map((tag) => tag.trim())
        .filter(Boolean),
    );
  };
  return (
    <input
      className={FIELD}
      value={text}
      onChange={(event) => {
        change(event.target.value);
      }}
    />
  );
}

/** The racks one may publish to, the one most likely meant first. */
function useRacks() {
  const { data, error } = useCall(getSession);
  const isArtist = data?.user.role === 'artist';
  const studio = data && !isArtist ? [{ value: 'studio', title: 'Studio rack' }] : [];
  const projects =
    data?.projects.map(({ id, name }) => ({ value: `project:${id}`, title: `Rack of ${name}` })) ??
    [];
  return { racks: [...studio, ...projects], problem: error ? describeError(error) : null };
}

/** Saves the material, sends the request, and keeps which job does it. */
function usePublishing(group: GroupDefinition, saver: Saver | null) {
  const [jobId, setJobId] = useState<string | null>(null);
  const [asked, setAsked] = useState<PublicationRequest | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [isSending, setSending] = useState(false);
  const send = async (given: PublicationRequest): Promise<void> => {
    setProblem(null);
    setSending(true);
    try {
      if (given.name === UNNAMED || given.description.trim() === '') throw undescribed(given.name);
      if (!(await saver?.flush())) throw unsaved();
      const { materialId, revision } = stores.document.getState();
      const body = { ...given, materialId, revision, groupId: group.id };
      const { id } = await call(publishGroup, { body });
      setAsked(body);
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
  return { send, jobId, asked, problem, isSending, begin };
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

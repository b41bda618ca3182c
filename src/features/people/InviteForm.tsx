'use client';
import { useForm, useWatch } from 'react-hook-form';
import { invite, inviteForm } from '@/contract/people';
import type { InviteGiven, MadeLink } from '@/contract/people';
import { ROLES } from '@/contract/route';
import type { Project } from '@/contract/session';
import { describeError } from '@/core/base/problem';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { FIELD, Field } from '@/ui/Field';
import { ProblemNote } from '@/ui/ProblemNote';
import { contractResolver } from '@/ui/contract-form';
import { ROLE_ITEMS } from './PersonRow';
import { ProjectTicks } from './ProjectTicks';

interface Props {
  readonly projects: readonly Project[];
  readonly onLink: (made: MadeLink, about: string) => void;
}
const NOBODY: InviteGiven = { email: '', name: '', role: 'artist', projects: [] };

/** Invites somebody by a link. */
export function InviteForm({ projects, onLink }: Props) {
  const { mutate, isPending, error } = useChange(invite);
  const { register, handleSubmit, formState, control, setValue, reset } = useForm({
    resolver: contractResolver(inviteForm),
    defaultValues: NOBODY,
  });
  const { errors } = formState;
  const { role = 'artist', projects: chosen = [] } = useWatch({ control });
  const submit = handleSubmit((body) => {
    const told = (made: MadeLink): void => {
      onLink(made, `${body.name} is invited as ${body.role}.`);
      reset(NOBODY);
    };
    mutate({ body }, { onSuccess: told });
  });
  return (
    <form
      aria-label="Invite somebody"
      className="flex flex-col gap-2 text-[12px]"
      noValidate
      onSubmit={(event) => void submit(event)}
    >
      <h2 className="text-[14px] font-semibold">Invite somebody</h2>
      <span className="grid grid-cols-2 items-start gap-3">
        <Field label="Name" fault={errors.name?.message}>
          <input className={FIELD} {...register('name')} />
        </Field>
        <Field label="E-mail" fault={errors.email?.message}>
          <input type="email" className={FIELD} {...register('email')} />
        </Field>
      </span>
      <span className="flex items-center gap-2">
        Role
        <Choose
          label="Role of the invited"
          value={role}
          items={ROLE_ITEMS}
          onChange={(next) => {
            setValue('role', ROLES.find((each) => each === next) ?? 'artist');
          }}
        />
      </span>
      <fieldset>
        <legend>Projects</legend>
        <ProjectTicks
          projects={projects}
          chosen={chosen}
          onChange={(next) => {
            setValue('projects', next);
          }}
        />
      </fieldset>
      {error ? <ProblemNote problem={describeError(error)} /> : null}
      <Button look="strong" type="submit" disabled={isPending} className="self-start">
        Make a link
      </Button>
    </form>
  );
}

'use client';
import { Popover } from 'radix-ui';
import { changePerson, endSessions, resetPassword } from '@/contract/people';
import type { MadeLink, StaffChange, StaffMember } from '@/contract/people';
import { ROLES } from '@/contract/route';
import type { Project } from '@/contract/session';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { tellProblem } from '@/ui/tell-problem';
import { ProjectTicks } from './ProjectTicks';

interface Props {
  readonly person: StaffMember;
  readonly isOwn: boolean;
  readonly projects: readonly Project[];
  readonly onChanged: () => void;
  readonly onLink: (made: MadeLink, about: string) => void;
}
const QUIET = 'min-h-[24px] !py-0 text-[11.5px]';
export const ROLE_ITEMS = ROLES.map((role) => ({ value: role, title: role }));

/** One person: role, projects, sessions, and the account. */
export function PersonRow({ person, isOwn, projects, onChanged, onLink }: Props) {
  const { id, name, email, role, isActive } = person;
  const change = useChange(changePerson);
  const send = (body: StaffChange): void => {
    change.mutate({ params: { id }, body }, { onSuccess: onChanged, onError: tellProblem });
  };
  return (
    <tr
      className={`border-t border-line align-top ${isActive ? '' : 'text-soft'}`}
      data-person={email}
    >
      <td className="py-1.5 pr-2">
        {name}
        {isOwn ? <span className="text-soft"> (you)</span> : null}
        <span className="block text-[11px] text-soft">{email}</span>
      </td>
      <td className="py-1.5 pr-2">
        <Choose
          label={`Role of ${name}`}
          value={role}
          items={ROLE_ITEMS}
          onChange={(next) => {
            send({ role: ROLES.find((each) => each === next) ?? role });
          }}
        />
      </td>
      <td className="py-1.5 pr-2">
        <ProjectsOf
          person={person}
          projects={projects}
          onChange={(next) => {
            send({ projects: next });
          }}
        />
      </td>
      <td className="py-1.5 pr-2">
        <SessionsOf person={person} onChanged={onChanged} />
      </td>
      <td className="py-1.5">
        <span className="flex flex-wrap gap-1">
          <NewPassword person={person} onLink={onLink} />
          <Button
            className={QUIET}
            onClick={() => {
              send({ isActive: !isActive });
            }}
          >
            {isActive ? 'Close' : 'Open again'}
          </Button>
        </span>
      </td>
    </tr>
  );
}

/** Where somebody is signed in, and the end of that. */
function SessionsOf({
  person: { id, sessions, lastSeen },
  onChanged,
}: Pick<Props, 'person' | 'onChanged'>) {
  const { mutate } = useChange(endSessions);
  if (sessions === 0) return <>nowhere</>;
  return (
    <>
      <span className="figures">{sessions}</span>{' '}
      {lastSeen ? `since ${new Date(lastSeen).toLocaleDateString('en-GB')}` : ''}
      <Button
        look="quiet"
        className={QUIET}
        onClick={() => {
          mutate({ params: { id }, body: {} }, { onSuccess: onChanged, onError: tellProblem });
        }}
      >
        Sign out everywhere
      </Button>
    </>
  );
}

function NewPassword({ person: { id, name }, onLink }: Pick<Props, 'person' | 'onLink'>) {
  const { mutate } = useChange(resetPassword);
  return (
    <Button
      className={QUIET}
      onClick={() => {
        const told = (made: MadeLink): void => {
          onLink(made, `${name} sets a new password by it.`);
        };
        mutate({ params: { id }, body: {} }, { onSuccess: told, onError: tellProblem });
      }}
    >
      New password
    </Button>
  );
}

interface ProjectsProps {
  readonly person: StaffMember;
  readonly projects: readonly Project[];
  readonly onChange: (projects: readonly string[]) => void;
}

function ProjectsOf({ person: { name, projects: own }, projects, onChange }: ProjectsProps) {
  const names = projects.filter(({ id }) => own.includes(id)).map((each) => each.name);
  return (
    <Popover.Root>
      <Popover.Trigger
        className="min-h-[24px] text-left underline"
        aria-label={`Projects of ${name}`}
      >
        {names.join(', ') || 'none'}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          aria-label={`Projects of ${name}`}
          className="z-50 border border-seam bg-panel p-3 text-[12px] text-ink shadow-lg"
        >
          <ProjectTicks projects={projects} chosen={own} onChange={onChange} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

'use client';
import { useState } from 'react';
import { LONGEST_NAME, addProject, renameProject } from '@/contract/people';
import type { StaffMember } from '@/contract/people';
import type { Project } from '@/contract/session';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { FIELD } from '@/ui/Field';
import { NameField } from '@/ui/NameField';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly projects: readonly Project[];
  readonly people: readonly StaffMember[];
  readonly onChanged: () => void;
}

/** The projects of the studio and how many are in each; made and renamed here. */
export function ProjectList({ projects, people, onChanged }: Props) {
  return (
    <section className="mt-5 text-[12px]" aria-labelledby="projects-title" data-testid="projects">
      <h2 id="projects-title" className="font-semibold">
        Projects <span className="figures text-soft">{projects.length}</span>
      </h2>
      <ul className="mb-2">
        {projects.map((project) => (
          <ProjectRow
            key={project.id}
            project={project}
            members={people.filter((each) => each.projects.includes(project.id)).length}
            onChanged={onChanged}
          />
        ))}
      </ul>
      <NewProject onChanged={onChanged} />
    </section>
  );
}

interface RowProps extends Pick<Props, 'onChanged'> {
  readonly project: Project;
  readonly members: number;
}

function ProjectRow({ project: { id, name }, members, onChanged }: RowProps) {
  const [isNamed, setIsNamed] = useState(false);
  const { mutate } = useChange(renameProject);
  const rename = (next: string | null): void => {
    setIsNamed(false);
    if (next !== null && next !== name)
      mutate(
        { params: { id }, body: { name: next } },
        { onSuccess: onChanged, onError: tellProblem },
      );
  };
  return (
    <li className="flex items-center gap-2 border-t border-line py-1">
      {isNamed ? (
        <NameField
          label={`New name of ${name}`}
          act="Rename"
          name={name}
          longest={LONGEST_NAME}
          className="flex-1"
          onName={rename}
        />
      ) : (
        <span className="min-w-0 flex-1 truncate">{name}</span>
      )}
      <span className="text-soft">{members === 1 ? '1 person' : `${String(members)} people`}</span>
      {isNamed ? null : (
        <Button
          className="min-h-[24px] !py-0 text-[11.5px]"
          aria-label={`Rename ${name}`}
          onClick={() => {
            setIsNamed(true);
          }}
        >
          Rename
        </Button>
      )}
    </li>
  );
}

function NewProject({ onChanged }: Pick<Props, 'onChanged'>) {
  const [name, setName] = useState('');
  const { mutate } = useChange(addProject);
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim().length < 2) return;
        const made = (): void => {
          setName('');
          onChanged();
        };
        mutate({ body: { name: name.trim() } }, { onSuccess: made, onError: tellProblem });
      }}
    >
      <input
        aria-label="Name of a new project"
        placeholder="A new project"
        className={`max-w-[300px] ${FIELD}`}
        maxLength={LONGEST_NAME}
        value={name}
        onChange={(event) => {
          setName(event.target.value);
        }}
      />
      <Button type="submit" disabled={name.trim().length < 2}>
        Add
      </Button>
    </form>
  );
}

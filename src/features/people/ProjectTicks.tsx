'use client';
import type { Project } from '@/contract/session';
import { Tick } from '@/ui/Tick';

interface Props {
  readonly projects: readonly Project[];
  readonly chosen: readonly string[];
  readonly onChange: (chosen: readonly string[]) => void;
}

/** Which of all projects somebody belongs to. */
export function ProjectTicks({ projects, chosen, onChange }: Props) {
  if (projects.length === 0) return <p className="text-soft">There is no project yet.</p>;
  return (
    <ul className="flex flex-wrap gap-x-4 gap-y-2.5">
      {projects.map(({ id, name }) => (
        <li key={id}>
          <Tick
            title={name}
            isOn={chosen.includes(id)}
            onChange={(isOn) => {
              onChange(isOn ? [...chosen, id] : chosen.filter((each) => each !== id));
            }}
          />
        </li>
      ))}
    </ul>
  );
}

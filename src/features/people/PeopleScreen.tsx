'use client';
import { listDeeds, listPeople } from '@/contract/people';
import type { MadeLink } from '@/contract/people';
import { describeError } from '@/core/base/problem';
import { queryClient } from '@/state/query-client';
import { useCall } from '@/state/use-call';
import { ProblemNote } from '@/ui/ProblemNote';
import { useState } from 'react';
import { DeedList } from './DeedList';
import { InviteForm } from './InviteForm';
import { MadeLinkNote } from './MadeLinkNote';
import { OpenLinks } from './OpenLinks';
import { PersonRow } from './PersonRow';
import { ProjectList } from './ProjectList';
import { RulesForm } from './RulesForm';

/** Asks again for everything of this page. */
const askAgain = (): void => {
  for (const { path } of [listPeople, listDeeds])
    void queryClient().invalidateQueries({ queryKey: [path] });
};

/** Who is in the studio and what they may do; invitations, rules, and what was done. */
export function PeopleScreen({ own }: { readonly own: string }) {
  const { data, error } = useCall(listPeople);
  const [made, setMade] = useState<(MadeLink & { readonly about: string }) | null>(null);
  if (error && !data) return <ProblemNote problem={describeError(error)} />;
  if (!data) return <p role="status">Asking who is here …</p>;
  const { people, projects, invitations, rules } = data;
  const tell = (link: MadeLink, about: string): void => {
    setMade({ ...link, about });
    askAgain();
  };
  return (
    <div className="grid max-w-[1500px] grid-cols-[minmax(0,1.7fr)_minmax(300px,1fr)] gap-6">
      <section aria-labelledby="people-title">
        <h1 id="people-title" className="mb-2 text-[18px] font-semibold">
          People <span className="figures text-soft">{people.length}</span>
        </h1>
        {made ? (
          <MadeLinkNote
            {...made}
            onClose={() => {
              setMade(null);
            }}
          />
        ) : null}
        <table className="w-full text-left text-[12px]">
          <thead className="text-soft">
            <tr>
              <th className="py-1 pr-2 font-normal">Name</th>
              <th className="py-1 pr-2 font-normal">Role</th>
              <th className="py-1 pr-2 font-normal">Projects</th>
              <th className="py-1 pr-2 font-normal">Signed in</th>
              <th className="py-1 font-normal">Account</th>
            </tr>
          </thead>
          <tbody>
            {people.map((person) => (
              <PersonRow
                key={person.id}
                person={person}
                isOwn={person.id === own}
                projects={projects}
                onChanged={askAgain}
                onLink={tell}
              />
            ))}
          </tbody>
        </table>
        <ProjectList projects={projects} people={people} onChanged={askAgain} />
        <OpenLinks invitations={invitations} onChanged={askAgain} />
        <DeedList />
      </section>
      <aside className="flex flex-col gap-5">
        <InviteForm projects={projects} onLink={tell} />
        <RulesForm key={JSON.stringify(rules)} rules={rules} onChanged={askAgain} />
      </aside>
    </div>
  );
}

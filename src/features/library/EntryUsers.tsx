'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import type { EntryView } from '@/contract/library';
import { askConsequences, putReleaseBack, takeRelease } from '@/contract/shelf';
import type { TakenView } from '@/contract/shelf';
import { describeError } from '@/core/base/problem';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';
import { Swatch } from '@/ui/Swatch';
import { ConsequenceList } from './ConsequenceList';
import { LostList } from './LostList';

/** The materials that use an entry and which release each has; another is taken or put back. */
export function EntryUsers({ entry }: { readonly entry: EntryView }) {
  const { users, hiddenUsers, version } = entry;
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const { act, ask, taken, problem, isBusy } = useTaking(entry, chosen);
  if (users.length === 0)
    return (
      <p className="text-soft">
        {hiddenUsers > 0
          ? `${String(hiddenUsers)} materials of projects you are not in use it.`
          : 'No material uses it yet.'}
      </p>
    );
  const toggle = (id: string, isOn: boolean): void => {
    setChosen(isOn ? [...chosen, id] : chosen.filter((each) => each !== id));
  };
  return (
    <div data-testid="users">
      <UserRows users={users} newest={version} chosen={chosen} onToggle={toggle} />
      {hiddenUsers > 0 ? (
        <p className="text-[12px] text-soft">
          and {hiddenUsers} of projects you are not in, which decide for themselves
        </p>
      ) : null}
      <div className="my-2 flex flex-wrap gap-2">
        <Button
          disabled={users.every((each) => each.version === version)}
          onClick={() => {
            setChosen(
              users.filter((each) => each.version !== version).map(({ materialId }) => materialId),
            );
          }}
        >
          Choose all with another release
        </Button>
        {version === null ? null : (
          <>
            <Button disabled={ask.isPending} onClick={act.look}>
              What {version} does to them
            </Button>
            <Button look="strong" disabled={chosen.length === 0 || isBusy} onClick={act.take}>
              Take {version} in {chosen.length}
            </Button>
          </>
        )}
        <Button disabled={chosen.length === 0 || isBusy} onClick={act.putBack}>
          Put the release of before back
        </Button>
      </div>
      {problem ? <ProblemNote problem={describeError(problem)} /> : null}
      <TakenList taken={taken} />
      {ask.data ? <ConsequenceList id={ask.data.id} /> : null}
    </div>
  );
}

function useTaking({ id, version }: EntryView, chosen: readonly string[]) {
  const router = useRouter();
  const ask = useChange(askConsequences);
  const take = useChange(takeRelease);
  const back = useChange(putReleaseBack);
  const [taken, setTaken] = useState<readonly TakenView[]>([]);
  const told = ({ taken: all }: { readonly taken: readonly TakenView[] }): void => {
    setTaken(all);
    const done = all.filter(({ reason }) => reason === null).length;
    toast(`Changed ${String(done)} of ${String(all.length)} materials.`);
    router.refresh();
  };
  const params = { id };
  return {
    ask,
    taken,
    problem: ask.error ?? take.error ?? back.error,
    isBusy: take.isPending || back.isPending,
    act: {
      look: () => {
        ask.mutate({ params, body: { version, candidate: null } });
      },
      take: () => {
        if (version === null) return;
        take.mutate({ params, body: { version, materialIds: chosen } }, { onSuccess: told });
      },
      putBack: () => {
        back.mutate({ params, body: { materialIds: chosen } }, { onSuccess: told });
      },
    },
  };
}

interface RowsProps {
  readonly users: EntryView['users'];
  readonly newest: string | null;
  readonly chosen: readonly string[];
  readonly onToggle: (id: string, isOn: boolean) => void;
}

function UserRows({ users, newest, chosen, onToggle }: RowsProps) {
  return (
    <ul className="grid grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-x-4">
      {users.map(({ materialId, name, projectName, version, pinned, swatchHash }) => (
        <li
          key={`${materialId} ${version}`}
          className="flex items-center gap-2 border-b border-line py-1 text-[12px]"
          data-material={name}
        >
          <input
            type="checkbox"
            aria-label={`Choose ${name}`}
            className="min-h-[24px] min-w-[24px]"
            checked={chosen.includes(materialId)}
            onChange={(event) => {
              onToggle(materialId, event.target.checked);
            }}
          />
          {swatchHash === null ? (
            <span className="h-9 w-9 shrink-0 bg-stage" />
          ) : (
            <Swatch hash={swatchHash} label="" className="h-9 w-9 shrink-0" />
          )}
          <span className="min-w-0 flex-1">
            <Link className="block truncate hover:underline" href={`/materials/${materialId}`}>
              {name}
            </Link>
            <span className="text-soft">
              {projectName}
              {pinned === null ? '' : `; stays: ${pinned}`}
            </span>
          </span>
          <span className={`figures ${version === newest ? 'text-soft' : 'font-semibold'}`}>
            {version}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** What came of each material: what could not be kept, and why one was left as it was. */
function TakenList({ taken }: { readonly taken: readonly TakenView[] }) {
  return (
    <ul className="text-[12px]" data-testid="taken">
      {taken.map(({ materialId, name, reason, lost }) =>
        reason === null && lost.length === 0 ? null : (
          <li key={materialId}>
            {reason === null ? name : <span className="text-madder">▲ {reason}</span>}
            <LostList lost={lost} />
          </li>
        ),
      )}
    </ul>
  );
}

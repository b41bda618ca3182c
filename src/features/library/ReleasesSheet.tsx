'use client';
import { useState } from 'react';
import Link from 'next/link';
import { toast } from 'sonner';
import { askConsequences } from '@/contract/shelf';
import type { WaitingRelease } from '@/contract/shelf';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import type { LostSetting } from '@/core/releases/take-release';
import { pinHere, takeHere, takeSuccessorHere, useWaiting } from '@/state/releases';
import type { TakenHere } from '@/state/releases';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { FIELD } from '@/ui/Field';
import { ProblemNote } from '@/ui/ProblemNote';
import { Sheet } from '@/ui/Sheet';
import { ConsequenceList } from './ConsequenceList';
import { CLASS_WORDS } from './EntryReleases';
import { LostList } from './LostList';

interface Props {
  readonly open: boolean;
  readonly onClose: () => void;
}

/** The releases that wait for the open material: what each does, and taking it or staying. */
export function ReleasesSheet({ open, onClose }: Props) {
  const waiting = useWaiting();
  const [lost, setLost] = useState<readonly LostSetting[]>([]);
  return (
    <Sheet
      docks
      open={open}
      onClose={onClose}
      title="Releases"
      description="Groups of this material that have a newer release, or were withdrawn."
    >
      {waiting.length === 0 ? (
        <p className="text-soft">All groups are as they were released last.</p>
      ) : null}
      <ul>
        {waiting.map((each) => (
          <Waiting key={`${each.entryId} ${each.version}`} release={each} onLost={setLost} />
        ))}
      </ul>
      <LostList lost={lost} />
    </Sheet>
  );
}

interface WaitingProps {
  readonly release: WaitingRelease;
  readonly onLost: (lost: readonly LostSetting[]) => void;
}

function Waiting({ release, onLost }: WaitingProps) {
  const { entryId, entryName, version, newest, releaseClass, pinned } = release;
  const ask = useChange(askConsequences);
  const { take, takeInstead, problem } = useTaking(release, onLost);
  const isNewer = releaseClass !== null && newest !== null;
  return (
    <li className="border-b border-line py-2 text-[12px]" data-release={entryName}>
      <h3 className="text-[14px] font-semibold">
        <Link className="hover:underline" href={`/library/${entryId}`}>
          {entryName}
        </Link>{' '}
        <span className="figures font-normal">
          {version}
          {isNewer ? ` → ${newest}` : ''}
        </span>
      </h3>
      {isNewer ? <p>{CLASS_WORDS[releaseClass]}</p> : null}
      <Warnings release={release} onTakeInstead={(id) => void takeInstead(id)} />
      {pinned === null ? null : (
        <p>
          It stays at {version}: {pinned}
        </p>
      )}
      {isNewer ? (
        <div className="my-1 flex flex-wrap gap-2">
          <Button look="strong" disabled={pinned !== null} onClick={() => void take()}>
            Take {newest}
          </Button>
          <Button
            disabled={ask.isPending}
            onClick={() => {
              ask.mutate({ params: { id: entryId }, body: { version: newest, candidate: null } });
            }}
          >
            What it does
          </Button>
          <PinForm release={release} />
        </div>
      ) : null}
      {problem ? <ProblemNote problem={problem} /> : null}
      {ask.error ? <ProblemNote problem={describeError(ask.error)} /> : null}
      {ask.data ? <ConsequenceList id={ask.data.id} /> : null}
    </li>
  );
}

/** Takes the newest release in the open material, or a successor; and says what came of it. */
function useTaking(
  release: WaitingRelease,
  onLost: WaitingProps['onLost'],
): {
  readonly take: () => Promise<void>;
  readonly takeInstead: (successorId: string) => Promise<void>;
  readonly problem: Problem | null;
} {
  const { entryId, entryName, version, newest } = release;
  const [problem, setProblem] = useState<Problem | null>(null);
  const run = async (work: () => Promise<TakenHere & { readonly what: string }>): Promise<void> => {
    setProblem(null);
    try {
      const { lost, changed, what } = await work();
      onLost(lost);
      toast(
        changed.length > 0
          ? `Took ${what}. What was changed inside by hand is gone; Ctrl+Z brings it back.`
          : `Took ${what}. Ctrl+Z puts ${entryName} ${version} back.`,
      );
    } catch (error) {
      setProblem(describeError(error));
    }
  };
  return {
    take: async () => {
      if (newest === null) return;
      await run(async () => ({
        ...(await takeHere(entryId, entryName, newest)),
        what: `${entryName} ${newest}`,
      }));
    },
    takeInstead: (successorId) =>
      run(async () => {
        const taken = await takeSuccessorHere(release, successorId);
        return { ...taken, what: taken.name };
      }),
    problem,
  };
}

function Warnings({
  release: { withdrawnReason, deprecatedReason, successorId },
  onTakeInstead,
}: Pick<WaitingProps, 'release'> & { readonly onTakeInstead: (successorId: string) => void }) {
  return (
    <>
      {withdrawnReason === null ? null : (
        <p className="text-madder">▲ Withdrawn: {withdrawnReason}</p>
      )}
      {deprecatedReason === null ? null : (
        <p className="text-madder">
          ▲ Deprecated: {deprecatedReason}{' '}
          {successorId === null ? null : (
            <>
              <Link className="underline" href={`/library/${successorId}`}>
                What to use instead
              </Link>{' '}
              <Button
                onClick={() => {
                  onTakeInstead(successorId);
                }}
              >
                Take that in its place
              </Button>
            </>
          )}
        </p>
      )}
    </>
  );
}

/** Keeps the release in use, with a reason; or takes that back. */
function PinForm({ release: { entryId, entryName, pinned } }: Pick<WaitingProps, 'release'>) {
  const [reason, setReason] = useState('');
  if (pinned !== null)
    return (
      <Button
        onClick={() => {
          pinHere(entryId, entryName, '');
        }}
      >
        Let it go on
      </Button>
    );
  return (
    <form
      className="flex gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (reason.trim()) pinHere(entryId, entryName, reason);
      }}
    >
      <input
        aria-label="Why it stays"
        placeholder="Stay, because …"
        className={FIELD}
        value={reason}
        onChange={(event) => {
          setReason(event.target.value);
        }}
      />
      <Button type="submit" disabled={!reason.trim()}>
        Stay
      </Button>
    </form>
  );
}

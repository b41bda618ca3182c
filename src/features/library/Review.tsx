'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import { askConsequences, decideRelease } from '@/contract/shelf';
import type { ReleaseSummary } from '@/contract/library';
import { describeError } from '@/core/base/problem';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { FIELD, Field } from '@/ui/Field';
import { ProblemNote } from '@/ui/ProblemNote';
import { ConsequenceList } from './ConsequenceList';

interface Props {
  readonly entryId: string;
  readonly release: ReleaseSummary;
}
interface Draft {
  readonly place: string;
  readonly text: string;
}

/** A librarian looks at what a proposed release does, remarks on it, and decides. */
export function Review({ entryId, release: { version } }: Props) {
  const router = useRouter();
  const ask = useChange(askConsequences);
  const decide = useChange(decideRelease);
  const [remarks, setRemarks] = useState<readonly Draft[]>([]);
  const end = (isAccepted: boolean): void => {
    decide.mutate(
      { params: { id: entryId }, body: { version, isAccepted, remarks } },
      {
        onSuccess: () => {
          toast(isAccepted ? `${version} is on the rack.` : `${version} goes back to its author.`);
          router.refresh();
        },
      },
    );
  };
  const problem = ask.error ?? decide.error;
  const isSeen = ask.data !== undefined;
  return (
    <section className="mt-1 border-t border-line pt-1" aria-label={`Review of ${version}`}>
      {ask.data ? (
        <ConsequenceList id={ask.data.id} />
      ) : (
        <Button
          disabled={ask.isPending}
          onClick={() => {
            ask.mutate({ params: { id: entryId }, body: { version, candidate: null } });
          }}
        >
          Look at the consequences
        </Button>
      )}
      <RemarkFields
        onAdd={(remark) => {
          setRemarks((now) => [...now, remark]);
        }}
      />
      {remarks.map(({ place, text }) => (
        <p key={`${place} ${text}`} className="border-l-2 border-weld pl-2">
          <strong>{place}</strong> {text}
        </p>
      ))}
      {problem ? <ProblemNote problem={describeError(problem)} /> : null}
      <Decision
        {...{ version, isSeen }}
        hasRemarks={remarks.length > 0}
        isBusy={decide.isPending}
        onEnd={end}
      />
    </section>
  );
}

interface DecisionProps {
  readonly version: string;
  readonly isSeen: boolean;
  readonly hasRemarks: boolean;
  readonly isBusy: boolean;
  readonly onEnd: (isAccepted: boolean) => void;
}

/** Accepted once the consequences were seen; sent back once something was said. */
function Decision({ version, isSeen, hasRemarks, isBusy, onEnd }: DecisionProps) {
  return (
    <div className="mt-1 flex gap-2">
      <Button
        look="strong"
        disabled={!isSeen || isBusy}
        title={isSeen ? '' : 'Look at the consequences first'}
        onClick={() => {
          onEnd(true);
        }}
      >
        Accept {version}
      </Button>
      <Button
        disabled={!hasRemarks || isBusy}
        title={hasRemarks ? '' : 'Say first what is to be changed'}
        onClick={() => {
          onEnd(false);
        }}
      >
        Send it back
      </Button>
    </div>
  );
}

function RemarkFields({ onAdd }: { readonly onAdd: (remark: Draft) => void }) {
  const [place, setPlace] = useState('');
  const [text, setText] = useState('');
  const isWhole = place.trim() !== '' && text.trim().length > 1;
  return (
    <div className="mt-1 flex items-end gap-2">
      <Field label="Where" fault={undefined} className="w-[130px]">
        <input
          className={FIELD}
          value={place}
          placeholder="dial, node, picture"
          onChange={(event) => {
            setPlace(event.target.value);
          }}
        />
      </Field>
      <Field label="Remark" fault={undefined} className="flex-1">
        <input
          className={FIELD}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
          }}
        />
      </Field>
      <Button
        disabled={!isWhole}
        onClick={() => {
          onAdd({ place: place.trim(), text: text.trim() });
          setText('');
        }}
      >
        Add the remark
      </Button>
    </div>
  );
}

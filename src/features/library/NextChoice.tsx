'use client';
import { useEffect, useState } from 'react';
import { openEntry } from '@/contract/library';
import { changesSince, proposeNotes } from '@/core/releases/change-notes';
import type { GroupDefinition } from '@/core/graph/document';
import { readRelease } from '@/state/placing';
import { stores } from '@/state/stores';
import { useCall } from '@/state/use-call';

/** Which entry a group may be the next release of, and whether it is to be. */
export interface NextRelease {
  readonly chosen: { readonly entryId: string; readonly base: string } | null;
  /** The entry, its newest release, and the one the group was placed from. */
  readonly offered: {
    readonly entryId: string;
    readonly name: string;
    readonly description: string;
    readonly base: string;
    readonly own: string;
  } | null;
  readonly choose: (isNext: boolean) => void;
  /** How many materials use the entry. */
  readonly users: number;
  /** What is new since the newest release, as it is proposed. */
  readonly notes: string;
}

/** A group that came from the library, or is in it, may become the next release of its entry. */
export function useNextRelease(group: GroupDefinition): NextRelease {
  const entryId = group.release?.entryId ?? '';
  const { data } = useCall(openEntry, { params: { id: entryId } }, { enabled: entryId !== '' });
  const [isNext, setNext] = useState(true);
  const base = data?.version ?? null;
  const offered =
    data && base !== null
      ? {
          entryId,
          name: data.name,
          description: data.description,
          base,
          own: group.release?.version ?? base,
        }
      : null;
  return {
    chosen: offered && isNext ? { entryId, base: offered.base } : null,
    offered,
    choose: setNext,
    users: (data?.users.length ?? 0) + (data?.hiddenUsers ?? 0),
    notes: useProposedNotes(group.id, entryId, base),
  };
}

function useProposedNotes(groupId: string, entryId: string, base: string | null): string {
  const [notes, setNotes] = useState('');
  useEffect(() => {
    if (base === null) return;
    let isWanted = true;
    readRelease(entryId, base).then(
      (release) => {
        const { document } = stores.document.getState();
        if (isWanted) setNotes(proposeNotes(changesSince(document, groupId, release)));
      },
      () => undefined,
    );
    return () => {
      isWanted = false;
    };
  }, [groupId, entryId, base]);
  return notes;
}

/** Asks whether it becomes the next release of its entry, or an entry of its own. */
export function NextChoice({ next: { offered, chosen, choose } }: { readonly next: NextRelease }) {
  if (!offered) return null;
  const { name, base, own } = offered;
  return (
    <fieldset className="text-[12px]" data-testid="next-choice">
      <legend className="text-soft">What it becomes</legend>
      <label className="flex min-h-[24px] items-center gap-2">
        <input
          type="radio"
          name="becomes"
          checked={chosen !== null}
          onChange={() => {
            choose(true);
          }}
        />
        The next release of “{name}” after <span className="figures">{base}</span>
      </label>
      <label className="flex min-h-[24px] items-center gap-2">
        <input
          type="radio"
          name="becomes"
          checked={chosen === null}
          onChange={() => {
            choose(false);
          }}
        />
        An entry of its own
      </label>
      {chosen && own !== base ? (
        <p className="text-madder">
          ▲ Yours began from <span className="figures">{own}</span>; what came out since is not in
          it unless you took it.
        </p>
      ) : null}
      {chosen ? (
        <p className="text-soft">
          It is compared with {base} at home and at values of every dial that a card may have kept;
          its class and its version follow from that.
        </p>
      ) : null}
    </fieldset>
  );
}

'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import { searchLibrary } from '@/contract/library';
import type { EntryView } from '@/contract/library';
import { copyEntry } from '@/contract/shelf';
import type { EntryArrangement } from '@/contract/shelf';
import { describeError } from '@/core/base/problem';
import { useLibrarySearch } from '@/state/library-search';
import { useCall, useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { FIELD, Field } from '@/ui/Field';
import { ProblemNote } from '@/ui/ProblemNote';

export interface PartProps {
  readonly entry: EntryView;
  readonly send: (body: EntryArrangement, told: string) => void;
}

/** Moves an entry to another rack, or copies it there. */
export function Racks({ entry, send }: PartProps) {
  const router = useRouter();
  const { data } = useCall(searchLibrary, { query: {} });
  const copy = useChange(copyEntry);
  const [rack, setRack] = useState(entry.rack);
  const racks = data?.racks ?? [];
  const isElsewhere = rack !== entry.rack;
  return (
    <section aria-label="Rack">
      <h3 className="text-soft">Rack</h3>
      <div className="flex items-center gap-2">
        <Choose
          label="Rack"
          value={rack}
          items={racks.map(({ id, name }) => ({ value: id, title: name }))}
          onChange={setRack}
        />
        <Button
          disabled={!isElsewhere}
          onClick={() => {
            send({ rack }, `Moved ${entry.name}.`);
          }}
        >
          Move it there
        </Button>
        <Button
          disabled={!isElsewhere || copy.isPending}
          onClick={() => {
            copy.mutate(
              { params: { id: entry.id }, body: { rack, name: entry.name } },
              {
                onSuccess: ({ id }) => {
                  toast(`Copied ${entry.name}.`);
                  router.push(`/library/${id}`);
                },
              },
            );
          }}
        >
          Copy it there
        </Button>
      </div>
      {copy.error ? <ProblemNote problem={describeError(copy.error)} /> : null}
    </section>
  );
}

/** Deprecating with a successor, withdrawing with a reason, and taking both back. */
export function GivingUp({ entry, send }: PartProps) {
  const [reason, setReason] = useState('');
  const [successor, setSuccessor] = useState('');
  const [query, setQuery] = useState('');
  const { data } = useLibrarySearch({ query, ...(query ? {} : { sort: 'name' }) });
  const others = (data?.entries ?? []).filter(({ id }) => id !== entry.id);
  const isSaid = reason.trim().length > 2;
  return (
    <section aria-label="Giving it up">
      <h3 className="text-soft">Giving it up</h3>
      <Field label="Why" fault={undefined}>
        <input
          className={FIELD}
          value={reason}
          placeholder="Those who use it will read this"
          onChange={(event) => {
            setReason(event.target.value);
          }}
        />
      </Field>
      <SuccessorSearch
        query={query}
        onChange={(next) => {
          setQuery(next);
          setSuccessor('');
        }}
      />
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <Choose
          label="What to use instead"
          value={successor}
          items={[
            { value: '', title: 'nothing in its place' },
            ...others.map(({ id, name }) => ({ value: id, title: name })),
          ]}
          onChange={setSuccessor}
        />
        <Button
          disabled={!isSaid}
          onClick={() => {
            const deprecated = { reason: reason.trim(), successorId: successor || null };
            send({ deprecated }, `${entry.name} is deprecated.`);
          }}
        >
          Deprecate
        </Button>
        <Button
          disabled={!isSaid}
          onClick={() => {
            send({ withdrawn: reason.trim() }, `${entry.name} is off its rack.`);
          }}
        >
          Take it off the rack
        </Button>
        <TakingBack entry={entry} send={send} />
      </div>
    </section>
  );
}

interface SearchProps {
  readonly query: string;
  readonly onChange: (query: string) => void;
}

function SuccessorSearch({ query, onChange }: SearchProps) {
  return (
    <Field label="What to use instead, by its name or what it does" fault={undefined}>
      <input
        className={FIELD}
        value={query}
        onChange={(event) => {
          onChange(event.target.value);
        }}
      />
    </Field>
  );
}

/** Takes back that an entry was deprecated or withdrawn. */
function TakingBack({ entry, send }: PartProps) {
  return (
    <>
      {entry.deprecatedReason === null ? null : (
        <Button
          onClick={() => {
            send({ deprecated: null }, `${entry.name} is not deprecated any more.`);
          }}
        >
          Not deprecated any more
        </Button>
      )}
      {entry.withdrawnReason === null ? null : (
        <Button
          onClick={() => {
            send({ withdrawn: null }, `${entry.name} is back on its rack.`);
          }}
        >
          Put it back
        </Button>
      )}
    </>
  );
}

'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import { LARGEST_QUOTA, limitProject, readStorage } from '@/contract/storage';
import { call } from '@/state/api';
import { queryClient } from '@/state/query-client';
import { Button } from '@/ui/Button';
import { tellProblem } from '@/ui/tell-problem';

const MB = 1e6;

interface Props {
  readonly id: string;
  readonly quotaBytes: number | null;
}

/** How much a project may hold, in megabytes; an empty field takes the limit away. */
export function LimitForm({ id, quotaBytes }: Props) {
  const [typed, setTyped] = useState(quotaBytes === null ? '' : String(quotaBytes / MB));
  const limit = typed.trim() === '' ? null : Math.round(Number(typed) * MB);
  const isFit = limit === null || (limit >= 0 && limit <= LARGEST_QUOTA);
  return (
    <form
      className="mb-3 flex flex-wrap items-center gap-2 text-[12px]"
      onSubmit={(event) => {
        event.preventDefault();
        call(limitProject, { params: { id }, body: { quotaBytes: limit } }).then(() => {
          toast(limit === null ? 'The project has no limit now.' : 'The limit is set.');
          void queryClient().invalidateQueries({ queryKey: [readStorage.path] });
        }, tellProblem);
      }}
    >
      <label className="flex items-center gap-2">
        It may hold
        <input
          inputMode="decimal"
          value={typed}
          placeholder="any"
          aria-invalid={!isFit}
          className="figures w-[90px] border border-line bg-ground px-2 py-0.5 text-right"
          onChange={(event) => {
            setTyped(event.target.value);
          }}
        />
        MB
      </label>
      <Button type="submit" disabled={!isFit || limit === quotaBytes}>
        Set the limit
      </Button>
      <span className="text-soft">
        {isFit
          ? 'Of models and images that are brought in; saving is never refused.'
          : 'A number of megabytes, or nothing.'}
      </span>
    </form>
  );
}

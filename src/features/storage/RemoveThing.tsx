'use client';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { readHoldings, readStorage, removeHolding } from '@/contract/storage';
import type { Holding } from '@/contract/storage';
import { queryClient } from '@/state/query-client';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly projectId: string;
  readonly thing: Pick<Holding, 'kind' | 'id' | 'name'>;
}
const SMALL = 'min-h-[24px] !py-0 text-[11.5px]';

/** Removes a thing for ever, asked once more; where something uses it, that is told. */
export function RemoveThing({ projectId, thing: { kind, id, name } }: Props) {
  const [isAsked, setIsAsked] = useState(false);
  const { mutate, isPending } = useChange(removeHolding);
  const remove = (): void => {
    const removed = (): void => {
      toast(`“${name}” is removed.`);
      for (const { path } of [readStorage, readHoldings])
        void queryClient().invalidateQueries({ queryKey: [path] });
    };
    mutate(
      { params: { id: projectId }, body: { kind, id } },
      {
        onSuccess: removed,
        onError: (error) => {
          setIsAsked(false);
          tellProblem(error);
        },
      },
    );
  };
  if (!isAsked)
    return (
      <IconButton
        name={`Remove ${name}`}
        onClick={() => {
          setIsAsked(true);
        }}
      >
        <Trash2 size={13} aria-hidden />
      </IconButton>
    );
  return (
    // Over the row, so that asking moves nothing of the table.
    <span
      role="group"
      aria-label={`Remove ${name} for ever`}
      className={
        'absolute inset-y-0 right-0 z-10 flex items-center gap-1 bg-panel pl-2 ' +
        'whitespace-nowrap'
      }
    >
      <Button autoFocus className={SMALL} disabled={isPending} onClick={remove}>
        Remove for ever
      </Button>
      <Button
        className={SMALL}
        onClick={() => {
          setIsAsked(false);
        }}
      >
        Keep
      </Button>
    </span>
  );
}

'use client';
import { useState } from 'react';
import { listDeeds } from '@/contract/people';
import { useCall } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { shortMoment } from '@/ui/moments';

/** What was done to people and rules, the newest first. */
export function DeedList() {
  const [before, setBefore] = useState<number | null>(null);
  const query = before === null ? {} : { before: String(before) };
  const { data } = useCall(listDeeds, { query }, { keepsPrevious: true });
  const deeds = data?.deeds ?? [];
  const last = deeds.at(-1)?.id;
  if (deeds.length === 0 && before === null) return null;
  return (
    <section className="mt-5 text-[12px]" aria-labelledby="deeds-title" data-testid="deeds">
      <h2 id="deeds-title" className="font-semibold">
        What was done
      </h2>
      <ul>
        {deeds.map(({ id, at, actor, what, about }) => (
          <li key={id} className="flex gap-2 border-t border-line py-1">
            <time className="figures shrink-0 text-soft" dateTime={at}>
              {shortMoment(at)}
            </time>
            <span>
              {actor} {what}: {about}
            </span>
          </li>
        ))}
      </ul>
      {before === null ? null : (
        <Button
          onClick={() => {
            setBefore(null);
          }}
        >
          Newest
        </Button>
      )}
      {data?.hasMore && last !== undefined ? (
        <Button
          onClick={() => {
            setBefore(last);
          }}
        >
          Earlier
        </Button>
      ) : null}
    </section>
  );
}

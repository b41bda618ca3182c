import Link from 'next/link';
import type { ReactNode } from 'react';
import { Swatch } from '@/ui/Swatch';
import type { EntrySummary, LibraryAnswer } from '@/contract/library';

/** Entries as swatches with their names. */
export function EntryGrid({
  answer,
  action,
}: {
  readonly answer: LibraryAnswer;
  readonly action?: (entry: EntrySummary) => ReactNode;
}) {
  if (answer.entries.length === 0)
    return (
      <p className="text-soft">No group matches. Try fewer letters, or another word for it.</p>
    );
  return (
    <ul className="grid grid-cols-[repeat(auto-fill,minmax(186px,1fr))] gap-4">
      {answer.entries.map((entry) => (
        <li
          key={entry.id}
          className="rounded-[3px] border border-line bg-panel p-2"
          data-testid={`entry-${entry.name}`}
        >
          <Swatch hash={entry.swatchHash} label={entry.name} />
          <Link
            href={`/library/${entry.id}`}
            className="mt-1 block truncate text-[14px] font-semibold hover:underline"
          >
            {entry.name}
          </Link>
          <div className="flex justify-between text-[11.5px] text-soft">
            <span>{answer.racks.find((rack) => rack.id === entry.rack)?.name} rack</span>
            <span className="figures">{entry.version}</span>
          </div>
          <p className="line-clamp-2 min-h-[32px] text-[12px] text-soft">{entry.description}</p>
          <div className="mb-1 truncate text-[11px] text-soft">{entry.tags.join(' · ')}</div>
          {action?.(entry)}
        </li>
      ))}
    </ul>
  );
}

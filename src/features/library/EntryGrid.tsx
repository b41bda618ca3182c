import Link from 'next/link';
import type { ReactNode } from 'react';
import { Swatch } from '@/ui/Swatch';
import type { EntrySummary, LibraryAnswer } from '@/contract/library';

const GRID = 'grid grid-cols-[repeat(auto-fill,minmax(clamp(186px,14vw,300px),1fr))] gap-3';

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
    <ul className={GRID}>
      {answer.entries.map((entry) => (
        <li
          key={entry.id}
          className="flex flex-col border border-line bg-panel p-2 hover:border-seam"
          data-testid={`entry-${entry.name}`}
        >
          <Link href={`/library/${entry.id}`} tabIndex={-1} aria-hidden>
            <Swatch
              hash={entry.swatchHash}
              label={entry.name}
              className="aspect-[4/3] w-full object-contain"
            />
          </Link>
          <Link
            href={`/library/${entry.id}`}
            className="mt-1 line-clamp-2 text-[14px] leading-[1.25] font-semibold hover:underline"
            title={entry.name}
          >
            {entry.name}
          </Link>
          <div className="flex justify-between text-[11.5px] text-soft">
            <span>{answer.racks.find((rack) => rack.id === entry.rack)?.name} rack</span>
            <span className="figures">{entry.version}</span>
          </div>
          <p className="line-clamp-2 min-h-[32px] text-[12px] text-soft">{entry.description}</p>
          <Tags tags={entry.tags} />
          {action?.(entry)}
        </li>
      ))}
    </ul>
  );
}

/** Words an entry is found by. */
export function Tags({ tags }: { readonly tags: readonly string[] }) {
  return (
    <ul className="mt-auto mb-1 flex flex-wrap gap-1 pt-1 text-[11px] text-soft">
      {tags.map((tag) => (
        <li key={tag} className="border border-line px-1">
          {tag}
        </li>
      ))}
    </ul>
  );
}

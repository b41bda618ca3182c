import Link from 'next/link';
import type { ReactNode } from 'react';
import { DRAGGED_ENTRY } from '@/state/placing';
import { Swatch } from '@/ui/Swatch';
import { Tags } from '@/ui/Tags';
import type { EntrySummary, LibraryAnswer } from '@/contract/library';

const GRID = 'grid grid-cols-[repeat(auto-fill,minmax(clamp(186px,14vw,300px),1fr))] gap-3';

interface Props {
  readonly answer: LibraryAnswer;
  readonly action?: (entry: EntrySummary) => ReactNode;
  /** Whether entries may be dragged onto a board. */
  readonly isDraggable?: boolean;
}

/** Entries as swatches with their names. */
export function EntryGrid({ answer, action, isDraggable = false }: Props) {
  if (answer.entries.length === 0)
    return (
      <p className="text-soft">No group matches. Try fewer letters, or another word for it.</p>
    );
  return (
    <>
      {answer.isGuess ? (
        <p className="mb-2 text-soft">Nothing has these words. These are spelt alike:</p>
      ) : null}
      <ul className={GRID}>
        {answer.entries.map((entry) => (
          <EntryCard key={entry.id} entry={entry} isDraggable={isDraggable}>
            <RackLine entry={entry} racks={answer.racks} />
            {action?.(entry)}
          </EntryCard>
        ))}
      </ul>
    </>
  );
}

interface CardProps {
  readonly entry: EntrySummary;
  readonly isDraggable: boolean;
  readonly children: ReactNode;
}

function EntryCard({ entry, isDraggable, children }: CardProps) {
  return (
    <li
      className="flex flex-col border border-line bg-panel p-2 hover:border-seam"
      data-testid={`entry-${entry.name}`}
      draggable={isDraggable}
      onDragStart={(event) => {
        if (!isDraggable) return;
        const { id, name, version } = entry;
        event.dataTransfer.setData(DRAGGED_ENTRY, JSON.stringify({ id, name, version }));
        event.dataTransfer.effectAllowed = 'copy';
      }}
    >
      <Link href={`/library/${entry.id}`} tabIndex={-1} aria-hidden draggable={false}>
        <Swatch
          hash={entry.swatchHash}
          label={entry.name}
          className="pointer-events-none aspect-[4/3] w-full object-contain"
        />
      </Link>
      <Link
        href={`/library/${entry.id}`}
        className="mt-1 line-clamp-2 text-[14px] leading-[1.25] font-semibold hover:underline"
        title={entry.name}
        draggable={false}
        data-entry-link
      >
        {entry.name}
      </Link>
      {children}
    </li>
  );
}

function RackLine({
  entry,
  racks,
}: {
  readonly entry: EntrySummary;
  readonly racks: LibraryAnswer['racks'];
}) {
  const used = entry.uses === 1 ? '1 material' : `${String(entry.uses)} materials`;
  return (
    <>
      <div className="flex justify-between text-[11.5px] text-soft">
        <span>{racks.find((rack) => rack.id === entry.rack)?.name} rack</span>
        <span className="figures">{entry.version}</span>
      </div>
      {entry.deprecatedReason === null ? null : (
        <p className="text-[11.5px] text-madder" title={entry.deprecatedReason}>
          ▲ deprecated: {entry.deprecatedReason}
        </p>
      )}
      <p className="line-clamp-2 min-h-[32px] text-[12px] text-soft">{entry.description}</p>
      <p className="text-[11.5px] text-soft">
        {entry.uses > 0 ? `used in ${used}` : 'not used yet'}
      </p>
      <Tags tags={entry.tags} />
    </>
  );
}

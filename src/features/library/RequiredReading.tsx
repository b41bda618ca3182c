'use client';
import { useState } from 'react';
import type { GroupNote } from '@/core/notes/group-note';
import type { GroupDefinition } from '@/core/graph/document';
import { useGroupNotes } from '@/state/group-notes';

interface Reading {
  readonly notes: readonly GroupNote[];
  /** What is still to be tried. */
  readonly waiting: number;
  readonly isRead: boolean;
  readonly onRead: (isRead: boolean) => void;
  /** Whether nothing stands in the way of publishing. */
  readonly isDone: boolean;
}

/** The inspector's notes on a group that is to be published, and whether they were read. */
export function useReading(group: GroupDefinition): Reading {
  const { notes, waiting } = useGroupNotes(group);
  // Reading what stood there before does not count for what was found since.
  const key = notes.map(({ message }) => message).join('\n');
  const [read, setRead] = useState<string | null>(null);
  const isRead = read === key;
  return {
    notes,
    waiting,
    isRead,
    onRead: (next) => {
      setRead(next ? key : null);
    },
    isDone: waiting === 0 && (isRead || notes.length === 0),
  };
}

/** The inspector's notes, which are read before a group goes out. */
export function RequiredReading({ notes, waiting, isRead, onRead }: Reading) {
  return (
    <section
      className="border-t border-line pt-2 text-[12px]"
      aria-label="Inspector’s notes"
      data-testid="reading"
    >
      <h3 className="text-soft">
        Inspector’s notes{waiting > 0 ? `, ${String(waiting)} still to be tried …` : ''}
      </h3>
      {notes.length === 0 ? <p>Nothing stands out.</p> : null}
      <ul>
        {notes.map(({ code, tone, message }) => (
          <li key={`${code} ${message}`} className={tone === 'fault' ? 'text-madder' : ''}>
            {tone === 'fault' ? '▲ ' : '· '}
            {message}
          </li>
        ))}
      </ul>
      {notes.length > 0 ? (
        <label className="mt-1 flex min-h-[24px] items-center gap-2">
          <input
            type="checkbox"
            checked={isRead}
            onChange={(event) => {
              onRead(event.target.checked);
            }}
          />
          I have read these notes
        </label>
      ) : null}
    </section>
  );
}

'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import type { EntrySummary } from '@/contract/library';
import { describeError } from '@/core/base/problem';
import { currentBoard } from '@/state/editing';
import { useLibrarySearch } from '@/state/library-search';
import { placeEntry } from '@/state/placing';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';
import { Sheet } from '@/ui/Sheet';
import { tellProblem } from '@/ui/tell-problem';
import { EntryGrid } from './EntryGrid';
import { PlaceFile } from './PlaceFile';

/** The library beside the board: find a group, look at its front, place it or drag it over. */
export function LibrarySheet({
  open,
  onClose,
}: {
  readonly open: boolean;
  readonly onClose: () => void;
}) {
  const [query, setQuery] = useState('');
  const { data: answer, error } = useLibrarySearch({ query }, open);
  const place = async (entry: EntrySummary): Promise<void> => {
    await placeEntry(entry);
    const where = currentBoard() === null ? '' : ' of the group';
    toast(`Placed ${entry.name} ${entry.version} on the board${where}`);
    onClose();
  };
  return (
    <Sheet
      docks
      open={open}
      onClose={onClose}
      title="Library"
      description="Groups of the studio, of your projects and your own. Place one, or drag it."
    >
      <input
        autoFocus
        aria-label="Search the library"
        placeholder="What are you looking for?"
        value={query}
        onChange={(event) => {
          setQuery(event.target.value);
        }}
        className="mb-3 w-full border border-line bg-ground px-2 py-1"
      />
      <PlaceFile onPlaced={onClose} />
      {error ? <ProblemNote problem={describeError(error)} className="mb-3" /> : null}
      {answer ? (
        <EntryGrid
          isDraggable
          answer={answer}
          action={(entry) => (
            <Button
              onClick={() => {
                place(entry).catch(tellProblem);
              }}
            >
              Place
            </Button>
          )}
        />
      ) : error ? null : (
        <p className="text-soft">Looking …</p>
      )}
    </Sheet>
  );
}

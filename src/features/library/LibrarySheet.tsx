'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import { addNode } from '@/core/edit/nodes';
import { getNetwork } from '@/core/edit/board';
import { openEntry } from '@/contract/library';
import type { EntrySummary } from '@/contract/library';
import { AppError } from '@/core/base/diagnostic';
import { describeError } from '@/core/base/problem';
import { read } from '@/state/query-client';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';
import { Sheet } from '@/ui/Sheet';
import { tellProblem } from '@/ui/tell-problem';
import { bringIn } from './bring-in';
import { EntryGrid } from './EntryGrid';
import { useLibrarySearch } from './use-library-search';
import { commit, currentBoard, goTo } from '@/state/editing';
import { stores } from '@/state/stores';

/** Puts a release of an entry on the open board, to the right of what is there. */
async function placeEntry(entry: EntrySummary): Promise<void> {
  const view = await read(openEntry, { params: { id: entry.id } });
  const release = view.releases.find((each) => each.version === entry.version);
  if (!release)
    throw new AppError(
      'release.not-found',
      `${entry.name} ${entry.version} is not in the library any more.`,
      'Look at what is there now.',
      { kept: 'Nothing was placed.' },
    );
  if (release.fault !== null)
    throw new AppError('release.unreadable', release.fault, 'Choose another release.', {
      kept: 'Nothing was placed.',
    });
  let id = '';
  commit(`Placed ${entry.name}`, (document, board) => {
    const brought = bringIn(document, entry.id, release);
    const { nodes } = getNetwork(document, board);
    const right = Math.max(0, ...nodes.map((node) => node.at[0])),
      top = Math.min(0, ...nodes.map((node) => node.at[1]));
    const added = addNode(brought.document, board, 'group', [right, top - 240], brought.groupId);
    id = added.id;
    return added.document;
  });
  // It stands beside all others: the board goes there.
  if (id) goTo(stores.view.getState().path, { node: id });
  toast(
    `Placed ${entry.name} ${entry.version} on the ` +
      `board${currentBoard() === null ? '' : ' of the group'}`,
  );
}

/** The library beside the board: find a group, look at its front, place it. */
export function LibrarySheet({
  open,
  onClose,
}: {
  readonly open: boolean;
  readonly onClose: () => void;
}) {
  const [query, setQuery] = useState('');
  const { data: answer, error } = useLibrarySearch(query, '', open);
  const place = async (entry: EntrySummary): Promise<void> => {
    await placeEntry(entry);
    onClose();
  };
  return (
    <Sheet
      docks
      open={open}
      onClose={onClose}
      title="Library"
      description="Groups of the studio and of your projects."
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
      {error ? <ProblemNote problem={describeError(error)} className="mb-3" /> : null}
      {answer ? (
        <EntryGrid
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

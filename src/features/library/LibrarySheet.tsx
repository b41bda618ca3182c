'use client';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { addNode } from '@/core/edit/nodes';
import { networkOf } from '@/core/edit/board';
import { getJson } from '@/state/api';
import { commit, currentBoard, select } from '@/state/editor-store';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { bringIn } from './bring-in';
import { EntryGrid } from './EntryGrid';
import type { EntrySummary, EntryView, LibraryAnswer } from './library-types';

/** The library beside the board: find a group, look at its front, place it. */
export function LibrarySheet({ open, onClose }: { readonly open: boolean; readonly onClose: () => void }) {
  const [query, setQuery] = useState('');
  const [answer, setAnswer] = useState<LibraryAnswer | null>(null);
  const [failure, setFailure] = useState('');
  useEffect(() => {
    if (!open) return;
    const timer = setTimeout(() => {
      getJson<LibraryAnswer>(`/api/library?query=${encodeURIComponent(query)}`).then(setAnswer).catch((error: unknown) => { setFailure(error instanceof Error ? error.message : String(error)); });
    }, 150);
    return () => { clearTimeout(timer); };
  }, [open, query]);
  const place = async (entry: EntrySummary): Promise<void> => {
    const view = await getJson<EntryView>(`/api/library/${entry.id}`);
    const release = view.releases.find((each) => each.version === entry.version);
    if (!release) return;
    let id = '';
    commit(`Placed ${entry.name}`, (document, board) => {
      const brought = bringIn(document, entry.id, release);
      const { nodes } = networkOf(document, board);
      const right = Math.max(0, ...nodes.map((node) => node.at[0])), top = Math.min(0, ...nodes.map((node) => node.at[1]));
      const added = addNode(brought.document, board, 'group', [right, top - 240], brought.groupId);
      id = added.id;
      return added.document;
    });
    if (id) select([id]);
    toast(`Placed ${entry.name} ${entry.version} on the board${currentBoard() === null ? '' : ' of the group'}`);
    onClose();
  };
  return (
    <Sheet open={open} onClose={onClose} title="Library" description="Groups of the studio and of your projects.">
      <input autoFocus aria-label="Search the library" placeholder="What are you looking for?" value={query} onChange={(event) => { setQuery(event.target.value); }} className="mb-3 w-full border border-line bg-ground px-2 py-1" />
      {failure ? <p role="alert" className="text-madder">{failure}</p> : null}
      {answer ? <EntryGrid answer={answer} action={(entry) => <Button onClick={() => { void place(entry); }}>Place</Button>} /> : <p className="text-soft">Looking …</p>}
    </Sheet>
  );
}

'use client';
import { useEffect } from 'react';
import type { RefObject } from 'react';
import { toast } from 'sonner';
import { getNetwork } from '@/core/edit/board';
import { isMark, removeMarks } from '@/core/edit/marks';
import { copyNodes, pasteClip } from '@/core/edit/clip';
import { removeNodes } from '@/core/edit/nodes';
import { disconnect } from '@/core/edit/strands';
import { missingNames, readClip } from '@/state/clipboard';
import {
  commit,
  currentBoard,
  enterGroup,
  frameAll,
  frameSelection,
  leaveTo,
  redo,
  select,
  undo,
} from '@/state/editing';
import { toggleOff } from '@/state/rewiring';
import { stores } from '@/state/stores';
import { tellChange } from '@/state/tell-change';

type OpenPalette = (initial: string) => void;

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.matches('input, textarea, select, [role="slider"], [role="combobox"]') ||
    target.isContentEditable);
const chosenNodes = (): readonly string[] =>
  stores.view.getState().selection.filter((id) => !isMark(id));

function removeNodesAndMarks(selection: readonly string[]): void {
  const count = chosenNodes().length;
  commit('Removed', (document, board) =>
    removeMarks(removeNodes(document, board, chosenNodes()), board, selection),
  );
  if (count > 0) tellChange(`Removed ${String(count)} ${count === 1 ? 'node' : 'nodes'}`);
}

function removeChosen(): void {
  const { selection, chosenStrand } = stores.view.getState();
  if (chosenStrand)
    commit('Removed a strand', (document, board) => disconnect(document, board, [chosenStrand]));
  else if (selection.length > 0) removeNodesAndMarks(selection);
  select([]);
}

export function duplicateChosen(keepIncoming: boolean): void {
  const { document } = stores.document.getState();
  const clip = copyNodes(document, currentBoard(), chosenNodes());
  let ids: readonly string[] = [];
  if (clip.nodes.length > 0)
    commit('Duplicated', (current, board) => {
      const pasted = pasteClip(current, board, clip, [36, 48], keepIncoming);
      ids = pasted.ids;
      return pasted.document;
    });
  if (ids.length > 0) select(ids);
}

function command(key: string, shift: boolean): boolean {
  switch (key) {
    case 'z': {
      const label = shift ? redo() : undo();
      if (label) toast(`${shift ? 'Redone' : 'Undone'}: ${label.toLowerCase()}`);
      return true;
    }
    case 'y': {
      const label = redo();
      if (label) toast(`Redone: ${label.toLowerCase()}`);
      return true;
    }
    case '.':
      toggleOff(chosenNodes());
      return true;
    case 'd':
      duplicateChosen(shift);
      return true;
    case 'a':
      select(
        getNetwork(stores.document.getState().document, currentBoard()).nodes.map(
          (node) => node.id,
        ),
      );
      return true;
    default:
      return false;
  }
}

/** Puts the chosen nodes on the clipboard as text, and takes them away where they are cut. */
function copyChosen(event: ClipboardEvent): void {
  const { selection } = stores.view.getState();
  const clip = copyNodes(stores.document.getState().document, currentBoard(), selection);
  if (clip.nodes.length === 0) return;
  event.clipboardData?.setData('text/plain', JSON.stringify(clip));
  event.preventDefault();
  if (event.type === 'cut') removeChosen();
  else toast(`Copied ${String(clip.nodes.length)} ${clip.nodes.length === 1 ? 'node' : 'nodes'}`);
}

function pasteNodes(event: ClipboardEvent): void {
  const read = readClip(event.clipboardData?.getData('text/plain') ?? '');
  if ('reason' in read) {
    toast(read.reason);
    return;
  }
  const { clip } = read;
  event.preventDefault();
  let ids: readonly string[] = [];
  let left: readonly string[] = [];
  commit('Pasted', (current, board) => {
    const pasted = pasteClip(current, board, clip, [48, 48], false);
    ({ ids, left } = pasted);
    return pasted.document;
  });
  select(ids);
  for (const words of [...left, ...missingNames(clip.nodes, stores.stage.getState().model)])
    toast(words);
}

/** A key that means something on the board itself. */
function pressOnBoard(event: KeyboardEvent, openPalette: OpenPalette): void {
  const { path } = stores.view.getState();
  const [only, ...more] = chosenNodes();
  const isGroup = (id: string): boolean =>
    getNetwork(stores.document.getState().document, currentBoard()).nodes.find(
      (node) => node.id === id,
    )?.group !== undefined;
  if (event.key === 'Delete' || event.key === 'Backspace') removeChosen();
  else if (event.key === 'Enter' && only && more.length === 0 && isGroup(only)) enterGroup(only);
  else if (event.key === 'Escape') {
    if (path.length > 0 && !only) leaveTo(path.length - 1);
    else select([]);
  } else if (event.key === 'Home') (event.shiftKey ? frameSelection : frameAll)();
  else if (event.key === ' ' || /^[a-z]$/i.test(event.key)) {
    event.preventDefault();
    openPalette(event.key.trim());
  }
}

/** Keys of the board. A letter begins the search for a node; the rest are the platform's own. */
export function useBoardKeys(
  host: RefObject<HTMLDivElement | null>,
  openPalette: OpenPalette,
): void {
  useEffect(() => {
    const onBoard = (): boolean => host.current?.contains(document.activeElement) ?? false;
    const down = (event: KeyboardEvent): void => {
      if (isTyping(event.target)) return;
      if (event.ctrlKey || event.metaKey) {
        if (command(event.key.toLowerCase(), event.shiftKey)) event.preventDefault();
      } else if (onBoard() && !event.altKey) pressOnBoard(event, openPalette);
    };
    const onClip =
      (act: (event: ClipboardEvent) => void) =>
      (event: ClipboardEvent): void => {
        if (!isTyping(event.target) && onBoard()) act(event);
      };
    const [copy, paste] = [onClip(copyChosen), onClip(pasteNodes)];
    window.addEventListener('keydown', down);
    for (const type of ['copy', 'cut'] as const) window.addEventListener(type, copy);
    window.addEventListener('paste', paste);
    return () => {
      window.removeEventListener('keydown', down);
      for (const type of ['copy', 'cut'] as const) window.removeEventListener(type, copy);
      window.removeEventListener('paste', paste);
    };
  }, [host, openPalette]);
}

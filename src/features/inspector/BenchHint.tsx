'use client';
import { useEffect, useState } from 'react';
import { isMark } from '@/core/edit/marks';
import { useBoardId, useBoardIndex } from '@/state/use-card';
import { useView } from '@/state/use-stores';
import { SelectionBench } from './SelectionBench';

/** A double click, or a drag, has begun and ended in this time, milliseconds. */
const SETTLED = 280;

/** Whether one card or a strand is chosen: then there is something to set. */
function useHasContent(): boolean {
  const board = useBoardId();
  const strand = useView((state) => state.chosenStrand);
  const only = useView(({ selection }) => (selection.length === 1 ? selection[0] : undefined));
  const hasNode = useBoardIndex(board, ({ nodes }) => only !== undefined && nodes.has(only));
  return strand !== null || (only !== undefined && !isMark(only) && hasNode);
}

/**
 * Whether the bench is open. It opens and closes a moment after the choice, and never while a
 * button is down: nothing moves under the pointer in the middle of a gesture.
 */
export function useBenchIsOpen(): boolean {
  const wanted = useHasContent();
  const [isOpen, setOpen] = useState(wanted);
  const isDown = useButtonIsDown();
  useEffect(() => {
    if (wanted === isOpen || isDown) return;
    const timer = setTimeout(() => {
      setOpen(wanted);
    }, SETTLED);
    return () => {
      clearTimeout(timer);
    };
  }, [wanted, isOpen, isDown]);
  return isOpen;
}

/** Whether a button of the mouse, a finger or a pen is down anywhere in the window. */
function useButtonIsDown(): boolean {
  const [isDown, setDown] = useState(false);
  useEffect(() => {
    const note = ({ buttons }: PointerEvent): void => {
      setDown(buttons !== 0);
    };
    const types = ['pointerdown', 'pointerup', 'pointercancel'] as const;
    for (const type of types) window.addEventListener(type, note, { capture: true });
    return () => {
      for (const type of types) window.removeEventListener(type, note, { capture: true });
    };
  }, []);
  return isDown;
}

/** The one line of an empty bench; of several chosen nodes, what there is to do with them. */
export function BenchHint() {
  const selection = useView((state) => state.selection);
  const nodes = selection.filter((id) => !isMark(id));
  return (
    <div className="shrink-0 border-t border-line bg-panel px-3 py-1 text-[12px] text-soft">
      {nodes.length > 1 ? (
        <SelectionBench ids={nodes} />
      ) : (
        'Select a card to set its values. To add a node, point at the board and type what it ' +
        'should do.'
      )}
    </div>
  );
}

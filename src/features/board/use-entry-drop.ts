import { useReactFlow } from '@xyflow/react';
import { useCallback } from 'react';
import { DRAGGED_ENTRY, placeEntry } from '@/state/placing';
import type { PlacedEntry } from '@/state/placing';
import { tellProblem } from '@/ui/tell-problem';

const isEntry = (value: unknown): value is PlacedEntry =>
  typeof value === 'object' &&
  value !== null &&
  ['id', 'name', 'version'].every(
    (key) => typeof (value as Record<string, unknown>)[key] === 'string',
  );

/** What was dragged, where it is a group of the library; null for anything else. */
function draggedEntry(data: DataTransfer): PlacedEntry | null {
  try {
    const value: unknown = JSON.parse(data.getData(DRAGGED_ENTRY));
    return isEntry(value) ? value : null;
  } catch {
    return null;
  }
}

/** Places a group that is dragged from the library onto the board, where it is let go. */
export function useEntryDrop(): (event: React.DragEvent) => void {
  const flow = useReactFlow();
  return useCallback(
    (event) => {
      const entry = draggedEntry(event.dataTransfer);
      if (!entry) return;
      event.preventDefault();
      event.stopPropagation();
      const { x, y } = flow.screenToFlowPosition({ x: event.clientX, y: event.clientY });
      placeEntry(entry, [Math.round(x), Math.round(y)]).catch(tellProblem);
    },
    [flow],
  );
}

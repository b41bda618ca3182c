'use client';
import { Pipette } from 'lucide-react';
import { editorStore } from '@/state/editor-store';
import type { Picking } from '@/state/editor-store';
import { useEditor } from '@/state/use-editor';

/** Asks for a click on the stage; pressed again, it no longer does. */
export function PickButton({
  title,
  picking,
}: {
  readonly title: string;
  readonly picking: Picking;
}) {
  const isWaiting = useEditor((state) => state.picking?.asks === picking.asks);
  return (
    <button
      type="button"
      aria-label={`Pick ${title} from the stage`}
      title="Pick from the stage"
      aria-pressed={isWaiting}
      className={`p-0.5 ${isWaiting ? 'text-weld' : 'text-soft hover:text-ink'}`}
      onClick={() => {
        editorStore.setState({ picking: isWaiting ? null : picking });
      }}
    >
      <Pipette size={11} />
    </button>
  );
}

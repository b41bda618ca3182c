'use client';
import { Pipette } from 'lucide-react';
import { stores } from '@/state/stores';
import type { Picking } from '@/state/stores';
import { useView } from '@/state/use-stores';

/** Asks for a click on the stage; pressed again, it no longer does. */
export function PickButton({
  title,
  picking,
}: {
  readonly title: string;
  readonly picking: Picking;
}) {
  const isWaiting = useView((state) => state.picking?.asks === picking.asks);
  return (
    <button
      type="button"
      aria-label={`Pick ${title} from the stage`}
      title="Pick from the stage"
      aria-pressed={isWaiting}
      className={`press ${isWaiting ? 'text-weld' : 'on-row text-soft hover:text-ink'}`}
      onClick={() => {
        stores.view.setState({ picking: isWaiting ? null : picking });
      }}
    >
      <Pipette size={11} />
    </button>
  );
}

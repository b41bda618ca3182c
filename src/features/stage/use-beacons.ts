'use client';
import { listBeacons } from '@/core/edit/beacons';
import { useBoardId } from '@/state/use-card';
import { useDocument, useStage, useView } from '@/state/use-stores';
import { useSteadySelector } from '@/ui/use-steady';

interface ShownBeacons {
  readonly beacons: ReturnType<typeof listBeacons>;
  /** The one that is selected. */
  readonly chosen: string | null;
}

/** The beacons of the board shown, as they stand on the model. */
export function useBeacons(): ShownBeacons {
  const board = useBoardId();
  const model = useStage((state) => state.model);
  const selection = useView((state) => state.selection);
  const beacons = useDocument(
    useSteadySelector(({ document }) => (model ? listBeacons(document, board, model.scale) : [])),
  );
  const last = useView((state) => state.beacon);
  const [only] = selection.length === 1 ? selection : [];
  const held = beacons.filter(({ card }) => card === only);
  const chosen = held.find(({ id }) => id === last) ?? held[0];
  return { beacons, chosen: chosen?.id ?? null };
}

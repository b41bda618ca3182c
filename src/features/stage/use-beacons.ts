'use client';
import { useMemo } from 'react';
import { listBeacons } from '@/core/edit/beacons';
import { useBoard, useStage, useView } from '@/state/use-stores';
import { useSteady } from '@/ui/use-steady';

interface ShownBeacons {
  readonly beacons: ReturnType<typeof listBeacons>;
  /** The one that is selected. */
  readonly chosen: string | null;
}

/** The beacons of the board shown, as they stand on the model. */
export function useBeacons(): ShownBeacons {
  const { document, board } = useBoard();
  const model = useStage((state) => state.model);
  const selection = useView((state) => state.selection);
  const listed = useMemo(
    () => (model ? listBeacons(document, board, model.scale) : []),
    [document, board, model],
  );
  const beacons = useSteady(listed);
  const [only] = selection.length === 1 ? selection : [];
  return { beacons, chosen: beacons.find(({ id }) => id === only)?.id ?? null };
}

'use client';
import { useMemo } from 'react';
import { drawInfluence, influenceShares } from '@/core/evaluate/influence-picture';
import { percent } from '@/core/nodes/advice';
import type { Evaluation } from '@/state/evaluation';
import { useInfluence } from '@/state/influence';
import { useProbe } from '@/state/use-stores';
import { PictureCanvas } from '@/ui/PictureCanvas';

/** While a dial is pointed at: the region of the model that it changes, laid over the stage. */
export function InfluenceOverlay({ evaluation }: { readonly evaluation: Evaluation }) {
  const influence = useInfluence(evaluation);
  const title = useProbe((state) => state.pointedValue?.title ?? '');
  const picture = useMemo(() => influence && drawInfluence(influence), [influence]);
  if (!influence || !picture) return null;
  const { now, ever } = influenceShares(influence);
  return (
    <div className="pointer-events-none absolute inset-0" data-testid="influence">
      <PictureCanvas
        picture={picture}
        label="Where the value that is pointed at changes what is shown"
        className="h-full w-full"
      />
      <p className="absolute bottom-8 left-1 bg-panel/85 px-1 text-[11px]">
        {ever === 0
          ? `“${title}” changes nothing that is seen from here.`
          : `“${title}” changes ${percent(now)} of what is seen; hatched with other settings, ` +
            `${percent(ever)} in all.`}
      </p>
    </div>
  );
}

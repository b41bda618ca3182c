'use client';
import { useMemo } from 'react';
import { drawInfluence, influenceShares } from '@/core/evaluate/influence-picture';
import { percent } from '@/core/nodes/advice';
import type { Evaluation } from '@/state/evaluation';
import { useInfluence } from '@/state/influence';
import { useProbe } from '@/state/use-stores';
import { PictureCanvas } from '@/ui/PictureCanvas';

/** While a value, a node or a strand is pointed at: the region that it changes, over the stage. */
export function InfluenceOverlay({ evaluation }: { readonly evaluation: Evaluation }) {
  const influence = useInfluence(evaluation);
  const title = useProbe((state) => state.pointedValue?.title ?? '');
  const isPart = useProbe((state) => state.pointedValue !== null && 'part' in state.pointedValue);
  const picture = useMemo(() => influence && drawInfluence(influence), [influence]);
  if (!influence || !picture) return null;
  return (
    <div className="pointer-events-none absolute inset-0" data-testid="influence">
      <PictureCanvas
        picture={picture}
        label="Where what is pointed at changes what is shown"
        className="h-full w-full"
      />
      <p className="absolute bottom-8 left-1 bg-panel/85 px-1 text-[11px]">
        {influenceWords(title, isPart, influenceShares(influence))}
      </p>
    </div>
  );
}

/** What the region says, in a sentence. */
function influenceWords(
  title: string,
  isPart: boolean,
  { now, ever }: ReturnType<typeof influenceShares>,
): string {
  if (ever === 0) return `“${title}” changes nothing that is seen from here.`;
  if (isPart) return `Without “${title}”, ${percent(ever)} of what is seen would be different.`;
  return (
    `“${title}” changes ${percent(now)} of what is seen; hatched with other settings, ` +
    `${percent(ever)} in all.`
  );
}

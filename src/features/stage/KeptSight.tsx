'use client';
import { X } from 'lucide-react';
import { useState } from 'react';
import type { PointerEvent } from 'react';
import { stores } from '@/state/stores';
import { useView } from '@/state/use-stores';
import { IconButton } from '@/ui/IconButton';
import { PictureCanvas } from '@/ui/PictureCanvas';

/** Of the window, pixels a side; the picture in it is so many times as large. */
const SIDE = 150;
const CLOSER = 2.4;

/** A crop of a state that stays beside the model while one works; a drag moves it. */
export function KeptSight() {
  const kept = useView((state) => state.keptSight);
  return kept ? <Crop key={kept.title} {...kept} /> : null;
}

function Crop({
  picture,
  title,
}: NonNullable<ReturnType<typeof stores.view.getState>['keptSight']>) {
  const least = SIDE * (1 - CLOSER);
  const [[x, y], setAt] = useState<readonly [number, number]>([least / 2, least / 2]);
  const within = (value: number): number => Math.min(0, Math.max(least, value));
  const drag = ({ buttons, movementX, movementY }: PointerEvent): void => {
    if (buttons !== 0) setAt([within(x + movementX), within(y + movementY)]);
  };
  return (
    <figure
      className="absolute bottom-8 left-1 m-0 border border-weld bg-panel text-[11px]"
      data-testid="kept-sight"
    >
      <div
        className="relative cursor-move touch-none overflow-hidden bg-stage"
        style={{ width: SIDE, height: SIDE }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
        }}
        onPointerMove={drag}
      >
        <div
          className="absolute"
          style={{ left: x, top: y, width: SIDE * CLOSER, height: SIDE * CLOSER }}
        >
          <PictureCanvas picture={picture} label={`Crop of ${title}`} className="h-full w-full" />
        </div>
      </div>
      <figcaption className="flex items-center justify-between gap-1 pl-1">
        <span className="truncate" style={{ maxWidth: SIDE - 34 }} title={title}>
          {title}
        </span>
        <IconButton
          name={`Put ${title} away`}
          onClick={() => {
            stores.view.setState({ keptSight: null });
          }}
        >
          <X size={11} />
        </IconButton>
      </figcaption>
    </figure>
  );
}

'use client';
import { Minus, Plus, ZoomIn, ZoomOut } from 'lucide-react';
import { LIMITS } from '@/core/graph/document';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';
import { RampMenu } from './RampMenu';
import { RampPresets } from './RampPresets';
import type { RampToolsProps } from './edited-ramp';
import { WHOLE, isWhole, zoomed } from './ramp-window';

/** Adding and removing stops, looking closer, and what there is to do with the whole ramp. */
export function RampTools(props: RampToolsProps) {
  const { ramp, stop, window: part, onWindow, onAdd, onRemove } = props;
  return (
    <div className="flex flex-wrap items-center gap-1 text-[12px]">
      <IconButton
        name="Add a stop in the widest gap"
        isDisabled={ramp.stops.length >= LIMITS.rampStops}
        onClick={() => {
          onAdd(null);
        }}
      >
        <Plus size={14} />
      </IconButton>
      <IconButton
        name="Remove the chosen stop"
        isDisabled={ramp.stops.length <= 2}
        onClick={() => {
          onRemove(stop.id);
        }}
      >
        <Minus size={14} />
      </IconButton>
      <span className="mx-1 h-4 border-l border-line" />
      <IconButton
        name="Look closer at the chosen stop"
        onClick={() => {
          onWindow(zoomed(part, 0.5, stop.position));
        }}
      >
        <ZoomIn size={14} />
      </IconButton>
      <IconButton
        name="Look from farther away"
        isDisabled={isWhole(part)}
        onClick={() => {
          onWindow(zoomed(part, 2, stop.position));
        }}
      >
        <ZoomOut size={14} />
      </IconButton>
      {isWhole(part) ? null : (
        <Button
          look="quiet"
          onClick={() => {
            onWindow(WHOLE);
          }}
        >
          Whole ramp
        </Button>
      )}
      <span className="mx-1 h-4 border-l border-line" />
      <RampMenu {...props} />
      <RampPresets {...props} />
    </div>
  );
}

'use client';
import type { RampStop } from '@/core/graph/document';
import { toHex } from '@/core/surface/colour-science';
import { followPointer } from '@/ui/follow-pointer';
import { inWindow, isWhole } from './ramp-window';
import type { RampBarProps } from './edited-ramp';

interface Props extends RampBarProps {
  readonly stop: RampStop;
  readonly place: number;
  /** How many stops stand at this place, and which of them this is. */
  readonly pile: { readonly size: number; readonly index: number };
  readonly placeAt: (clientX: number) => number;
}

/** Pixels by which stops at one place are drawn beside each other. */
const FAN = 9;

function startDrag(press: React.PointerEvent, props: Props): void {
  const { stop, place, onChoose, onMove, onDone, placeAt } = props;
  const { layout } = props.modes;
  onChoose(stop.id);
  if (press.button !== 0 || layout === 'bands') return;
  // Where within the handle it was taken, so that it does not jump.
  const held = placeAt(press.clientX) - place;
  const gesture = `stop ${stop.id}`;
  let hasMoved = false;
  followPointer(press.nativeEvent, {
    onMove: (_right, _down, { clientX, altKey }) => {
      hasMoved = true;
      onMove(stop.id, placeAt(clientX) - held, gesture, altKey);
    },
    onEnd: (isGivenUp) => {
      if (isGivenUp && hasMoved) onMove(stop.id, place, gesture, false);
      onDone();
    },
  });
}

/** A stop to drag, with all that stand at its place; with Alt held it leaves them. */
export function StopHandle(props: Props) {
  const { stop, place, pile, modes, chosenId, faultyStops, window: part } = props;
  const isChosen = stop.id === chosenId;
  const isFaulty = faultyStops.has(stop.id);
  const at = inWindow(part, place);
  // A stop that is out of range altogether is shown where it is, to be put back.
  if (!isWhole(part) && (at < -0.001 || at > 1.001)) return null;
  const aside = (pile.index - (pile.size - 1) / 2) * FAN;
  const which = pile.size > 1 ? `, ${String(pile.index + 1)} of ${String(pile.size)} here` : '';
  return (
    <button
      type="button"
      data-testid={`stop-${stop.id}`}
      aria-label={`Stop at ${place.toFixed(2)}${which}${isFaulty ? ', with a fault' : ''}`}
      aria-pressed={isChosen}
      title={pile.size > 1 ? 'Drags with those at its place; alone with Alt held.' : undefined}
      className={
        'absolute bottom-[-7px] h-[38px] -translate-x-1/2 touch-none border ' +
        `${pile.size > 1 ? 'w-[9px]' : 'w-[11px]'} ` +
        `${modes.layout === 'bands' ? '' : 'cursor-ew-resize'} ` +
        `${stop.open ? 'border-dashed' : ''} ${isFaulty ? 'finding-shown' : ''} ` +
        (isChosen ? 'z-[1] border-weld outline outline-1 outline-weld' : 'border-ink')
      }
      style={{
        left: `calc(${String(at * 100)}% + ${String(aside)}px)`,
        background: toHex(stop.colour),
      }}
      onPointerDown={(event) => {
        startDrag(event, props);
      }}
      onDoubleClick={(event) => {
        event.stopPropagation();
      }}
      onFocus={() => {
        props.onChoose(stop.id);
      }}
      onKeyDown={(event) => {
        moveByKey(event, props);
      }}
    />
  );
}

function moveByKey(event: React.KeyboardEvent, { stop, place, onMove, onRemove, ...props }: Props) {
  // Copy and paste are the editor's.
  if (event.ctrlKey && 'cv'.includes(event.key)) return;
  event.stopPropagation();
  if (event.key === 'Delete') onRemove(stop.id);
  const direction = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
  if (direction === undefined) return;
  event.preventDefault();
  const width = props.window.to - props.window.from;
  const step = (event.shiftKey ? 0.001 : event.ctrlKey ? 0.1 : 0.01) * Math.min(1, width * 2);
  onMove(stop.id, place + direction * step, null, event.altKey);
}

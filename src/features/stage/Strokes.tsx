'use client';
import { useEffect, useEffectEvent } from 'react';
import type { RefObject } from 'react';
import type { PointedRay } from '@/core/evaluate/point-explainer';
import { stores } from '@/state/stores';
import { useView } from '@/state/use-stores';
import type { RemoteStage } from './remote-stage';

/** A stroke is looked at again after so many pixels. */
const EVERY = 6;

interface Props {
  readonly host: RefObject<HTMLDivElement | null>;
  readonly renderer: RefObject<RemoteStage | null>;
}

const leave = (): void => {
  stores.view.setState({ stroking: null });
};

/** While strokes are asked for: a drag on the model marks it, instead of turning it. */
export function Strokes({ host, renderer }: Props) {
  const stroking = useView((state) => state.stroking);
  const take = useEffectEvent((rays: readonly PointedRay[]) => stroking?.take(rays));
  const isActive = stroking !== null;
  useEffect(() => {
    const element = host.current;
    if (!isActive || !element) return;
    return followStrokes(element, renderer, (rays) => take(rays));
  }, [host, renderer, isActive]);
  if (!stroking) return null;
  return (
    <div
      className={
        'absolute inset-x-2 bottom-9 flex items-center gap-2 rounded-[2px] border border-weld ' +
        'bg-panel px-2 py-1 text-[12px]'
      }
      role="status"
      data-testid="stroke-prompt"
    >
      <span className="flex-1">{stroking.asks}</span>
      <button type="button" className="underline" onClick={leave}>
        Done
      </button>
    </div>
  );
}

/** Gathers the rays of each drag. @returns how to stop */
function followStrokes(
  element: HTMLElement,
  renderer: Props['renderer'],
  onStroke: (rays: readonly PointedRay[]) => void,
): () => void {
  let rays: Promise<PointedRay>[] | null = null;
  let last: readonly [number, number] = [0, 0];
  const mark = ({ clientX, clientY }: PointerEvent): void => {
    last = [clientX, clientY];
    const ray = renderer.current?.rayThrough(clientX, clientY);
    if (ray) rays?.push(ray);
  };
  const down = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    event.stopPropagation();
    element.setPointerCapture(event.pointerId);
    rays = [];
    mark(event);
  };
  const move = (event: PointerEvent): void => {
    if (!rays) return;
    event.stopPropagation();
    if (Math.hypot(event.clientX - last[0], event.clientY - last[1]) >= EVERY) mark(event);
  };
  const up = (event: PointerEvent): void => {
    if (!rays) return;
    event.stopPropagation();
    void Promise.all(rays).then(onStroke);
    rays = null;
  };
  const key = (event: KeyboardEvent): void => {
    if (event.key !== 'Escape') return;
    event.stopPropagation();
    leave();
  };
  const listeners = [
    ['pointerdown', down],
    ['pointermove', move],
    ['pointerup', up],
  ] as const;
  for (const [type, listener] of listeners) element.addEventListener(type, listener, true);
  window.addEventListener('keydown', key, true);
  return () => {
    for (const [type, listener] of listeners) element.removeEventListener(type, listener, true);
    window.removeEventListener('keydown', key, true);
  };
}

'use client';
import { useEffect } from 'react';
import type { RefObject } from 'react';
import { explainMore } from '@/state/explaining';
import type { RemoteStage } from './remote-stage';
import { STILL } from './PickPrompt';

interface Props {
  readonly host: RefObject<HTMLDivElement | null>;
  readonly renderer: RefObject<RemoteStage | null>;
}

/** A click with Alt held explains the point that was clicked. */
export function ExplainClicks({ host, renderer }: Props) {
  useEffect(() => {
    const element = host.current;
    if (!element) return;
    let pressed: readonly [number, number] | null = null;
    const down = (event: PointerEvent): void => {
      pressed = event.altKey ? [event.clientX, event.clientY] : null;
    };
    const up = (event: PointerEvent): void => {
      if (!pressed) return;
      const moved = Math.hypot(event.clientX - pressed[0], event.clientY - pressed[1]);
      pressed = null;
      if (moved <= STILL)
        void renderer.current?.rayThrough(event.clientX, event.clientY).then(explainMore);
    };
    element.addEventListener('pointerdown', down);
    element.addEventListener('pointerup', up);
    return () => {
      element.removeEventListener('pointerdown', down);
      element.removeEventListener('pointerup', up);
    };
  }, [host, renderer]);
  return null;
}

'use client';
import { useEffect, useEffectEvent, useState } from 'react';
import type { RefObject } from 'react';
import { describeError, problemText } from '@/core/base/problem';
import type { Triple } from '@/core/graph/document';
import type { Evaluation } from '@/state/evaluation';
import type { RemoteStage } from './remote-stage';
import { stores } from '@/state/stores';
import { useView } from '@/state/use-stores';

/** A press that moves farther than this, pixels, turns the model. */
export const STILL = 4;
const leave = (): void => {
  stores.view.setState({ picking: null });
};

/**
 * While something waits to be picked: says what, and takes the next click on the model. Esc leaves
 * it.
 */
export function PickPrompt({
  evaluation,
  host,
  renderer,
}: {
  readonly evaluation: Evaluation;
  readonly host: RefObject<HTMLDivElement | null>;
  readonly renderer: RefObject<RemoteStage | null>;
}) {
  const picking = useView((state) => state.picking);
  const [answer, setAnswer] = useState('');
  useClickOnModel(host, picking !== null, renderer, (from, towards) => {
    evaluation.questions
      .pick(from, towards)
      .then((picked) => {
        const refused = picked
          ? (picking?.take(picked) ?? null)
          : 'There is no model there. Click on the surface of the current model.';
        setAnswer(refused ?? '');
        if (refused === null) leave();
      })
      .catch((error: unknown) => {
        setAnswer(problemText(describeError(error)));
      });
  });
  if (!picking) return null;
  return (
    <div
      className={
        'absolute inset-x-2 bottom-9 flex items-center gap-2 rounded-[2px] border ' +
        'border-weld bg-panel px-2 py-1 text-[12px]'
      }
      role="status"
      data-testid="pick-prompt"
    >
      <span className="flex-1">
        {picking.asks} {answer ? <strong className="text-madder">{answer}</strong> : null}
      </span>
      <button type="button" className="underline" onClick={leave}>
        Cancel
      </button>
    </div>
  );
}

/** While it is active: the ray of each click on the stage; Escape ends picking. */
function useClickOnModel(
  host: RefObject<HTMLDivElement | null>,
  isActive: boolean,
  renderer: RefObject<RemoteStage | null>,
  onRay: (from: Triple, towards: Triple) => void,
): void {
  const take = useEffectEvent(onRay);
  useEffect(() => {
    const element = host.current;
    if (!isActive || !element) return;
    let pressed: readonly [number, number] | null = null;
    const down = (event: PointerEvent): void => {
      pressed = [event.clientX, event.clientY];
    };
    const up = (event: PointerEvent): void => {
      if (!pressed) return;
      const moved = Math.hypot(event.clientX - pressed[0], event.clientY - pressed[1]);
      if (moved <= STILL)
        void renderer.current
          ?.rayThrough(event.clientX, event.clientY)
          .then(({ from, towards }) => {
            take(from, towards);
          });
    };
    const key = (event: KeyboardEvent): void => {
      if (event.key !== 'Escape') return;
      event.stopPropagation();
      leave();
    };
    element.addEventListener('pointerdown', down);
    element.addEventListener('pointerup', up);
    window.addEventListener('keydown', key, true);
    return () => {
      element.removeEventListener('pointerdown', down);
      element.removeEventListener('pointerup', up);
      window.removeEventListener('keydown', key, true);
    };
  }, [host, isActive, renderer]);
}

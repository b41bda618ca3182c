import { useEffect, useRef, useState } from 'react';
import { describeError } from '../core/base/problem';
import type { Problem } from '../core/base/problem';
import type { ExplainedPoints, PointedRay } from '../core/evaluate/point-explainer';
import type { Evaluation } from './evaluation';
import { stores } from './stores';
import { useDocument, useView } from './use-stores';

/** Points that are explained beside each other, at most. */
export const MOST_POINTS = 4;

/** Explains one more point; of more than fit the earliest goes. */
export function explainMore(ray: PointedRay): void {
  stores.view.setState(({ explained }) => ({ explained: [...explained, ray].slice(-MOST_POINTS) }));
}

/** Explains one point less; without a place, none at all. */
export function explainLess(place?: number): void {
  stores.view.setState(({ explained }) => ({
    explained: place === undefined ? [] : explained.filter((_ray, k) => k !== place),
  }));
}

interface Explained {
  readonly points: ExplainedPoints | null;
  readonly problem: Problem | null;
}

/** What makes the points that are kept, as the document is now; asked again with each edit. */
export function useExplanation(evaluation: Evaluation): Explained {
  const document = useDocument((state) => state.document);
  const rays = useView((state) => state.explained);
  const [found, setFound] = useState<Explained>({ points: null, problem: null });
  const asking = useRef(false);
  const again = useRef<() => void>(null);
  useEffect(() => {
    const ask = (): void => {
      asking.current = true;
      again.current = null;
      evaluation
        .explain(rays)
        .then(
          (points) => {
            setFound({ points, problem: null });
          },
          (error: unknown) => {
            setFound((now) => ({ ...now, problem: describeError(error) }));
          },
        )
        .finally(() => {
          asking.current = false;
          again.current?.();
        });
    };
    // While one is on its way the next waits, and only the newest is asked.
    if (asking.current) again.current = ask;
    else ask();
  }, [document, evaluation, rays]);
  return found;
}

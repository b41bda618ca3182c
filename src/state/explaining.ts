import { useCallback } from 'react';
import type { ExplainedPoints, PointedRay } from '../core/evaluate/point-explainer';
import type { Evaluation } from './evaluation';
import { stores } from './stores';
import { useFollowed } from './use-followed';
import type { Followed } from './use-followed';
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

/** What makes the points that are kept, as the document is now; asked again with each edit. */
export function useExplanation(evaluation: Evaluation): Followed<ExplainedPoints | null> {
  const document = useDocument((state) => state.document);
  const rays = useView((state) => state.explained);
  const ask = useCallback(() => evaluation.explain(rays), [evaluation, rays]);
  return useFollowed(ask, document);
}

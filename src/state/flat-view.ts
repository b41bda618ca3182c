import { useCallback } from 'react';
import type { FlatValues } from '../core/evaluate/flat-view';
import { unwrap } from '../workers/answer';
import type { Evaluation } from './evaluation';
import { explainMore } from './explaining';
import { stores } from './stores';
import { useFollowed } from './use-followed';
import type { Followed } from './use-followed';
import { useDocument, useView } from './use-stores';

/** Texels a side of what is shown. */
const SIDE = 512;

/** What the stage shows, in texture space; asked again with each edit. */
export function useFlatValues(evaluation: Evaluation): Followed<FlatValues> {
  const document = useDocument((state) => state.document);
  const modelId = useDocument((state) => state.modelId);
  const pin = useView((state) => state.pin);
  const ask = useCallback(() => {
    const { background, documents } = evaluation.pool;
    const { document: now } = stores.document.getState();
    return unwrap(background.flatValues(modelId, documents.bring(background, now), pin, SIDE));
  }, [evaluation, modelId, pin]);
  return useFollowed(ask, document);
}

/** Explains the place of the surface that a texel shows. @throws WorkerProblem */
export async function explainTexel(
  evaluation: Evaluation,
  size: number,
  texel: number,
): Promise<void> {
  const { modelId } = stores.document.getState();
  const ray = await unwrap(evaluation.pool.background.rayOntoTexel(modelId, size, texel));
  if (ray) explainMore(ray);
}

/** Explains the place where a result comes nearest to a value. @throws WorkerProblem */
export async function explainValue(
  evaluation: Evaluation,
  key: string,
  value: number,
): Promise<void> {
  const { modelId, document } = stores.document.getState();
  const { background, documents } = evaluation.pool;
  const named = documents.bring(background, document);
  const ray = await unwrap(background.rayOntoValue(modelId, named, key, value));
  if (ray) explainMore(ray);
}

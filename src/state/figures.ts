'use client';
import { useCallback } from 'react';
import { AppError } from '../core/base/diagnostic';
import type { ResultKey } from '../core/base/ids';
import type { OutputFigures } from '../core/evaluate/figures';
import type { Sample } from '../core/explain/example';
import type { PointedRay } from '../core/evaluate/point-explainer';
import type { Transfer } from '../core/evaluate/transfer';
import { unwrap } from '../workers/answer';
import type { Evaluation } from './evaluation';
import { useFollowed } from './use-followed';
import type { Followed } from './use-followed';
import { useDocument } from './use-stores';
import { stores } from './stores';

/** Figures of outputs as the document is now. @param keys separated by line breaks */
export function useFigures(
  evaluation: Evaluation,
  keys: string,
): Followed<readonly OutputFigures[]> {
  const document = useDocument((state) => state.document);
  const ask = useCallback(async () => {
    const { evaluator, documents } = evaluation.pool;
    const { document: now, modelId } = stores.document.getState();
    if (keys === '') return [];
    return unwrap(evaluator.figures(modelId, documents.bring(evaluator, now), keys.split('\n')));
  }, [evaluation, keys]);
  return useFollowed(ask, document);
}

/** How an output depends on another of its board; null where it does not, or none is named. */
export function useTransfer(
  evaluation: Evaluation,
  from: ResultKey | null,
  to: ResultKey | null,
): Followed<Transfer | null> {
  const document = useDocument((state) => state.document);
  const ask = useCallback(async () => {
    const { evaluator, documents } = evaluation.pool;
    const { document: now, modelId } = stores.document.getState();
    if (from === null || to === null) return null;
    return unwrap(evaluator.transfer(modelId, documents.bring(evaluator, now), from, to));
  }, [evaluation, from, to]);
  return useFollowed(ask, document);
}

/** An output as a function of GLSL. @throws WorkerProblem; AppError where there is nothing */
export async function readGlsl(evaluation: Evaluation, key: ResultKey): Promise<string> {
  const { evaluator, documents } = evaluation.pool;
  const { document, modelId } = stores.document.getState();
  const text = await unwrap(evaluator.glsl(modelId, documents.bring(evaluator, document), key));
  if (text !== null) return text;
  throw new AppError('glsl.nothing', 'This output is not there any more.', 'Choose another.');
}

/**
 * What arrives where rays meet the model, or its normal there; rays that meet nothing are left out.
 * @param key null for the normal
 */
export function readRays(
  evaluation: Evaluation,
  key: ResultKey | null,
  rays: readonly PointedRay[],
): Promise<readonly Sample[]> {
  const { evaluator, documents } = evaluation.pool;
  const { document, modelId } = stores.document.getState();
  return unwrap(evaluator.rayValues(modelId, documents.bring(evaluator, document), key, rays));
}

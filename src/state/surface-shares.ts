import { boardAt } from '../core/edit/board';
import type { SharePicture, SurfaceShare } from '../core/evaluate/layer-stack';
import { unwrap } from '../workers/answer';
import type { Evaluation } from './evaluation';
import { stores } from './stores';

/** The open board, brought to the evaluator. */
function openBoard({ pool: { evaluator, documents } }: Evaluation) {
  const { document, modelId } = stores.document.getState();
  const { path, camera } = stores.view.getState();
  const named = documents.bring(evaluator, document);
  return { evaluator, named, modelId, path, camera, board: boardAt(document, path) };
}

/** What of each surface of the open board is seen at its end. @throws WorkerProblem */
export async function readShares(evaluation: Evaluation): Promise<readonly SurfaceShare[]> {
  const { evaluator, named, modelId, path, board } = openBoard(evaluation);
  return unwrap(evaluator.surfaceShares(modelId, named, board, path));
}

/** Where each of them is still seen, as pictures. @throws WorkerProblem */
export async function readSharePictures(
  evaluation: Evaluation,
  size: number,
): Promise<readonly SharePicture[]> {
  const { evaluator, named, modelId, path, camera, board } = openBoard(evaluation);
  if (!camera) return [];
  return unwrap(evaluator.paintShares(modelId, named, board, path, camera, size));
}

import type { BakedTexels } from '@/core/evaluate/bake';
import type { NetworkDocument } from '@/core/graph/document';
import type { Evaluation } from '@/state/evaluation';
import { settled } from '@/workers/pool';

export interface BakeFile { readonly name: string; readonly mediaType: string; readonly bytes: Uint8Array }
const STRIP = 64;

export class BakeStopped extends Error {}

/** Bakes the surface on all workers, strip by strip. Stops between strips when told to. */
export async function bakeMaterial(evaluation: Evaluation, model: string, document: NetworkDocument, size: number, depth: 8 | 16, progress: (label: string, share: number) => void, stopped: () => boolean): Promise<readonly BakeFile[]> {
  progress('Finishing the mesh maps', 0);
  await evaluation.models.finished();
  const strips: BakedTexels[] = [];
  let next = 0, done = 0;
  const labour = async (worker: Evaluation['pool']['evaluator']): Promise<void> => {
    while (next < size) {
      if (stopped()) throw new BakeStopped();
      const from = next;
      const to = Math.min(size, from + STRIP);
      next = to;
      strips.push(...await settled(worker.bakeRows(model, document, size, from, to)));
      done += to - from;
      progress('Evaluating the surface', done / size);
    }
  };
  await Promise.all(evaluation.pool.all.map((worker) => labour(worker)));
  if (stopped()) throw new BakeStopped();
  progress('Writing the files', 1);
  return settled(evaluation.pool.labourer.packageBake(model, document.name || 'Material', size, strips, depth, document.opacityMode));
}

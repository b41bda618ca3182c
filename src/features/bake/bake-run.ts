import { planStrips } from '@/core/evaluate/bake';
import type { BakePlan } from '@/core/evaluate/bake';
import { SURFACE_ENTRIES } from '@/core/nodes/surface-parameters';
import type { PngStrip } from '@/core/exchange/png-strips';
import type { PackagedFile } from '@/core/handoff/exports/define';
import type { HandoffRequest } from '@/core/handoff/formats';
import type { NetworkDocument } from '@/core/graph/document';
import type { Evaluation } from '@/state/evaluation';
import { unwrap } from '@/workers/answer';

export interface BakeResult {
  readonly files: readonly PackagedFile[];
  readonly notes: readonly string[];
  /** What is the same over the whole surface, by the map that holds it. */
  readonly constants: ReadonlyMap<string, number>;
}

/** Maps that hold one value, as far as a few thousand points tell. */
function constantsOf({ values }: BakePlan): ReadonlyMap<string, number> {
  return new Map(
    SURFACE_ENTRIES.flatMap(([name, { map }]) =>
      map && !values[name].isVarying ? [[map.name, values[name].mean] as const] : [],
    ),
  );
}

export class BakeStopped extends Error {}

/**
 * Bakes the surface on all workers, each evaluating and writing strip after strip. Stops between
 * strips when told to.
 */
export async function bakeMaterial(
  evaluation: Evaluation,
  model: string,
  document: NetworkDocument,
  request: HandoffRequest,
  progress: (label: string, share: number) => void,
  stopped: () => boolean,
): Promise<BakeResult> {
  progress('Finishing the mesh maps', 0);
  await evaluation.models.finished();
  const plan = await unwrap(evaluation.pool.background.planBake(model, document, request));
  const rows = planStrips(request.size);
  const strips: (readonly PngStrip[])[] = [];
  let next = 0,
    done = 0;
  const measure = async (worker: Evaluation['pool']['evaluator']): Promise<void> => {
    for (let k = next++; k < rows.length; k = next++) {
      if (stopped()) throw new BakeStopped();
      strips[k] = await unwrap(
        worker.bakeRows(model, document, plan, rows[k] as readonly [number, number]),
      );
      done++;
      progress('Evaluating and writing', done / rows.length);
    }
  };
  await Promise.all(evaluation.pool.all.map((worker) => measure(worker)));
  if (stopped()) throw new BakeStopped();
  progress('Writing the files', 1);
  return {
    files: await unwrap(
      evaluation.pool.background.packageBake(
        model,
        document.name || 'Material',
        plan,
        strips,
        request.formats,
      ),
    ),
    notes: plan.notes,
    constants: constantsOf(plan),
  };
}

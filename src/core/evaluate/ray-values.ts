import type { ResultKey } from '../base/ids';
import { structureKey } from '../compile/structure';
import type { NetworkDocument } from '../graph/document';
import { pointsAt } from '../mesh/sample-points';
import type { LoadedModel } from './loaded-model';
import { FARTHEST } from './pick';
import type { PointedRay } from './point-explainer';
import { EvaluationSession } from './session';

/** Reads one number where rays meet a model; the program is kept while only values change. */
export class RayReader {
  private kept: { readonly key: string; readonly session: EvaluationSession } | null = null;

  /**
   * The first lane of a result where each ray meets the model; rays that meet nothing are left out.
   * @throws CompileError when the document has errors
   */
  read(
    { mesh, analysis, maps }: LoadedModel,
    document: NetworkDocument,
    result: ResultKey,
    rays: readonly PointedRay[],
  ): readonly number[] {
    const key = `${structureKey(document)} ${result}`;
    if (this.kept?.key !== key)
      this.kept = { key, session: new EvaluationSession({ surface: false, taps: [result] }) };
    const cast = Float32Array.from(
      rays.flatMap(({ from, towards }) => [...from, ...towards, FARTHEST, 0]),
    );
    const { triangles, weights } = analysis.kernel.castRays(cast);
    const hits = [...triangles.keys()].filter((k) => (triangles[k] ?? -1) >= 0);
    if (hits.length === 0) return [];
    const points = pointsAt(
      mesh,
      Uint32Array.from(hits, (k) => triangles[k] ?? 0),
      Float32Array.from(hits.flatMap((k) => [weights[k * 2] ?? 0, weights[k * 2 + 1] ?? 0])),
    );
    const [lane] = this.kept.session.evaluate(document, mesh, points, maps);
    return [...(lane ?? [])];
  }
}

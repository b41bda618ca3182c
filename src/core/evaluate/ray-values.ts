import type { ResultKey } from '../base/ids';
import { structureKey } from '../compile/structure';
import type { NetworkDocument } from '../graph/document';
import { normalise } from '../base/vector';
import type { Sample } from '../explain/example';
import { pointsAt } from '../mesh/sample-points';
import type { SamplePoints } from '../mesh/sample-points';
import type { LoadedModel } from './loaded-model';
import { FARTHEST } from './pick';
import type { PointedRay } from './point-explainer';
import { EvaluationSession } from './session';

/** Reads what is where rays meet a model; the program is kept while only values change. */
export class RayReader {
  private kept: { readonly key: string; readonly session: EvaluationSession } | null = null;

  /**
   * The lanes of a result where each ray meets the model, or the unit normal of the surface; rays
   * that meet nothing are left out.
   * @param result null for the normal
   * @throws CompileError when the document has errors
   */
  read(
    { mesh, analysis, maps }: LoadedModel,
    document: NetworkDocument,
    result: ResultKey | null,
    rays: readonly PointedRay[],
  ): readonly Sample[] {
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
    if (result === null) return hits.map((_hit, k) => normalAt(points, k));
    const lanes = this.sessionFor(document, result).evaluate(document, mesh, points, maps);
    return hits.map((_hit, k) => lanes.map((lane) => lane[k] ?? Number.NaN));
  }

  private sessionFor(document: NetworkDocument, result: ResultKey): EvaluationSession {
    const key = `${structureKey(document)} ${result}`;
    if (this.kept?.key !== key)
      this.kept = { key, session: new EvaluationSession({ surface: false, taps: [result] }) };
    return this.kept.session;
  }
}

const normalAt = ({ normals }: SamplePoints, k: number): Sample =>
  normalise([normals[k * 3] ?? 0, normals[k * 3 + 1] ?? 0, normals[k * 3 + 2] ?? 0]);

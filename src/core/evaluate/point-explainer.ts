import { structureKey } from '../compile/structure';
import {
  documentForShares,
  keysForShares,
  measureShares,
  valuesByKey,
} from '../explain/branch-shares';
import type { BranchShares } from '../explain/branch-shares';
import { explainRequest, readExplanation } from '../explain/explain-points';
import type { ExplainedOutput, Explanation } from '../explain/explain-points';
import type { NetworkDocument, Triple } from '../graph/document';
import { pointsAt } from '../mesh/sample-points';
import { FARTHEST } from './pick';
import type { LoadedModel } from './loaded-model';
import { EvaluationSession } from './session';
import { strongestValues } from './strongest-values';
import type { StrongValue } from './strongest-values';

/** Where somebody pointed: from the eye, towards the surface; need not be of unit length. */
export interface PointedRay {
  readonly from: Triple;
  readonly towards: Triple;
}
interface ExplainedPoint {
  readonly place: Triple;
  readonly part: string;
  readonly ray: number;
}
/** What makes the surface at the points that rays meet. */
export interface ExplainedPoints extends Explanation {
  /** For each point: where it is, metres, its part, and which of the rays meets it. */
  readonly points: readonly ExplainedPoint[];
}

type Columns = Pick<ExplainedOutput, 'channels' | 'values'>;
const joined = <T extends Columns>(first: T, others: readonly Columns[]): T => ({
  ...first,
  values: [...first.values, ...others.flatMap(({ values }) => values)],
});

/** Explains points of a model; the program is kept while only values change. */
export class PointExplainer {
  private kept: { readonly key: string; readonly session: EvaluationSession } | null = null;

  private readonly surface = new EvaluationSession({ surface: true, taps: [] });
  private keptShares: { readonly key: string; readonly session: EvaluationSession } | null = null;

  /**
   * What each branch contributes at the points that rays meet, in their order.
   * @returns null where no ray meets the model
   * @throws CompileError when the document has errors
   */
  shares(
    model: LoadedModel,
    document: NetworkDocument,
    rays: readonly PointedRay[],
  ): BranchShares | null {
    const key = structureKey(document);
    if (this.keptShares?.key !== key) {
      const request = { surface: false, taps: keysForShares(document) };
      this.keptShares = { key, session: new EvaluationSession(request) };
    }
    const { session } = this.keptShares;
    const whole = documentForShares(document);
    const compiled = session.prepare(whole);
    const each = rays.flatMap((ray) => {
      const found = meet(model, ray);
      if (!found) return [];
      const lanes = session.evaluate(whole, model.mesh, found.at, model.maps, { isExact: true });
      return [measureShares(document, valuesByKey(compiled, lanes), 1)];
    });
    return each.length === 0 ? null : beside(each);
  }

  /**
   * What would change the shown colour most at the point a ray meets.
   * @returns nothing where the ray meets nothing
   * @throws CompileError when the document has errors
   */
  strongest(
    model: LoadedModel,
    document: NetworkDocument,
    ray: PointedRay,
  ): readonly StrongValue[] {
    const found = meet(model, ray);
    return found ? strongestValues(this.surface, model, document, found.at, ray.from) : [];
  }

  private sessionFor(document: NetworkDocument): EvaluationSession {
    const key = structureKey(document);
    if (this.kept?.key !== key)
      this.kept = { key, session: new EvaluationSession(explainRequest(document)) };
    return this.kept.session;
  }

  /**
   * @returns what the rays meet, those that meet nothing left out; null where none does
   * @throws CompileError when the document has errors
   */
  explain(
    model: LoadedModel,
    document: NetworkDocument,
    rays: readonly PointedRay[],
  ): ExplainedPoints | null {
    const session = this.sessionFor(document);
    const compiled = session.prepare(document);
    // One by one: what follows the view is seen from where each was pointed at.
    const each = rays.flatMap((ray, k) => {
      const found = meet(model, ray);
      if (!found) return [];
      const lanes = session.evaluate(document, model.mesh, found.at, model.maps, { isExact: true });
      const point = { ...found.point, ray: k };
      return [{ point, ...readExplanation(document, compiled, lanes) }];
    });
    const [first, ...others] = each;
    if (!first) return null;
    return {
      points: each.map(({ point }) => point),
      surface: joined(
        first.surface,
        others.map(({ surface }) => surface),
      ),
      outputs: first.outputs.map((output, k) =>
        joined(
          output,
          others.flatMap(({ outputs }) => outputs[k] ?? []),
        ),
      ),
    };
  }
}

/** Shares at single points as columns beside each other. */
function beside(each: readonly BranchShares[]): BranchShares {
  const columns = <K>(of: (shares: BranchShares) => ReadonlyMap<K, readonly number[]>) => {
    const keys = new Set(each.flatMap((shares) => [...of(shares).keys()]));
    return new Map(
      [...keys].map((key) => [key, each.map((shares) => of(shares).get(key)?.[0] ?? 0)]),
    );
  };
  return { outputs: columns(({ outputs }) => outputs), strands: columns(({ strands }) => strands) };
}

/** Where a ray meets a model first; null for nowhere. */
function meet({ mesh, analysis }: LoadedModel, { from, towards }: PointedRay) {
  const { triangles, weights } = analysis.kernel.castRays(
    Float32Array.of(...from, ...towards, FARTHEST, 0),
  );
  const triangle = triangles[0] ?? -1;
  if (triangle < 0) return null;
  const at = pointsAt(mesh, Uint32Array.of(triangle), weights, { eye: from, pixelRad: 0 });
  const [x = 0, y = 0, z = 0] = at.positions;
  const place: Triple = [x, y, z];
  return { at, point: { place, part: mesh.partNames[mesh.parts[triangle] ?? 0] ?? '' } };
}

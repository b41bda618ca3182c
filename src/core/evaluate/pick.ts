import type { ResultKey } from '../base/ids';
import type { NetworkDocument, Triple, ValueKind } from '../graph/document';
import { pointsAt } from '../mesh/sample-points';
import type { LoadedModel } from './loaded-model';
import { EvaluationSession } from './session';

/** How far a picking ray looks, metres. */
export const FARTHEST = 1e30;

/**
 * What a ray meets first: where, which way the surface faces, whose part it is, and what the stage
 * shows there.
 */
export interface Picked {
  /** Metres, in the model's own space. */
  readonly place: Triple;
  /** Unit length. */
  readonly normal: Triple;
  readonly part: string;
  readonly kind: ValueKind;
  /** The pinned output, or the finished surface's base colour (linear Rec. 709). */
  readonly value: readonly number[];
}

const first = (values: Float32Array): Triple => [values[0] ?? 0, values[1] ?? 0, values[2] ?? 0];

/**
 * @param towards need not be of unit length
 * @returns null where the ray meets nothing
 * @throws CompileError when the document has errors
 */
export function pickPoint(
  model: LoadedModel,
  document: NetworkDocument,
  pin: ResultKey | null,
  from: Triple,
  towards: Triple,
): Picked | null {
  const { mesh, analysis } = model;
  const { triangles, weights } = analysis.kernel.castRays(
    Float32Array.of(...from, ...towards, FARTHEST, 0),
  );
  const triangle = triangles[0] ?? -1;
  if (triangle < 0) return null;
  const points = pointsAt(mesh, Uint32Array.of(triangle), weights, { eye: from, pixelRad: 0 });
  const session = new EvaluationSession({
    surface: pin === null,
    taps: pin === null ? [] : [pin],
    antialias: [],
  });
  const slot = session.prepare(document).slots[0];
  const lanes = session.evaluate(document, mesh, points, model.maps, { isExact: true });
  const [start, count] = pin === null ? [0, 3] : [slot?.first ?? 0, slot?.lanes ?? 0];
  return {
    place: first(points.positions),
    normal: first(points.normals),
    part: mesh.partNames[mesh.parts[triangle] ?? 0] ?? '',
    kind: pin === null ? 'colour' : (slot?.kind ?? 'scalar'),
    value: lanes.slice(start, start + count).map((lane) => lane[0] ?? 0),
  };
}

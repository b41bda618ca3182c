import type { ImageHash, ModelId, ResultKey } from '../base/ids';
import type { CompanionFrame } from '../compile/model-scale';
import type { NetworkDocument, ValueKind } from '../graph/document';
import { pointsAt } from '../mesh/sample-points';
import type { SampleExtent, SamplePoints } from '../mesh/sample-points';
import { PLAIN_LANES } from '../surface/stage-layout';
import type { LoadedModel } from './loaded-model';
import { EvaluationSession } from './session';
import { ANTIALIASED_ON_STAGE } from './stage-program';

/** Values wanted at surface points, for a stage without a fast graphics processor. */
export interface FillRequest {
  /** Names one model on the stage, whose compiled network and points are reused. */
  readonly subject: string;
  readonly frame?: CompanionFrame;
  /** Whether every lane of the surface is wanted, or only those of plain ones. */
  readonly isWhole?: boolean;
  readonly sample?: SampleExtent;
  readonly model: ModelId;
  readonly document: NetworkDocument;
  readonly pin: ResultKey | null;
  /** Images that are on their way: what depends on them is not known yet. */
  readonly waiting?: readonly ImageHash[];
  /** The name of the points; its first word names the place they are cached in. */
  readonly version: string;
  readonly triangles: Uint32Array;
  /** Barycentric weights of the second and third corner, two per point. */
  readonly weights: Float32Array;
}
/** Lanes of a result, one value a point in each; the buffers are the caller's to transfer. */
export interface FillResult {
  readonly kind: ValueKind;
  /** Whether all that it depends on is there; else the lanes mean nothing. */
  readonly isKnown: boolean;
  readonly lanes: readonly Float32Array<ArrayBuffer>[];
}

interface Filling {
  readonly pin: ResultKey | null;
  readonly session: EvaluationSession;
  readonly points: Map<string, { readonly key: string; readonly points: SamplePoints }>;
}

/** Fills the stage's buffer; what each subject needs again is cached until it leaves. */
export class StageFiller {
  private readonly fillings = new Map<string, Filling>();

  private fillingOf(subject: string, pin: ResultKey | null): Filling {
    const known = this.fillings.get(subject);
    if (known?.pin === pin) return known;
    const made: Filling = {
      pin,
      session: new EvaluationSession({
        surface: pin === null,
        taps: pin === null ? [] : [pin],
        antialias: ANTIALIASED_ON_STAGE,
      }),
      points: known?.points ?? new Map<string, { key: string; points: SamplePoints }>(),
    };
    this.fillings.set(subject, made);
    return made;
  }

  /** @returns lanes that the caller owns @throws CompileError when the document has errors */
  fill(model: LoadedModel, request: Omit<FillRequest, 'model'> & { model: ModelId }): FillResult {
    const { document, pin, frame, isWhole = false } = request;
    const { session, points } = this.fillingOf(request.subject, pin);
    const slot = request.version.split(' ')[0] ?? '';
    const key = `${request.model} ${request.version}`;
    let known = points.get(slot);
    if (known?.key !== key) {
      const { triangles, weights, sample } = request;
      known = { key, points: pointsAt(model.mesh, triangles, weights, sample) };
      points.set(slot, known);
    }
    const compiled = session.prepare(document);
    const lanes = session.evaluate(document, model.mesh, known.points, model.maps, {
      wanted: pin === null && !isWhole ? PLAIN_LANES : undefined,
      frame,
    });
    const isKnown = session.unknown(document, model.mesh, model.maps, request).size === 0;
    return { kind: compiled.slots[0]?.kind ?? 'scalar', isKnown, lanes };
  }

  /** A model left the stage. @returns whether anything was cached for it */
  leave(subject: string): boolean {
    return this.fillings.delete(subject);
  }
}

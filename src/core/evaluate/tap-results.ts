import type { ModelId, ResultKey } from '../base/ids';
import type { ImageReading } from '../compile/images';
import type { OutputSlot } from '../compile/compile';
import { findNode, getInputValue } from '../compile/uniforms';
import type { NetworkDocument, ValueKind } from '../graph/document';
import { parseResultKey } from '../graph/result-key';
import { SURFACE_LANES } from '../nodes/surface-parameters';
import { computeAppearance } from '../surface/stage-layout';
import type { Appearance } from '../surface/stage-layout';
import type { Camera } from './camera';
import { sceneLighting } from './lighting';
import type { LoadedModel } from './loaded-model';
import { paintSurface, paintValues } from './picture';
import type { Picture } from './picture';
import { EvaluationSession, withNested } from './session';
import type { NestedDemand } from './session';
import { describeValues, histogram } from './statistics';
import type { Statistics } from './statistics';

/** One result of a network on a model: what the cards and the bench show of it. */
export interface TapResult {
  readonly key: ResultKey;
  readonly kind: ValueKind;
  /** Over points spread evenly over the model; null for a surface. */
  readonly statistics: Statistics | null;
  readonly picture: Picture;
  /** Of scalars only. */
  readonly histogram: Uint32Array | null;
}
/** Which results of a document are wanted as figures and pictures. */
export interface EvaluationRequest {
  readonly model: ModelId;
  readonly document: NetworkDocument;
  readonly taps: readonly ResultKey[];
  readonly camera: Camera;
  /** Side of the pictures, pixels. */
  readonly size: number;
}
/** The results, and what the network needs of maps, images and the stage. */
export interface EvaluationResult {
  readonly taps: readonly TapResult[];
  /** The maps the network reads on this model, those that others need first before them. */
  readonly demands: readonly NestedDemand[];
  readonly compilations: number;
  readonly kinds: ReadonlyMap<ResultKey, ValueKind>;
  /** What the finished surface needs of the stage. */
  readonly appearance: Appearance;
  /** How each node's image is read, by its path. */
  readonly readings: readonly (readonly [string, ImageReading])[];
}

const HISTOGRAM_BINS = 64;

/** The ends a histogram runs between: those of the ramp the values arrive at, else 0 and 1. */
export function histogramDomain(
  document: NetworkDocument,
  key: ResultKey,
): readonly [number, number] {
  const { path, end, port } = parseResultKey(key);
  const node = end === 'input' && port === 'value' ? findNode(document, path) : undefined;
  const ends =
    node?.type === 'gradients.ramp' ? [getInputValue(node, 'from'), getInputValue(node, 'to')] : [];
  const [from, to] = ends;
  return typeof from === 'number' && typeof to === 'number' && from < to ? [from, to] : [0, 1];
}

function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | null = null;
  return () => (made ??= { value: make() }).value;
}

/** Evaluates the results that are shown; the compiled network is reused while it serves. */
export class TapEvaluator {
  private last: { readonly key: string; readonly session: EvaluationSession } | null = null;

  private sessionFor(taps: readonly ResultKey[]): EvaluationSession {
    const key = taps.join('|');
    if (this.last?.key !== key)
      this.last = {
        key,
        session: new EvaluationSession({ surface: true, taps, antialias: ['images'] }),
      };
    return this.last.session;
  }

  /** @throws CompileError with all findings when the document has errors */
  evaluate(
    model: LoadedModel,
    { document, taps, camera, size }: Omit<EvaluationRequest, 'model'>,
  ): EvaluationResult {
    const session = this.sessionFor(taps);
    const compiled = session.prepare(document);
    const { points: seen, spread: points } = model.see(camera, size);
    const shown = session.evaluate(document, model.mesh, seen.points, model.maps);
    const spread = session.evaluate(document, model.mesh, points, model.maps);
    const lighting = once(() => sceneLighting(document, model.analysis, seen.points));
    const describe = (slot: OutputSlot): TapResult => {
      const { key, kind, first, lanes } = slot;
      const [seenLanes, spreadLanes] = [shown, spread].map((all) =>
        all.slice(first, first + lanes),
      );
      const isSurface = kind === 'surface';
      return {
        key,
        kind,
        picture: isSurface
          ? paintSurface(seen, seenLanes ?? [], lighting())
          : paintValues(seen, seenLanes ?? [], kind === 'colour'),
        statistics: isSurface ? null : describeValues(spreadLanes ?? []),
        histogram:
          kind === 'scalar'
            ? histogram(
                spreadLanes?.[0] ?? new Float32Array(),
                HISTOGRAM_BINS,
                ...histogramDomain(document, key),
              )
            : null,
      };
    };
    return {
      taps: compiled.slots.filter((slot) => slot.key !== 'surface').map(describe),
      demands: withNested(session.demands(document, model.mesh), model.mesh),
      compilations: session.compilations,
      kinds: compiled.kinds,
      appearance: computeAppearance(spread.slice(0, SURFACE_LANES.length)),
      readings: compiled.imageSlots.map(({ path, reading }) => [path.join('/'), reading]),
    };
  }
}

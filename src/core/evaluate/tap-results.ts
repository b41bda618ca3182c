import type { ImageHash, ModelId, NodeId, ResultKey } from '../base/ids';
import type { CompiledNetwork } from '../compile/compile';
import type { ImageReading } from '../compile/images';
import { findNode, getInputValue } from '../compile/uniforms';
import type { NetworkDocument, ValueKind } from '../graph/document';
import { parseResultKey } from '../graph/result-key';
import { SURFACE_LANES } from '../nodes/surface-parameters';
import { computeAppearance } from '../surface/stage-layout';
import type { Appearance } from '../surface/stage-layout';
import { boardTaps } from './board-taps';
import type { Camera } from './camera';
import { sceneLighting } from './lighting';
import type { LoadedModel } from './loaded-model';
import { paintSurface, paintUnknown, paintValues } from './picture';
import type { Picture } from './picture';
import { EvaluationSession, withNested } from './session';
import type { NestedDemand } from './session';
import { describeValues, histogram } from './statistics';
import type { Statistics } from './statistics';

/** One result of a network on a model: what the cards and the bench show of it. */
export interface TapResult {
  readonly key: ResultKey;
  readonly kind: ValueKind;
  /**
   * Whether all that it depends on is there; until then its picture is hatched, and there are no
   * figures.
   */
  readonly isKnown: boolean;
  /** Over points spread evenly over the model; null for a surface, and while it is not known. */
  readonly statistics: Statistics | null;
  readonly picture: Picture;
  /** Of scalars only. */
  readonly histogram: Uint32Array | null;
}
/** Which results of a document are wanted as figures and pictures. */
export interface EvaluationRequest {
  readonly model: ModelId;
  readonly document: NetworkDocument;
  /** The group nodes that lead to the open board: what maps all its cards read is told. */
  readonly path: readonly NodeId[];
  /** Those that are wanted now. */
  readonly taps: readonly ResultKey[];
  /** Whether what the finished surface needs of the stage is wanted, too. */
  readonly surface: boolean;
  readonly camera: Camera;
  /** Side of the pictures, pixels. */
  readonly size: number;
  /** Images that are on their way: what depends on them is not known yet. */
  readonly waiting?: readonly ImageHash[];
}
/** The results, and what the network needs of maps, images and the stage. */
export interface EvaluationResult {
  readonly taps: readonly TapResult[];
  /** The maps the network reads on this model, those that others need first before them. */
  readonly demands: readonly NestedDemand[];
  /** How often the board was compiled. */
  readonly compilations: number;
  /** What travels on the board; null while it is as it was told before. */
  readonly ports: BoardPorts | null;
  /**
   * What the finished surface needs of the stage; null where that was not asked for, and while it
   * is not known.
   */
  readonly appearance: Appearance | null;
}

/** What the structure of a board decides of its strands and images. */
export interface BoardPorts {
  readonly kinds: ReadonlyMap<ResultKey, ValueKind>;
  /** How each node's image is read, by its path. */
  readonly readings: ReadonlyMap<string, ImageReading>;
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

/** Programs of some results of a board that are kept. */
const PROGRAMS = 8;
/** Results of a larger program are taken where it is at most so much larger. */
const LARGER = { times: 2, plus: 8 } as const;

interface SomeResults {
  readonly taps: ReadonlySet<ResultKey>;
  readonly session: EvaluationSession;
}

/**
 * Evaluates the results that are wanted. The board as a whole is compiled, but not run, for the
 * maps and images it reads; what is run are programs of those results only.
 */
export class TapEvaluator {
  private board: { readonly key: string; readonly session: EvaluationSession } | null = null;
  private some: SomeResults[] = [];
  private readonly surface = makeSession([], true);
  private told: CompiledNetwork | null = null;

  private boardSession(keys: readonly ResultKey[]): EvaluationSession {
    const key = keys.join('|');
    if (this.board?.key !== key) this.board = { key, session: makeSession(keys, true) };
    return this.board.session;
  }

  /** A program that has all these results, and not many more; the newest ones are kept. */
  private sessionFor(wanted: readonly ResultKey[]): SomeResults {
    const most = wanted.length * LARGER.times + LARGER.plus;
    const known = this.some.find(
      ({ taps }) => taps.size <= most && wanted.every((key) => taps.has(key)),
    );
    const found = known ?? { taps: new Set(wanted), session: makeSession(wanted, false) };
    this.some = [found, ...this.some.filter((each) => each !== found)].slice(0, PROGRAMS);
    return found;
  }

  /** @throws CompileError with all findings when the document has errors */
  evaluate(model: LoadedModel, request: Omit<EvaluationRequest, 'model'>): EvaluationResult {
    const { document, path, taps } = request;
    const whole = this.boardSession(boardTaps(document, path));
    const compiled = whole.prepare(document);
    const isTold = this.told === compiled;
    this.told = compiled;
    return {
      taps: taps.length > 0 ? this.describe(model, request) : [],
      demands: withNested(whole.demands(document, model.mesh), model.mesh),
      compilations: whole.compilations,
      ports: isTold ? null : portsOf(compiled),
      appearance: request.surface ? this.appearance(model, request) : null,
    };
  }

  private appearance(
    model: LoadedModel,
    request: Pick<EvaluationRequest, 'document' | 'camera' | 'size' | 'waiting'>,
  ): Appearance | null {
    const { document, camera, size } = request;
    if (this.surface.unknown(document, model.mesh, model.maps, request).size > 0) return null;
    const { spread } = model.see(camera, size);
    const lanes = this.surface.evaluate(document, model.mesh, spread, model.maps);
    return computeAppearance(lanes.slice(0, SURFACE_LANES.length));
  }

  private describe(model: LoadedModel, request: Omit<EvaluationRequest, 'model'>): TapResult[] {
    const { document, taps, camera, size } = request;
    const { session } = this.sessionFor(taps);
    const compiled = session.prepare(document);
    const asked = new Set(taps);
    const slots = compiled.slots.filter(({ key }) => asked.has(key));
    const wanted = new Set(
      slots.flatMap(({ first, lanes }) => Array.from({ length: lanes }, (_, k) => first + k)),
    );
    const { points: seen, spread } = model.see(camera, size);
    const shown = session.evaluate(document, model.mesh, seen.points, model.maps, { wanted });
    const figures = session.evaluate(document, model.mesh, spread, model.maps, { wanted });
    const unknown = session.unknown(document, model.mesh, model.maps, request);
    const lighting = once(() => sceneLighting(document, model.analysis, seen.points));
    return slots.map(({ key, kind, first, lanes }) => {
      const [seenLanes = [], spreadLanes = []] = [shown, figures].map((all) =>
        all.slice(first, first + lanes),
      );
      const isKnown = !unknown.has(key);
      return {
        key,
        kind,
        isKnown,
        picture: !isKnown
          ? paintUnknown(seen)
          : kind === 'surface'
            ? paintSurface(seen, seenLanes, lighting())
            : paintValues(seen, seenLanes, kind === 'colour'),
        statistics: kind === 'surface' || !isKnown ? null : describeValues(spreadLanes),
        histogram:
          kind === 'scalar' && isKnown
            ? histogram(
                spreadLanes[0] ?? new Float32Array(),
                HISTOGRAM_BINS,
                ...histogramDomain(document, key),
              )
            : null,
      };
    });
  }
}

const portsOf = ({ kinds, imageSlots }: CompiledNetwork): BoardPorts => ({
  kinds,
  readings: new Map(imageSlots.map(({ path, reading }) => [path.join('/'), reading])),
});

const makeSession = (taps: readonly ResultKey[], surface: boolean): EvaluationSession =>
  new EvaluationSession({ surface, taps, antialias: ['images'] });

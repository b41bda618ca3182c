import { parseResultKey } from '../core/graph/result-key';
import * as Comlink from 'comlink';
import { AppError } from '../core/base/diagnostic';
import { checkCompiled } from '../core/compile/compile';
import { findNode, valueOf } from '../core/compile/uniforms';
import { bakeRows, makeBakeSession, planBake } from '../core/evaluate/bake';
import type { BakePlan } from '../core/evaluate/bake';
import { seePoints } from '../core/evaluate/camera';
import type { Camera, VisiblePoints } from '../core/evaluate/camera';
import { NO_IMAGE } from '../core/base/image';
import type { ImageReading } from '../core/compile/images';
import { threadImages } from '../core/evaluate/image-store';
import type { ImageFacts } from '../core/evaluate/image-store';
import { drawOutput } from '../core/evaluate/draw';
import { sceneLighting } from '../core/evaluate/lighting';
import { drawModelLook } from '../core/evaluate/model-looks';
import { paintSurface, paintValues } from '../core/evaluate/picture';
import type { Picture } from '../core/evaluate/picture';
import { proveGroup } from '../core/evaluate/proof';
import type { Proof } from '../core/evaluate/proof';
import { EVENED_ON_STAGE, makeStageProgram } from '../core/evaluate/stage-program';
import { EvaluationSession, detailNormals, withNested } from '../core/evaluate/session';
import type { DetailRequest, NestedDemand } from '../core/evaluate/session';
import { describeValues, histogram } from '../core/evaluate/statistics';
import type { Statistics } from '../core/evaluate/statistics';
import type { DecodedImage } from '../core/exchange/image-types';
import type { ModelPreparation } from '../core/exchange/prepare';
import { readModel } from '../core/exchange/read-model';
import type { PngStrip } from '../core/exchange/png-strips';
import type { Standing } from '../core/compile/model-scale';
import type { NetworkDocument, Triple, ValueKind } from '../core/graph/document';
import { MeshAnalysis, mapKey } from '../core/mesh/analysis';
import type { DetailSource, MapSettings } from '../core/mesh/analysis';
import { diagnose } from '../core/mesh/diagnose';
import type { MeshMap } from '../core/mesh/mesh-map';
import { pointsAt, uniformPoints } from '../core/mesh/sample-points';
import type { SampleExtent, SamplePoints } from '../core/mesh/sample-points';
import { factsOf } from '../core/mesh/mesh-facts';
import { buffersOf, stageArrays } from '../core/mesh/stage-arrays';
import type { LaidOut } from '../core/mesh/stage-arrays';
import type { SurfaceMesh } from '../core/mesh/surface-mesh';
import { SURFACE_LANES } from '../core/nodes/surface-parameters';
import { PLAIN_LANES, PLAIN_TARGETS, appearanceOf } from '../core/surface/stage-layout';
import type { Appearance } from '../core/surface/stage-layout';
import { attempt } from './answer';
import type { Answer } from './answer';
import { live } from './life';

export interface TapResult {
  readonly key: string;
  readonly kind: ValueKind;
  readonly statistics: Statistics | null;
  readonly picture: Picture;
  readonly histogram: Uint32Array | null;
}
export interface EvaluationResult {
  readonly taps: readonly TapResult[];
  readonly demands: readonly NestedDemand[];
  readonly compilations: number;
  readonly kinds: ReadonlyMap<string, ValueKind>;
  readonly appearance: Appearance;
  readonly readings: readonly (readonly [string, ImageReading])[];
}
export interface EvaluationRequest {
  readonly model: string;
  readonly document: NetworkDocument;
  readonly taps: readonly string[];
  readonly camera: Camera;
  readonly size: number;
}

interface LoadedModel {
  readonly analysis: MeshAnalysis;
  readonly uniform: SamplePoints;
  readonly maps: Map<string, MeshMap>;
  seen: { key: string; points: VisiblePoints; spread: SamplePoints } | null;
}
const models = new Map<string, LoadedModel>();
const HISTOGRAM_BINS = 64;
const STATISTICS_POINTS = 4096;
/** How far a picking ray looks, metres. */
const FARTHEST = 1e30;
let session: { key: string; session: EvaluationSession } | null = null;

function loaded(id: string): LoadedModel {
  const model = models.get(id);
  if (!model)
    throw new AppError(
      'worker.no-model',
      'The model is not loaded in this worker.',
      'Reload the page.',
    );
  return model;
}

function adopt(id: string, mesh: SurfaceMesh): void {
  if (!models.has(id))
    models.set(id, {
      analysis: new MeshAnalysis(mesh),
      uniform: uniformPoints(mesh, STATISTICS_POINTS),
      maps: new Map(),
      seen: null,
    });
}

function sessionFor(taps: readonly string[]): EvaluationSession {
  const key = taps.join('|');
  if (session?.key !== key)
    session = {
      key,
      session: new EvaluationSession({ surface: true, taps, evensOut: ['images'] }),
    };
  return session.session;
}

function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | null = null;
  return () => (made ??= { value: make() }).value;
}

/** The ends a histogram runs between: those of the ramp the values arrive at, else 0 and 1. */
function domainOf(document: NetworkDocument, key: string): readonly [number, number] {
  const { path, end, port } = parseResultKey(key);
  const node = end === 'input' && port === 'value' ? findNode(document, path) : undefined;
  const ends = node?.type === 'gradients.ramp' ? [valueOf(node, 'from'), valueOf(node, 'to')] : [];
  const [from, to] = ends;
  return typeof from === 'number' && typeof to === 'number' && from < to ? [from, to] : [0, 1];
}

function evaluate({
  model: id,
  document,
  taps,
  camera,
  size,
}: EvaluationRequest): EvaluationResult {
  const model = loaded(id);
  const { mesh } = model.analysis;
  const used = sessionFor(taps);
  const compiled = used.prepare(document);
  const maps = (settings: MapSettings): MeshMap | undefined => model.maps.get(mapKey(settings));
  const seenKey = JSON.stringify([camera, size]);
  if (model.seen?.key !== seenKey)
    model.seen = {
      key: seenKey,
      points: seePoints(model.analysis, camera, size, size),
      spread: { ...model.uniform, sample: { eye: camera.eye, pixelRad: 0 } },
    };
  const seen = model.seen.points;
  const shown = used.evaluate(document, mesh, seen.points, maps);
  const spread = used.evaluate(document, mesh, model.seen.spread, maps);
  const lighting = once(() => sceneLighting(document, model.analysis, seen.points));
  const results = compiled.slots
    .filter((slot) => slot.key !== 'surface')
    .map((slot): TapResult => {
      const part = (lanes: readonly Float32Array[]): readonly Float32Array[] =>
        lanes.slice(slot.first, slot.first + slot.lanes);
      const isSurface = slot.kind === 'surface';
      return {
        key: slot.key,
        kind: slot.kind,
        picture: isSurface
          ? paintSurface(seen, part(shown), lighting())
          : paintValues(seen, part(shown), slot.kind === 'colour'),
        statistics: isSurface ? null : describeValues(part(spread)),
        histogram:
          slot.kind === 'scalar'
            ? histogram(
                spread[slot.first] as Float32Array,
                HISTOGRAM_BINS,
                ...domainOf(document, slot.key),
              )
            : null,
      };
    });
  const demands = withNested(used.demands(document, mesh), mesh);
  return {
    taps: results,
    demands,
    compilations: used.compilations,
    kinds: compiled.kinds,
    appearance: appearanceOf(spread.slice(0, SURFACE_LANES.length)),
    readings: compiled.imageSlots.map(({ path, reading }) => [path.join('/'), reading]),
  };
}

/**
 * `subject` names one model on the stage, whose compiled network and points are kept from one
 * filling to the next.
 */
interface FillRequest {
  readonly subject: string;
  readonly standing?: Standing;
  readonly isWhole?: boolean;
  readonly sample?: SampleExtent;
  readonly model: string;
  readonly document: NetworkDocument;
  readonly pin: string | null;
  readonly version: string;
  readonly triangles: Uint32Array;
  readonly weights: Float32Array;
}
export interface FillResult {
  readonly kind: ValueKind;
  readonly lanes: readonly Float32Array<ArrayBuffer>[];
}
interface Filling {
  readonly pin: string | null;
  readonly session: EvaluationSession;
  readonly points: Map<string, { readonly key: string; readonly points: SamplePoints }>;
}
const fillings = new Map<string, Filling>();

function fillingOf(subject: string, pin: string | null): Filling {
  const known = fillings.get(subject);
  if (known?.pin === pin) return known;
  const made: Filling = {
    pin,
    session: new EvaluationSession({
      surface: pin === null,
      taps: pin === null ? [] : [pin],
      evensOut: EVENED_ON_STAGE,
    }),
    points:
      known?.points ?? new Map<string, { readonly key: string; readonly points: SamplePoints }>(),
  };
  fillings.set(subject, made);
  return made;
}

/**
 * Values of the finished surface, or of a pinned output, at given points; for a stage without a
 * fast graphics processor.
 */
function fill({
  subject,
  standing,
  model: id,
  document,
  pin,
  version,
  triangles,
  weights,
  sample,
  isWhole = false,
}: FillRequest): FillResult {
  const model = loaded(id);
  const { session: filling, points } = fillingOf(subject, pin);
  const slot = version.split(' ')[0] ?? '';
  let kept = points.get(slot);
  if (kept?.key !== `${id} ${version}`) {
    kept = {
      key: `${id} ${version}`,
      points: pointsAt(model.analysis.mesh, triangles, weights, sample),
    };
    points.set(slot, kept);
  }
  const compiled = filling.prepare(document);
  const lanes = filling.evaluate(
    document,
    model.analysis.mesh,
    kept.points,
    (settings) => model.maps.get(mapKey(settings)),
    { wanted: pin === null && !isWhole ? PLAIN_LANES : undefined, standing },
  );
  return Comlink.transfer(
    { kind: compiled.slots[0]?.kind ?? 'scalar', lanes },
    lanes.map((lane) => lane.buffer),
  );
}

/** What a network needs on a model beside the current one. */
export interface Survey {
  readonly demands: readonly NestedDemand[];
  readonly appearance: Appearance;
}
function survey(
  id: string,
  document: NetworkDocument,
  pin: string | null,
  standing: Standing,
): Survey {
  const model = loaded(id);
  const { mesh } = model.analysis;
  const surveying = new EvaluationSession({
    surface: true,
    taps: pin === null ? [] : [pin],
    evensOut: ['images'],
  });
  const lanes = surveying.evaluate(
    document,
    mesh,
    model.uniform,
    (settings) => model.maps.get(mapKey(settings)),
    { standing },
  );
  return {
    demands: withNested(surveying.demands(document, mesh, standing), mesh),
    appearance: appearanceOf(lanes.slice(0, SURFACE_LANES.length)),
  };
}

/**
 * What a ray meets first: where, which way the surface faces, whose part it is, and what the stage
 * shows there.
 */
export interface Picked {
  readonly place: Triple;
  readonly normal: Triple;
  readonly part: string;
  readonly kind: ValueKind;
  readonly value: readonly number[];
}

/**
 * @returns null where the ray meets nothing; `value` holds the pinned output, or the finished
 *   surface's base colour
 */
function pick(
  id: string,
  document: NetworkDocument,
  pin: string | null,
  from: Triple,
  towards: Triple,
): Picked | null {
  const model = loaded(id);
  const { mesh } = model.analysis;
  const { triangles, weights } = model.analysis.kernel.castRays(
    Float32Array.of(...from, ...towards, FARTHEST, 0),
  );
  const triangle = triangles[0] ?? -1;
  if (triangle < 0) return null;
  const points = pointsAt(mesh, Uint32Array.of(triangle), weights);
  const evaluation = new EvaluationSession({
    surface: pin === null,
    taps: pin === null ? [] : [pin],
    evensOut: [],
  });
  const slot = evaluation.prepare(document).slots[0];
  const lanes = evaluation.evaluate(
    document,
    mesh,
    { ...points, sample: { eye: from, pixelRad: 0 } },
    (settings) => model.maps.get(mapKey(settings)),
  );
  const three = (values: Float32Array): Triple => [values[0] ?? 0, values[1] ?? 0, values[2] ?? 0];
  const shown =
    pin === null
      ? lanes.slice(0, 3)
      : lanes.slice(slot?.first ?? 0, (slot?.first ?? 0) + (slot?.lanes ?? 0));
  return {
    place: three(points.positions),
    normal: three(points.normals),
    part: mesh.partNames[mesh.parts[triangle] ?? 0] ?? '',
    kind: pin === null ? 'colour' : (slot?.kind ?? 'scalar'),
    value: shown.map((lane) => lane[0] ?? 0),
  };
}

/** One picture of one output, for comparing settings. */
function picture(
  id: string,
  document: NetworkDocument,
  key: string,
  camera: Camera,
  size: number,
): Picture {
  const model = loaded(id);
  const seen = seePoints(model.analysis, camera, size * 2, size * 2);
  return drawOutput(document, key, model.analysis, seen, (settings) =>
    model.maps.get(mapKey(settings)),
  );
}

const toldBy = (model: LoadedModel, detail: DetailRequest | undefined): DetailSource | undefined =>
  detail &&
  detailNormals(detail, model.analysis.mesh, (settings) => model.maps.get(mapKey(settings)));

const dracoBinary = async (): Promise<ArrayBuffer> =>
  (await fetch(new URL('draco3d/draco_decoder.wasm', import.meta.url))).arrayBuffer();

const baking = makeBakeSession();

const bytesOf = async (file: Blob): Promise<Uint8Array<ArrayBuffer>> =>
  new Uint8Array(await file.arrayBuffer());

/** Models on their way from another worker; whatever is asked next waits for them. */
let arrivals: Promise<unknown> = Promise.resolve();
const forgoing = new Map<string, () => void>();
const answer = async <T>(work: () => T | Promise<T>): Promise<Answer<T>> => {
  await arrivals;
  return attempt(work);
};

const api = {
  live,
  loadModel: (id: string, file: Blob, name: string, preparation: ModelPreparation = {}) =>
    answer(async () => {
      const imported = await readModel(await bytesOf(file), name, { dracoBinary, preparation });
      adopt(id, imported.mesh);
      return { facts: factsOf(imported.mesh), notes: imported.notes };
    }),
  /** Sends a model to another worker; the page never holds its arrays. */
  giveModel: (id: string, port: MessagePort) =>
    answer(() => {
      port.postMessage(loaded(id).analysis.mesh);
      return true;
    }),
  takeModel: (id: string, port: MessagePort) =>
    attempt(() => {
      const arrival = new Promise<SurfaceMesh | null>((resolve) => {
        port.onmessage = ({ data }: MessageEvent<SurfaceMesh>) => {
          resolve(data);
        };
        forgoing.set(id, () => {
          resolve(null);
        });
      }).then((mesh) => {
        if (mesh) adopt(id, mesh);
        forgoing.delete(id);
        port.close();
      });
      // One that cannot be taken is told to whoever sent it, and holds up nothing else.
      arrivals = Promise.all([arrivals, arrival.catch(() => undefined)]);
      return arrival;
    }),
  /** The worker that was to send a model ended: it is not waited for any longer. */
  forgoModel: (id: string) =>
    attempt(() => {
      forgoing.get(id)?.();
    }),
  /**
   * Sends the stage what it draws a model from; what programs read of parts and attributes, where
   * it asks for that.
   */
  layOut: (id: string, withExtras: boolean, port: MessagePort) =>
    answer(() => {
      const { mesh } = loaded(id).analysis;
      const arrays = stageArrays(mesh);
      const { centre, size, indices, parts, partCentres, attributes } = mesh;
      const laidOut: LaidOut = {
        centre,
        size,
        arrays,
        extras: withExtras ? { indices, parts, partCentres, attributes } : null,
      };
      port.postMessage(laidOut, buffersOf(arrays));
      return true;
    }),
  /** Reads a model for this worker alone: the page is spared the mesh. */
  keepModel: (id: string, file: Blob, name: string, preparation: ModelPreparation = {}) =>
    answer(async () => {
      const { mesh, notes } = await readModel(await bytesOf(file), name, {
        dracoBinary,
        preparation,
      });
      adopt(id, mesh);
      return notes;
    }),
  diagnose: (id: string) => answer(() => diagnose(loaded(id).analysis.mesh)),
  /** A picture of the model in clay, or of one of the masks made from its shape. */
  modelLook: (id: string, look: string, size: number) =>
    answer(() => drawModelLook(loaded(id).analysis, look, size)),
  quickMap: (id: string, settings: MapSettings, size: number, detail?: DetailRequest) =>
    answer(() => {
      const map = loaded(id).analysis.quickMap(settings, size, toldBy(loaded(id), detail));
      return Comlink.transfer(map, [map.data.buffer]);
    }),
  texelCount: (id: string, size: number) => answer(() => loaded(id).analysis.texelCount(size)),
  measureTexels: (
    id: string,
    settings: MapSettings,
    size: number,
    first: number,
    count: number,
    detail?: DetailRequest,
  ) =>
    answer(() => {
      const values = loaded(id).analysis.measureTexels(
        settings,
        size,
        first,
        count,
        toldBy(loaded(id), detail),
      );
      return Comlink.transfer(values, [values.buffer]);
    }),
  texelsFrom: (id: string, map: MeshMap, size: number) =>
    answer(() => {
      const values = loaded(id).analysis.texelsFrom(map, size);
      return Comlink.transfer(values, [values.buffer]);
    }),
  assemble: (id: string, size: number, values: Float32Array) =>
    answer(() => {
      const map = loaded(id).analysis.assemble(size, values);
      return Comlink.transfer(map, [map.data.buffer]);
    }),
  provideMap: (id: string, settings: MapSettings, map: MeshMap) =>
    answer(() => {
      loaded(id).maps.set(mapKey(settings), map);
      return true;
    }),
  dropMap: (id: string, settings: MapSettings) =>
    answer(() => loaded(id).maps.delete(mapKey(settings))),
  takeImage: (hash: string, image: DecodedImage) =>
    answer((): ImageFacts => threadImages.put(hash, image)),
  imageSheet: (hash: string, reading: ImageReading) =>
    answer(() => {
      const sheet = threadImages.sheet(hash, reading) ?? NO_IMAGE;
      const copy = { ...sheet, data: sheet.data.slice() };
      return Comlink.transfer(copy, [copy.data.buffer]);
    }),
  prepareStage: (document: NetworkDocument, pin: string | null, targets: number = PLAIN_TARGETS) =>
    answer(() => makeStageProgram(document, pin, targets)),
  /** All findings of a document, those that only show when it is compiled included. */
  check: (document: NetworkDocument) => answer(() => checkCompiled(document)),
  evaluate: (request: EvaluationRequest) => answer(() => evaluate(request)),
  fill: (request: FillRequest) => answer(() => fill(request)),
  survey: (id: string, document: NetworkDocument, pin: string | null, standing: Standing) =>
    answer(() => survey(id, document, pin, standing)),
  /** A model left the stage: what was kept for it may go. */
  leave: (subject: string) => answer(() => fillings.delete(subject)),
  pick: (
    id: string,
    document: NetworkDocument,
    pin: string | null,
    from: Triple,
    towards: Triple,
  ) => answer(() => pick(id, document, pin, from, towards)),
  picture: (id: string, document: NetworkDocument, key: string, camera: Camera, size: number) =>
    answer(() => picture(id, document, key, camera, size)),
  prove: (
    source: NetworkDocument,
    candidate: NetworkDocument,
    groupId: string,
    ids: readonly string[],
  ): Promise<Answer<Proof>> =>
    answer(() =>
      proveGroup(
        source,
        candidate,
        groupId,
        ids.map((id) => ({
          name: loaded(id).analysis.mesh.name,
          analysis: loaded(id).analysis,
          maps: (settings) => loaded(id).maps.get(mapKey(settings)),
        })),
      ),
    ),
  planBake: (id: string, document: NetworkDocument, size: number, depth: 8 | 16) =>
    answer(() => {
      const model = loaded(id);
      return planBake(
        baking,
        document,
        model.analysis.mesh,
        (settings) => model.maps.get(mapKey(settings)),
        size,
        depth,
      );
    }),
  bakeRows: (
    id: string,
    document: NetworkDocument,
    plan: BakePlan,
    rows: readonly [number, number],
  ) =>
    answer(async () => {
      const model = loaded(id);
      const { packBakedRows } = await import('../core/exchange/packaging');
      const strips = packBakedRows(
        bakeRows(
          baking,
          document,
          model.analysis.mesh,
          plan,
          (settings) => model.maps.get(mapKey(settings)),
          rows,
        ),
      );
      return Comlink.transfer(
        strips,
        strips.map(({ chunk }) => chunk.buffer),
      );
    }),
  packageBake: (
    id: string,
    name: string,
    plan: BakePlan,
    strips: readonly (readonly PngStrip[])[],
  ) =>
    answer(async () => {
      const { packageBake } = await import('../core/exchange/packaging');
      return packageBake(loaded(id).analysis.mesh, name, plan, strips);
    }),
};
export type LoomWorker = typeof api;
Comlink.expose(api);

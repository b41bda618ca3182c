import * as Comlink from 'comlink';
import { NO_IMAGE } from '../core/base/image';
import type { ImageHash, ModelId, ResultKey } from '../core/base/ids';
import { checkCompiled } from '../core/compile/compile';
import type { ImageReading } from '../core/compile/images';
import type { CompanionFrame } from '../core/compile/model-scale';
import { bakeRows, makeBakeSession, planBake } from '../core/evaluate/bake';
import type { BakePlan } from '../core/evaluate/bake';
import { seePoints } from '../core/evaluate/camera';
import type { Camera } from '../core/evaluate/camera';
import { drawOutput } from '../core/evaluate/draw';
import { StageFiller } from '../core/evaluate/fill';
import type { FillRequest } from '../core/evaluate/fill';
import { threadImages } from '../core/evaluate/image-store';
import { LoadedModels } from '../core/evaluate/loaded-model';
import type { LoadedModel } from '../core/evaluate/loaded-model';
import { drawModelLook } from '../core/evaluate/model-looks';
import { pickPoint } from '../core/evaluate/pick';
import { proveGroup } from '../core/evaluate/proof';
import { detailNormals } from '../core/evaluate/session';
import type { DetailRequest } from '../core/evaluate/session';
import { makeStageProgram } from '../core/evaluate/stage-program';
import { surveyModel } from '../core/evaluate/survey';
import { TapEvaluator } from '../core/evaluate/tap-results';
import type { EvaluationRequest } from '../core/evaluate/tap-results';
import type { DecodedImage } from '../core/exchange/image-types';
import type { PngStrip } from '../core/exchange/png-strips';
import type { ModelPreparation } from '../core/exchange/prepare';
import { readModel } from '../core/exchange/read-model';
import type { NetworkDocument, Triple } from '../core/graph/document';
import type { DetailSource, MapSettings } from '../core/mesh/analysis';
import { diagnose } from '../core/mesh/diagnose';
import { getMeshFacts } from '../core/mesh/mesh-facts';
import type { MeshMap } from '../core/mesh/mesh-map';
import { listBuffers, layOut } from '../core/mesh/stage-arrays';
import { bakeRequest } from '../core/handoff/formats';
import type { ExportName, HandoffRequest } from '../core/handoff/formats';
import { PLAIN_TARGETS } from '../core/surface/stage-layout';
import { attempt } from './answer';
import type { Answer } from './answer';
import { HeldDocuments } from './held-documents';
import type { DocumentNews, DocumentReference } from './held-documents';
import { live } from './life';
import { ModelArrivals } from './model-arrivals';

/** Loads what reading compressed meshes needs, at the first one. */
export type LoadDraco = () => Promise<ArrayBuffer>;
/** Does work when every announced model has come; turns anything thrown into data. */
type Answering = <T>(work: () => T | Promise<T>) => Promise<Answer<T>>;

interface Desk {
  readonly models: LoadedModels;
  readonly answer: Answering;
}

/** Sends an array's memory along instead of a copy of it. */
const sent = <T>(value: T, ...buffers: readonly ArrayBuffer[]): T =>
  Comlink.transfer(value, [...buffers]);
const sentMap = (map: MeshMap): MeshMap => sent(map, map.data.buffer);
const sentLane = (values: Float32Array<ArrayBuffer>): Float32Array<ArrayBuffer> =>
  sent(values, values.buffer);

const bytesOf = async (file: Blob): Promise<Uint8Array<ArrayBuffer>> =>
  new Uint8Array(await file.arrayBuffer());

function modelCalls({ models, answer }: Desk, arrivals: ModelArrivals, dracoBinary: LoadDraco) {
  const read = async (id: ModelId, file: Blob, name: string, preparation: ModelPreparation) => {
    const imported = await readModel(await bytesOf(file), name, { dracoBinary, preparation });
    models.add(id, imported.mesh);
    return imported;
  };
  return {
    loadModel: (id: ModelId, file: Blob, name: string, preparation: ModelPreparation = {}) =>
      answer(async () => {
        const { mesh, notes } = await read(id, file, name, preparation);
        return { facts: getMeshFacts(mesh), notes };
      }),
    /** Reads a model for this worker alone: the page is spared the mesh. */
    readModel: (id: ModelId, file: Blob, name: string, preparation: ModelPreparation = {}) =>
      answer(async () => (await read(id, file, name, preparation)).notes),
    /** A model that was read before it had an id. */
    renameModel: (from: ModelId, to: ModelId) =>
      answer(() => {
        models.rename(from, to);
        return true;
      }),
    /** Sends a model to another worker; the page never holds its arrays. */
    sendModel: (id: ModelId, port: MessagePort) =>
      answer(() => {
        port.postMessage(models.get(id).mesh);
        return true;
      }),
    receiveModel: (id: ModelId, port: MessagePort) => attempt(() => arrivals.receive(id, port)),
    cancelTransfer: (id: ModelId) =>
      attempt(() => {
        arrivals.cancel(id);
      }),
    /** Sends the stage what it draws a model from. */
    layOut: (id: ModelId, withExtras: boolean, port: MessagePort) =>
      answer(() => {
        const laidOut = layOut(models.get(id).mesh, withExtras);
        port.postMessage(laidOut, listBuffers(laidOut.arrays));
        return true;
      }),
    diagnose: (id: ModelId) => answer(() => diagnose(models.get(id).mesh)),
    /** A picture of the model in clay, or of one of the masks made from its shape. */
    modelLook: (id: ModelId, look: string, size: number) =>
      answer(() => drawModelLook(models.get(id).analysis, look, size)),
  };
}

/** The normals a map is measured by, where a network gives them. */
const detailOf = (
  model: LoadedModel,
  detail: DetailRequest | undefined,
): DetailSource | undefined => detail && detailNormals(detail, model.mesh, model.maps);

function mapCalls({ models, answer }: Desk) {
  return {
    quickMap: (id: ModelId, settings: MapSettings, size: number, detail?: DetailRequest) =>
      answer(() => {
        const model = models.get(id);
        return sentMap(model.analysis.quickMap(settings, size, detailOf(model, detail)));
      }),
    texelCount: (id: ModelId, size: number) =>
      answer(() => models.get(id).analysis.texelCount(size)),
    measureTexels: (
      id: ModelId,
      settings: MapSettings,
      size: number,
      first: number,
      count: number,
      detail?: DetailRequest,
    ) =>
      answer(() => {
        const model = models.get(id);
        const source = detailOf(model, detail);
        return sentLane(model.analysis.measureTexels(settings, size, first, count, source));
      }),
    texelsFrom: (id: ModelId, map: MeshMap, size: number) =>
      answer(() => sentLane(models.get(id).analysis.texelsFrom(map, size))),
    assemble: (id: ModelId, size: number, values: Float32Array) =>
      answer(() => sentMap(models.get(id).analysis.assemble(size, values))),
    provideMap: (id: ModelId, settings: MapSettings, map: MeshMap) =>
      answer(() => {
        models.get(id).provide(settings, map);
        return true;
      }),
    dropMap: (id: ModelId, settings: MapSettings) => answer(() => models.get(id).drop(settings)),
  };
}

function imageCalls({ answer }: Desk) {
  return {
    takeImage: (hash: ImageHash, image: DecodedImage) =>
      answer(() => threadImages.put(hash, image)),
    imageSheet: (hash: ImageHash, reading: ImageReading) =>
      answer(() => {
        const sheet = threadImages.sheet(hash, reading) ?? NO_IMAGE;
        const copy = { ...sheet, data: sheet.data.slice() };
        return sent(copy, copy.data.buffer);
      }),
  };
}

/** A request about a document that the worker may hold. */
type About<Request extends { readonly document: NetworkDocument }> = Omit<Request, 'document'> & {
  readonly document: DocumentReference;
};

/** Does something now, and gives or throws what came of it whenever it is asked for. */
function settle<T>(work: () => T): () => T {
  try {
    const value = work();
    return () => value;
  } catch (error) {
    return () => {
      throw error;
    };
  }
}

function evaluationCalls({ models, answer }: Desk) {
  const taps = new TapEvaluator();
  const filler = new StageFiller();
  const held = new HeldDocuments();
  // What is named is looked up at once: by the time the models are here, another may be newest.
  const about = <T>(named: DocumentReference, work: (document: NetworkDocument) => T) => {
    const document = settle(() => held.get(named));
    return answer(() => work(document()));
  };
  return {
    /** Holds a document under a number, for the calls that come after. */
    holdDocument: (number: number, news: DocumentNews) =>
      attempt(() => {
        held.hold(number, news);
        return true;
      }),
    /** All findings of a document, those that only show when it is compiled included. */
    check: (named: DocumentReference) => about(named, checkCompiled),
    evaluate: (request: About<EvaluationRequest>) =>
      about(request.document, (document) =>
        taps.evaluate(models.get(request.model), { ...request, document }),
      ),
    prepareStage: (named: DocumentReference, pin: ResultKey | null, targets = PLAIN_TARGETS) =>
      about(named, (document) => makeStageProgram(document, pin, targets)),
    fill: (request: About<FillRequest>) =>
      about(request.document, (document) => {
        const filled = filler.fill(models.get(request.model), { ...request, document });
        return sent(filled, ...filled.lanes.map((lane) => lane.buffer));
      }),
    survey: (
      id: ModelId,
      document: NetworkDocument,
      pin: ResultKey | null,
      frame: CompanionFrame,
    ) => answer(() => surveyModel(models.get(id), document, pin, frame)),
    /** A model left the stage: what was cached for it may go. */
    leave: (subject: string) => answer(() => filler.leave(subject)),
    pick: (
      id: ModelId,
      named: DocumentReference,
      pin: ResultKey | null,
      from: Triple,
      towards: Triple,
    ) => about(named, (document) => pickPoint(models.get(id), document, pin, from, towards)),
    /** One picture of one output, for comparing settings. */
    picture: (
      id: ModelId,
      document: NetworkDocument,
      key: ResultKey,
      camera: Camera,
      size: number,
    ) =>
      answer(() => {
        const { analysis, maps } = models.get(id);
        const seen = seePoints(analysis, camera, size * 2, size * 2);
        return drawOutput(document, key, analysis, seen, maps);
      }),
    prove: (
      source: NetworkDocument,
      candidate: NetworkDocument,
      groupId: string,
      ids: readonly ModelId[],
    ) =>
      answer(() => {
        const shown = ids.map((id) => models.get(id));
        const named = shown.map(({ analysis, maps, mesh }) => ({
          name: mesh.name,
          analysis,
          maps,
        }));
        return proveGroup(source, candidate, groupId, named);
      }),
  };
}

function bakeCalls({ models, answer }: Desk) {
  const session = makeBakeSession();
  return {
    planBake: (id: ModelId, document: NetworkDocument, request: HandoffRequest) =>
      answer(() => {
        const { mesh, maps } = models.get(id);
        return planBake(session, document, mesh, maps, bakeRequest(request));
      }),
    bakeRows: (
      id: ModelId,
      document: NetworkDocument,
      plan: BakePlan,
      rows: readonly [number, number],
    ) =>
      answer(async () => {
        const { mesh, maps } = models.get(id);
        const { packBakedRows } = await import('../core/handoff/packaging');
        const strips = packBakedRows(bakeRows(session, document, mesh, plan, maps, rows));
        return sent(strips, ...strips.map(({ chunk }) => chunk.buffer));
      }),
    packageBake: (
      id: ModelId,
      name: string,
      plan: BakePlan,
      strips: readonly (readonly PngStrip[])[],
      formats: readonly ExportName[],
    ) =>
      answer(async () => {
        const { packageBake } = await import('../core/handoff/packaging');
        return packageBake(models.get(id).mesh, name, plan, strips, formats);
      }),
  };
}

/**
 * What a worker of the pool can be asked. Every call waits for the models that were announced, and
 * gives what it found or what went wrong as data.
 */
export function makeLoomApi(loadDraco: LoadDraco) {
  const models = new LoadedModels();
  const arrivals = new ModelArrivals(models);
  const answer: Answering = async (work) => {
    await arrivals.all;
    return attempt(work);
  };
  const desk: Desk = { models, answer };
  return {
    live,
    ...modelCalls(desk, arrivals, loadDraco),
    ...mapCalls(desk),
    ...imageCalls(desk),
    ...evaluationCalls(desk),
    ...bakeCalls(desk),
  };
}
export type LoomApi = ReturnType<typeof makeLoomApi>;

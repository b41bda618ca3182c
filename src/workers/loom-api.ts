import { NO_IMAGE } from '../core/base/image';
import type { ImageHash, ModelId } from '../core/base/ids';
import type { ImageReading } from '../core/compile/images';
import { bakeRows, makeBakeSession, planBake } from '../core/evaluate/bake';
import type { BakePlan } from '../core/evaluate/bake';
import { drawFault } from '../core/evaluate/fault-look';
import { threadImages } from '../core/evaluate/image-store';
import { compareModels } from '../core/evaluate/compare-models';
import { LoadedModels } from '../core/evaluate/loaded-model';
import type { LoadedModel } from '../core/evaluate/loaded-model';
import { drawModelLook } from '../core/evaluate/model-looks';
import { detailNormals } from '../core/evaluate/session';
import type { DetailRequest } from '../core/evaluate/map-demands';
import type { DecodedImage } from '../core/exchange/image-types';
import type { PngStrip } from '../core/exchange/png-strips';
import type { ModelPreparation } from '../core/exchange/prepare';
import { readModel } from '../core/exchange/read-model';
import type { NetworkDocument } from '../core/graph/document';
import type { DetailSource, MapSettings } from '../core/mesh/analysis';
import { diagnose } from '../core/mesh/diagnose';
import type { FindingCode } from '../core/mesh/finding';
import { getMeshFacts } from '../core/mesh/mesh-facts';
import type { MeshMap } from '../core/mesh/mesh-map';
import { listBuffers, layOut } from '../core/mesh/stage-arrays';
import { bakeRequest } from '../core/handoff/formats';
import type { ExportName, HandoffRequest } from '../core/handoff/formats';
import { attempt } from './answer';
import { comparingCalls } from './comparing-calls';
import { sent } from './desk';
import type { Answering, Desk } from './desk';
import { documentCalls, evaluationCalls } from './evaluation-calls';
import { live } from './life';
import { ModelArrivals } from './model-arrivals';

/** Loads what reading compressed meshes needs, at the first one. */
export type LoadDraco = () => Promise<ArrayBuffer>;
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
    /** What changes for networks when one model takes the place of another. */
    compareModels: (before: ModelId, after: ModelId) =>
      answer(() => compareModels(models.get(before), models.get(after))),
    diagnose: (id: ModelId) => answer(() => diagnose(models.get(id).mesh)),
    /** A picture of the model in clay, or of one of the masks made from its shape. */
    modelLook: (id: ModelId, look: string, size: number) =>
      answer(() => drawModelLook(models.get(id).analysis, look, size)),
    /** Where a finding is on the model; null for one that has no place. */
    modelFault: (id: ModelId, code: FindingCode, size: number) =>
      answer(() => drawFault(models.get(id).analysis, code, size)),
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
    ...documentCalls(desk),
    ...evaluationCalls(desk),
    ...comparingCalls(desk),
    ...bakeCalls(desk),
  };
}
export type LoomApi = ReturnType<typeof makeLoomApi>;

import { framingCamera, seePoints } from '@/core/evaluate/camera';
import { drawOutput } from '@/core/evaluate/draw';
import { encodeRgba } from '@/core/exchange/png';
import { canonicalJson } from '@/core/graph/canonical';
import type { NetworkDocument } from '@/core/graph/document';
import { MAP_SIZE, MeshAnalysis, mapKey } from '@/core/mesh/analysis';
import type { MeshMap } from '@/core/mesh/mesh-map';
import type { MapSource } from '@/core/evaluate/session';
import type { ModelPreparation } from '@/core/exchange/prepare';
import { readModel } from '@/core/exchange/read-model';
import { findBlob } from '@/db/queries/blobs';
import type { StoredModel } from '@/db/queries/models';

/** Side of a swatch, pixels; drawn at twice that and halved. */
const SWATCH_SIZE = 192;
const MODELS_KEPT = 8;

export interface PreparedModel {
  readonly analysis: MeshAnalysis;
  readonly maps: MapSource;
}
const prepared = new Map<string, Promise<PreparedModel>>();

/** A model ready to be measured; the last few are kept, by content. */
export function prepareModel({
  blobHash,
  preparation,
}: Pick<StoredModel, 'blobHash' | 'preparation'>): Promise<PreparedModel> {
  const key = canonicalJson({ blobHash, preparation });
  const known = prepared.get(key);
  if (known) return known;
  const made = (async () => {
    const file = await findBlob(blobHash);
    if (!file) throw new Error(`Invariant broken: blob ${blobHash} is missing`);
    return readPrepared(new Uint8Array(file.bytes), preparation);
  })();
  prepared.set(key, made);
  const [oldest] = prepared.keys();
  if (prepared.size > MODELS_KEPT && oldest !== undefined) prepared.delete(oldest);
  made.catch(() => prepared.delete(key));
  return made;
}

/** A model's file read and ready to be measured; maps are made as they are asked for. */
export async function readPrepared(
  bytes: Uint8Array<ArrayBuffer>,
  preparation: ModelPreparation = {},
): Promise<PreparedModel> {
  const { mesh } = await readModel(bytes, 'model', { preparation });
  const analysis = new MeshAnalysis(mesh);
  const cache = new Map<string, MeshMap>();
  const maps: MapSource = (settings, detail) => {
    const name = mapKey(settings);
    const map = cache.get(name) ?? analysis.quickMap(settings, MAP_SIZE.quick, detail);
    cache.set(name, map);
    return map;
  };
  return { analysis, maps };
}

/**
 * A picture of a material on a model, `size` pixels a side, as PNG: WebAssembly values, shaded on
 * the processor.
 */
export function renderSwatch(
  document: NetworkDocument,
  { analysis, maps }: PreparedModel,
  size = SWATCH_SIZE,
): Uint8Array<ArrayBuffer> {
  const camera = framingCamera(analysis.mesh.centre, analysis.mesh.size);
  const seen = seePoints(analysis, camera, size * 2, size * 2);
  const picture = drawOutput(document, 'surface', analysis, seen, maps);
  return encodeRgba(picture.width, picture.height, picture.pixels);
}

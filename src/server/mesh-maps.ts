import { deflateSync } from 'node:zlib';
import { setImmediate } from 'node:timers/promises';
import type { NetworkDocument } from '@/core/graph/document';
import { EvaluationSession } from '@/core/evaluate/session';
import { MAP_CHUNK, MAP_SIZE, mapTitle, isShared, storedMapKey } from '@/core/mesh/analysis';
import type { MapSettings, MeshAnalysis } from '@/core/mesh/analysis';
import type { ModelPreparation } from '@/core/exchange/prepare';
import { findMeshMap, hasMeshMap, insertMeshMap } from '@/db/queries/models';
import type { SignedIn } from './authentication';
import type { JobContext } from './jobs/define-job';
import { tryToEnqueue } from './jobs/enqueue';
import { MESH_MAP } from './jobs/lanes';
import { modelKey, readableModel } from './models';
import { prepareModel } from './render';

/** A finished map to be measured by a worker process. */
export interface MapTask {
  readonly blobHash: string;
  readonly preparation: ModelPreparation;
  readonly settings: MapSettings;
}

/** The deflated values of a map that was measured before; null where none was. */
export async function findStoredMap(
  user: SignedIn,
  modelId: string,
  settings: MapSettings,
): Promise<Uint8Array | null> {
  const model = await readableModel(user, modelId);
  return (
    (await findMeshMap({
      modelKey: await modelKey(model),
      mapKey: storedMapKey(settings),
      size: MAP_SIZE.fine,
    })) ?? null
  );
}

/**
 * Has the maps of a saved network measured in the background, so that nobody else waits for them.
 */
export async function requestMaps(
  document: NetworkDocument,
  model: { name: string; blobHash: string; preparation: ModelPreparation },
  analysis: MeshAnalysis,
  userId: string,
): Promise<void> {
  const session = new EvaluationSession({ surface: true, taps: [], antialias: ['images'] });
  const key = await modelKey(model);
  for (const { resolved } of session.demands(document, analysis.mesh)) {
    if (!isShared(resolved)) continue;
    const mapKey = storedMapKey(resolved);
    if (await hasMeshMap({ modelKey: key, mapKey, size: MAP_SIZE.fine })) continue;
    const task: MapTask = {
      blobHash: model.blobHash,
      preparation: model.preparation,
      settings: resolved,
    };
    const title = `Measuring ${mapTitle(resolved)} of ${model.name}`;
    await tryToEnqueue(MESH_MAP, task, { title, userId, key: `${key} ${mapKey}` });
  }
}

/**
 * Measures a map and keeps it. Doing it twice changes nothing. In pieces, so that other work of the
 * process goes on.
 */
export async function runMap(
  { blobHash, preparation, settings }: MapTask,
  report: JobContext['report'] = () => Promise.resolve(),
): Promise<void> {
  const name = {
    modelKey: await modelKey({ blobHash, preparation }),
    mapKey: storedMapKey(settings),
    size: MAP_SIZE.fine,
  };
  if (await hasMeshMap(name)) return;
  const { analysis } = await prepareModel({ blobHash, preparation });
  const values = new Float32Array(analysis.texelCount(MAP_SIZE.fine));
  for (let first = 0; first < values.length; first += MAP_CHUNK) {
    values.set(
      analysis.measureTexels(
        settings,
        MAP_SIZE.fine,
        first,
        Math.min(MAP_CHUNK, values.length - first),
      ),
      first,
    );
    await report(first / values.length, mapTitle(settings));
    await setImmediate();
  }
  await insertMeshMap(name, deflateSync(new Uint8Array(values.buffer)));
}

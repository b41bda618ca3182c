import type { Picture } from '../core/evaluate/picture';
import type { ModelPreparation } from '../core/exchange/prepare';
import type { Diagnosis, FindingCode } from '../core/mesh/finding';
import { unwrap } from '../workers/answer';
import type { WorkerPool } from '../workers/pool';
import { getModel } from './api';
import { readOnce } from './query-client';

/** What is found out about a model: in a worker, never on the page's own thread. */
export interface Examination {
  readonly diagnosis: Diagnosis;
  readonly notes: readonly string[];
  readonly preparation: ModelPreparation;
  readonly bytes: number;
  readonly format: 'GLB' | 'OBJ';
  readonly name: string;
}

/** What can be drawn of a model that was examined, as long as its worker is there. */
export interface ModelDrawings {
  readonly draw: (look: string, size: number) => Promise<Picture>;
  /** Where a finding is; null for one without a place. */
  readonly drawFault: (code: FindingCode, size: number) => Promise<Picture | null>;
}

/** Reads a model as it is corrected now and looks it over. @throws WorkerProblem, ApiFailure */
export async function examine(pool: WorkerPool, id: string): Promise<Examination & ModelDrawings> {
  const { file, preparation, key } = await readOnce(['model', id], () => getModel(id));
  const worker = pool.background;
  const name = `${id} ${key}`;
  const start = new Uint8Array(await file.slice(0, 2).arrayBuffer());
  const format = start[0] === 0x67 && start[1] === 0x6c ? 'GLB' : 'OBJ';
  const notes = await unwrap(worker.readModel(name, file, id, preparation));
  return {
    diagnosis: await unwrap(worker.diagnose(name)),
    notes,
    preparation,
    bytes: file.size,
    name,
    format,
    draw: (look, size) => unwrap(worker.modelLook(name, look, size)),
    drawFault: (code, size) => unwrap(worker.modelFault(name, code, size)),
  };
}

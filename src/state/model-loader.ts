import * as Comlink from 'comlink';
import type { ModelId } from '../core/base/ids';
import type { ModelPreparation } from '../core/exchange/prepare';
import type { MeshFacts } from '../core/mesh/mesh-facts';
import { WorkerProblem, unwrap } from '../workers/answer';
import type { RemoteWorker } from '../workers/pool';
import type { EditorParts } from './editor-parts';

export interface LoadedModel {
  readonly id: ModelId;
  readonly facts: MeshFacts;
  readonly notes: readonly string[];
  /** What is repaired in it. */
  readonly preparation: ModelPreparation;
  /** Names the file together with what is repaired in it. */
  readonly key: string;
}

/** A file that a worker has read before it became a model of the studio. */
export interface ReadFile {
  readonly worker: RemoteWorker;
  /** What the worker calls it. */
  readonly name: string;
  readonly facts: MeshFacts;
  readonly notes: readonly string[];
}

/** Brings models into all workers: read once, then sent from worker to worker. */
export class ModelLoader {
  private readonly promised = new Map<ModelId, Promise<LoadedModel>>();
  private readonly loaded = new Map<ModelId, LoadedModel>();
  private files = 0;

  constructor(private readonly parts: Pick<EditorParts, 'pool' | 'client'>) {}

  /** A model that is in the workers; undefined where it is not, or not yet. */
  find(id: ModelId): LoadedModel | undefined {
    return this.loaded.get(id);
  }

  /** @throws ApiFailure, WorkerProblem; then it can be asked for again */
  load(id: ModelId, name: string): Promise<LoadedModel> {
    const known = this.promised.get(id);
    if (known) return known;
    const made = this.fetch(id, name);
    this.promised.set(id, made);
    made.catch(() => this.promised.delete(id));
    return made;
  }

  private fileOf(id: ModelId): ReturnType<EditorParts['client']['modelFile']> {
    const { client } = this.parts;
    return client.readOnce(['model', id], () => client.modelFile(id));
  }

  /** Reads a file that was dropped; it is not read again when it becomes a model. */
  async read(file: File): Promise<ReadFile> {
    const worker = this.parts.pool.background;
    const name = `file ${String(++this.files)} ${file.name}`;
    const { facts, notes } = await unwrap(worker.loadModel(name, file, file.name));
    return { worker, name, facts, notes };
  }

  /** Takes a file that was read as the model it became. @throws ApiFailure, WorkerProblem */
  async adopt(id: ModelId, { worker, name, facts, notes }: ReadFile): Promise<void> {
    const { preparation, key } = await this.fileOf(id);
    await unwrap(worker.renameModel(name, id));
    const model = { id, facts, notes, preparation, key };
    const made = this.share(model, worker);
    this.promised.set(id, made);
    made.catch(() => this.promised.delete(id));
    await made;
  }

  private async fetch(id: ModelId, name: string): Promise<LoadedModel> {
    const { pool } = this.parts;
    const { file, preparation, key } = await this.fileOf(id);
    const first = pool.background;
    const { facts, notes } = await unwrap(first.loadModel(id, file, name, preparation));
    return this.share({ id, facts, notes, preparation, key }, first);
  }

  /** Brings a model that one worker has to the others. */
  private async share(model: LoadedModel, first: RemoteWorker): Promise<LoadedModel> {
    const others = this.parts.pool.all.filter((worker) => worker !== first);
    await Promise.all(others.map((worker) => transferModel(model.id, first, worker)));
    this.loaded.set(model.id, model);
    return model;
  }

  /** Gives a worker that is new the models that the others have. */
  async restoreWorker(remote: RemoteWorker): Promise<void> {
    await Promise.all([...this.loaded.keys()].map((id) => this.bring(id, remote)));
  }

  /** From another worker, or from the server if that ended, too. */
  private async bring(id: ModelId, remote: RemoteWorker): Promise<void> {
    for (const other of this.parts.pool.all.filter((worker) => worker !== remote)) {
      try {
        await transferModel(id, other, remote);
        return;
      } catch (error) {
        if (!(error instanceof WorkerProblem)) throw error;
      }
    }
    const { file, preparation } = await this.fileOf(id);
    const name = this.loaded.get(id)?.facts.name ?? id;
    await unwrap(remote.loadModel(id, file, name, preparation));
  }

  /** Has what the stage draws a loaded model from sent there, past the page. */
  async layOut(id: ModelId, withExtras: boolean, port: MessagePort): Promise<void> {
    const { background } = this.parts.pool;
    await unwrap(background.layOut(id, withExtras, Comlink.transfer(port, [port])));
  }
}

/** Has one worker send a model to another, past the page. */
async function transferModel(id: ModelId, from: RemoteWorker, to: RemoteWorker): Promise<void> {
  const { port1, port2 } = new MessageChannel();
  const received = unwrap(to.receiveModel(id, Comlink.transfer(port2, [port2])));
  received.catch(() => undefined);
  try {
    await unwrap(from.sendModel(id, Comlink.transfer(port1, [port1])));
  } catch (error) {
    await to.cancelTransfer(id);
    throw error;
  }
  await received;
}

import * as Comlink from 'comlink';
import type { Answer, LoomWorker, WorkerFailure } from './loom.worker';

export type RemoteWorker = Comlink.Remote<LoomWorker>;
interface Member { readonly worker: Worker; readonly remote: RemoteWorker }

export class WorkerProblem extends Error {
  constructor(readonly code: string, message: string, readonly action: string) {
    super(message);
    this.name = 'WorkerProblem';
  }
}

const isFailure = (answer: unknown): answer is WorkerFailure => typeof answer === 'object' && answer !== null && 'failed' in answer;

/** The value of an answer; throws what a worker reported. */
export async function settled<T>(answer: Promise<Answer<T>>): Promise<T> {
  const value = await answer;
  if (isFailure(value)) throw new WorkerProblem(value.code, value.message, value.action);
  return value;
}

/** Web workers sized to the machine. The first serves what must answer at once (swatches); the others measure and bake. */
export class WorkerPool {
  private readonly members: Member[];
  private next = 0;

  constructor(size = Math.min(8, Math.max(2, navigator.hardwareConcurrency || 2))) {
    this.members = Array.from({ length: size }, () => {
      const worker = new Worker(new URL('./loom.worker.ts', import.meta.url), { type: 'module' });
      return { worker, remote: Comlink.wrap<LoomWorker>(worker) };
    });
  }

  get size(): number { return this.members.length; }
  get evaluator(): RemoteWorker { return (this.members[0] as Member).remote; }
  get all(): readonly RemoteWorker[] { return this.members.map((member) => member.remote); }
  /** One of the workers that may be busy for long. */
  get labourer(): RemoteWorker {
    this.next = (this.next + 1) % (this.members.length - 1);
    return (this.members[1 + this.next] as Member).remote;
  }
  get labourers(): readonly RemoteWorker[] { return this.members.slice(1).map((member) => member.remote); }

  close(): void {
    for (const { worker } of this.members) worker.terminate();
  }
}

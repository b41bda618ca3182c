import * as Comlink from 'comlink';
import { isLost, lostWorker } from './answer';
import { DocumentSender } from './document-sender';
import { ended } from './life';
import type { LoomApi } from './loom-api';

export type RemoteWorker = Comlink.Remote<LoomApi>;

/** A worker that was started: its calls, how it is ended, and how its end is noticed. */
export interface StartedWorker {
  readonly remote: RemoteWorker;
  readonly terminate: () => void;
  /** Resolves when it ended, by itself or by `terminate`; never, where that cannot be known. */
  readonly ended: Promise<void>;
}
export type StartWorker = () => StartedWorker;

/** Starts a worker of the browser; its end is noticed by a lock it holds. */
export const startWebWorker: StartWorker = () => {
  const worker = new Worker(new URL('./loom.worker.ts', import.meta.url), { type: 'module' });
  const remote = Comlink.wrap<LoomApi>(worker);
  return {
    remote,
    terminate: () => {
      worker.terminate();
    },
    ended: ended((name) => remote.live(name)),
  };
};

interface Member {
  readonly started: StartedWorker;
  readonly remote: RemoteWorker;
  readonly lose: () => void;
}

/** Calls of a worker that may end before it answers: they then fail instead of waiting for ever. */
function guarded(remote: RemoteWorker, lost: Promise<never>): RemoteWorker {
  return new Proxy(remote, {
    get(target, name) {
      const call: unknown = Reflect.get(target, name);
      return typeof name === 'string' && typeof call === 'function'
        ? (...given: unknown[]) =>
            Promise.race([(call as (...given: unknown[]) => Promise<unknown>)(...given), lost])
        : call;
    },
  });
}

const sizeHere = (): number => Math.min(8, Math.max(2, navigator.hardwareConcurrency || 2));

/**
 * Workers sized to the machine. The first serves what must answer at once (swatches); the others,
 * the background ones, measure and bake. A worker that ends (the system took its memory, say) is
 * replaced; whoever caches things in workers is told, and gives the new one what it needs.
 */
export class WorkerPool {
  /** Brings the workers the open document. */
  readonly documents = new DocumentSender();
  private readonly members: Member[];
  private readonly listeners = new Set<(remote: RemoteWorker) => void>();
  private next = 0;
  private isClosed = false;

  constructor(
    size = sizeHere(),
    private readonly startWorker: StartWorker = startWebWorker,
  ) {
    this.members = Array.from({ length: size }, (_, place) => this.start(place));
  }

  get size(): number {
    return this.members.length;
  }
  get evaluator(): RemoteWorker {
    return (this.members[0] as Member).remote;
  }
  get all(): readonly RemoteWorker[] {
    return this.members.map((member) => member.remote);
  }
  /** Says something to all that needs no answer; a worker that ended need not hear it. */
  tellAll(say: (remote: RemoteWorker) => Promise<unknown>): void {
    for (const remote of this.all)
      say(remote).catch((error: unknown) => {
        if (!isLost(error)) throw error;
      });
  }

  /** One of the workers that may be busy for long, each in its turn. */
  get background(): RemoteWorker {
    this.next = (this.next + 1) % (this.members.length - 1);
    return (this.members[1 + this.next] as Member).remote;
  }
  get backgrounds(): readonly RemoteWorker[] {
    return this.members.slice(1).map((member) => member.remote);
  }

  /** Calls back with every worker that takes the place of one that ended. */
  onReplaced(listener: (remote: RemoteWorker) => void): () => void {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  }

  /** Ends a worker as the system might, without a word. */
  kill(place: number): void {
    this.members[place]?.started.terminate();
  }

  close(): void {
    this.isClosed = true;
    for (const { started, lose } of this.members) {
      started.terminate();
      lose();
    }
  }

  private start(place: number): Member {
    const started = this.startWorker();
    let lose = (): void => undefined;
    const lost = new Promise<never>((_, reject) => {
      lose = () => {
        reject(lostWorker());
      };
    });
    lost.catch(() => undefined);
    const member = { started, remote: guarded(started.remote, lost), lose };
    void this.watch(member, place);
    return member;
  }

  private async watch(member: Member, place: number): Promise<void> {
    await member.started.ended;
    if (this.isClosed) return;
    member.started.terminate();
    const other = this.start(place);
    this.members[place] = other;
    for (const listener of this.listeners) listener(other.remote);
    member.lose();
  }
}

import { readFileSync } from 'node:fs';
import * as Comlink from 'comlink';
import type { Clock } from '@/state/clock';
import type { FillSource, ModelFeed, StageFeed } from '@/state/stage-feed';
import { makeLoomApi } from '@/workers/loom-api';
import type { LoomApi } from '@/workers/loom-api';
import { WorkerPool } from '@/workers/pool';
import type { StartedWorker } from '@/workers/pool';

/** A worker in this process: the real calls behind a real message port, which may be cut. */
export function startHere(): StartedWorker {
  const { port1, port2 } = new MessageChannel();
  Comlink.expose(
    makeLoomApi(() => Promise.reject(new Error('no Draco here'))),
    port1,
  );
  let end = (): void => undefined;
  const ended = new Promise<void>((resolve) => {
    end = resolve;
  });
  return {
    remote: Comlink.wrap<LoomApi>(port2),
    ended,
    terminate: () => {
      port1.close();
      port2.close();
      end();
    },
  };
}

/** A pool of such workers; `kill` ends one as the system might. */
export const poolHere = (size = 3): WorkerPool => new WorkerPool(size, startHere);

/** Time that stands still until it is moved. */
export class FakeClock implements Clock {
  private time = 0;
  private waiting: { readonly at: number; readonly run: () => void }[] = [];

  now(): number {
    return this.time;
  }

  after(ms: number, run: () => void): () => void {
    const entry = { at: this.time + ms, run };
    this.waiting.push(entry);
    return () => {
      this.waiting = this.waiting.filter((each) => each !== entry);
    };
  }

  /** How long until the next thing is due; null when nothing waits. */
  get next(): number | null {
    const [first] = [...this.waiting].sort((a, b) => a.at - b.at);
    return first ? first.at - this.time : null;
  }

  /** Moves time on and does what is due. */
  pass(ms: number): void {
    this.time += ms;
    const due = this.waiting.filter(({ at }) => at <= this.time).sort((a, b) => a.at - b.at);
    this.waiting = this.waiting.filter(({ at }) => at > this.time);
    for (const { run } of due) run();
  }
}

export interface Asked {
  readonly method: string;
  readonly path: string;
  readonly body: unknown;
}
export type Answering = (asked: Asked) => Response | Promise<Response>;

/** What a server may say: JSON with a status, an answer that is cut off, or nothing at all. */
export const says = (
  status: number,
  body: unknown,
  headers: Record<string, string> = {},
): Response => Response.json(body, { status, headers });
export const refuses = (status: number, details?: unknown): Response =>
  says(status, {
    code: `test.${String(status)}`,
    message: `Refused with ${String(status)}.`,
    kept: 'All is kept.',
    action: 'Wait.',
    ...(details === undefined ? {} : { details }),
  });
export const cutOff = (): Response =>
  new Response('{"revision": 4', { status: 200, headers: { 'Content-Type': 'application/json' } });
export const silent = (): Promise<Response> => Promise.reject(new TypeError('fetch failed'));

/** Puts a server of one's own in the place of the network. @returns all it was asked */
export function serve(answer: Answering): Asked[] {
  const asked: Asked[] = [];
  globalThis.fetch = async (input, init) => {
    const text = typeof init?.body === 'string' ? init.body : null;
    const request = {
      method: init?.method ?? 'GET',
      path: input instanceof Request ? input.url : String(input),
      body: text === null ? null : (JSON.parse(text) as unknown),
    };
    asked.push(request);
    return answer(request);
  };
  return asked;
}

/** The file of a demo model, as the server sends it. */
export const modelFile = (name: string): Response =>
  new Response(readFileSync(`assets/models/${name}.glb`), { headers: { ETag: `"${name}"` } });

/** Notes what a stage is told; nothing is drawn. */
export class FakeStage implements StageFeed {
  readonly told: string[] = [];
  readonly fills = new Map<string, FillSource>();
  readonly values = new Map<string, Float32Array>();
  readonly targets = 8;
  isBusy = false;

  constructor(readonly mode: 'program' | 'workers') {}

  private note(text: string): void {
    this.told.push(text);
  }

  add(name: string, fill: FillSource): ModelFeed {
    this.fills.set(name, fill);
    const note = (text: string) => (): void => {
      this.note(`${name} ${text}`);
    };
    return {
      setModel: (port) => {
        port.close();
        this.note(`${name} model`);
      },
      setPlacement: note('placement'),
      expectProgram: note('expects a program'),
      setProgram: note('program'),
      setValues: (values) => {
        this.values.set(name, values);
        this.note(`${name} values`);
      },
      setMap: (field) => {
        this.note(`${name} map ${field}`);
      },
      setImage: (slot) => {
        this.note(`${name} image ${String(slot)}`);
      },
      setAppearance: ({ opacityMode }) => {
        this.note(`${name} appearance ${opacityMode}`);
      },
      setKnown: (isKnown) => {
        if (!isKnown) this.note(`${name} unknown`);
      },
      setShadow: (opacity) => {
        this.note(`${name} shadow ${opacity === null ? 'whole' : String(opacity.size)}`);
      },
      touch: note('touch'),
    };
  }
  remove(name: string): void {
    this.fills.delete(name);
    this.note(`remove ${name}`);
  }
  setScene(): void {
    this.note('scene');
  }
  setSight(): void {
    // Nothing is shown.
  }
  setLook(look: string, stretch: readonly [number, number]): void {
    this.note(`look ${look} ${stretch.map((x) => x.toFixed(2)).join()}`);
  }
  setSurroundings(): void {
    this.note('surroundings');
  }
  setLights(lights: readonly unknown[]): void {
    this.note(`lights ${String(lights.length)}`);
  }
  invalidate(): void {
    this.note('invalidate');
  }
}

/** Resolves when something holds; looks every few milliseconds. @throws after some seconds */
export async function until(holds: () => boolean, what = 'it'): Promise<void> {
  for (let k = 0; k < 4000; k++) {
    if (holds()) return;
    await new Promise((resolve) => {
      setTimeout(resolve, 5);
    });
  }
  throw new Error(`${what} never held`);
}

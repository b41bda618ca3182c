import { listen } from '@/db/client';
import type { SignedIn } from '../authentication';
import { log, loggable } from '../log';
import { findShownJob } from './service';

/** What the database notifies of a job. */
export interface JobNotice {
  readonly id: string;
  readonly userId: string | null;
  readonly state: string;
}
type Listener = (notice: JobNotice | 'missed') => void;

const RECONNECT_MS = 1000;
/** Proxies end streams that are silent for long. */
const KEEP_ALIVE_MS = 20_000;

const state: { readonly listeners: Set<Listener>; stop: (() => Promise<void>) | null } = {
  listeners: new Set(),
  stop: null,
};

/** Hears of every change of a job; one connection serves the process while somebody listens. */
export function onJobChange(listener: Listener): () => void {
  const { listeners } = state;
  listeners.add(listener);
  if (listeners.size === 1) void connect();
  return () => {
    listeners.delete(listener);
    if (listeners.size === 0) void disconnect();
  };
}

async function connect(): Promise<void> {
  const tell = (notice: JobNotice | 'missed'): void => {
    for (const listener of state.listeners) listener(notice);
  };
  try {
    const stop = await listen('job', (text) => tell(JSON.parse(text) as JobNotice), again);
    if (state.listeners.size === 0) await stop();
    else state.stop = stop;
    // What changed while nobody listened is looked up.
    tell('missed');
  } catch (error) {
    log().warn(loggable(error), 'changes of jobs cannot be heard');
    again();
  }
  function again(): void {
    state.stop = null;
    setTimeout(() => {
      if (state.listeners.size > 0 && state.stop === null) void connect();
    }, RECONNECT_MS).unref();
  }
}

async function disconnect(): Promise<void> {
  const { stop } = state;
  state.stop = null;
  await stop?.().catch(() => undefined);
}

/** Server-sent events: every job that one may see, each time it changes; `missed` where some may have been. */
export function jobEvents(user: SignedIn, signal: AbortSignal): Response {
  const encoder = new TextEncoder();
  let end = (): void => undefined;
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string): void => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          end();
        }
      };
      const tell = async (notice: JobNotice | 'missed'): Promise<void> => {
        if (notice === 'missed') {
          send('event: missed\ndata: {}\n\n');
          return;
        }
        if (notice.userId !== user.id && user.role !== 'librarian') return;
        const job = await findShownJob(user, notice.id);
        if (job) send(`event: job\ndata: ${JSON.stringify(job)}\n\n`);
      };
      const leave = onJobChange((notice) => {
        tell(notice).catch(() => {
          send('event: missed\ndata: {}\n\n');
        });
      });
      const alive = setInterval(() => {
        send(': alive\n\n');
      }, KEEP_ALIVE_MS);
      end = () => {
        clearInterval(alive);
        leave();
      };
      signal.addEventListener('abort', () => {
        end();
      });
      send('event: missed\ndata: {}\n\n');
    },
    cancel() {
      end();
    },
  });
  return new Response(body, {
    headers: {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store, no-transform',
      'X-Accel-Buffering': 'no',
    },
  });
}

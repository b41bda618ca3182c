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

interface WatchState {
  readonly listeners: Set<Listener>;
  stop: (() => Promise<void>) | null;
  isConnecting: boolean;
  /** The next try to connect; never more than one. */
  next: ReturnType<typeof setTimeout> | null;
}
const state: WatchState = { listeners: new Set(), stop: null, isConnecting: false, next: null };

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

function tellAll(notice: JobNotice | 'missed'): void {
  for (const listener of state.listeners) listener(notice);
}

async function connect(): Promise<void> {
  if (state.isConnecting || state.stop !== null) return;
  state.isConnecting = true;
  try {
    const stop = await listen('job', (text) => tellAll(JSON.parse(text) as JobNotice), again);
    if (state.listeners.size === 0) await stop();
    else state.stop = stop;
    // What changed while nobody listened is looked up.
    tellAll('missed');
  } catch (error) {
    log().warn(loggable(error), 'changes of jobs cannot be heard');
    again();
  } finally {
    state.isConnecting = false;
  }
}

/**
 * Tries once more in a moment. A connection that could not be made says so twice: by its error and
 * by its end.
 */
function again(): void {
  state.stop = null;
  state.next ??= setTimeout(() => {
    state.next = null;
    if (state.listeners.size > 0) void connect();
  }, RECONNECT_MS).unref();
}

async function disconnect(): Promise<void> {
  const { stop } = state;
  state.stop = null;
  await stop?.().catch(() => undefined);
}

/**
 * Server-sent events: every job that one may see, each time it changes; `missed` where some may
 * have been.
 */
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

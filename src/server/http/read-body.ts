import { Piscina } from 'piscina';
import { AppError } from '@/core/base/diagnostic';
import type { AnyRoute, Route } from '@/contract/route';
import type { BodyTask } from './body-thread';
import { checkBody } from './check-body';
import type { BodyCheck } from './check-body';
import { findProgram } from '../programs';

/** Bodies up to so many bytes are checked at once: it takes less than handing them over. */
const AT_ONCE = 16 * 1024;
const LONGEST_CHECK_MS = 10_000;
const UNCHANGED = 'Nothing was changed.';

const kept = globalThis as unknown as { brightLoomBodies?: Piscina };

function threads(): Piscina {
  const { file, execArgv } = findProgram('http/body-thread');
  kept.brightLoomBodies ??= new Piscina({
    filename: file,
    execArgv: [...execArgv],
    minThreads: 1,
    maxThreads: 2,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: 512 },
  });
  return kept.brightLoomBodies;
}

/** Ends the threads; for tests and the end of the process. */
export async function closeBodyThreads(): Promise<void> {
  const open = kept.brightLoomBodies;
  delete kept.brightLoomBodies;
  await open?.destroy();
}

export const tooLarge = (limit: number): AppError => {
  const size =
    limit >= 1048576 ? `${String(Math.floor(limit / 1048576))} MB` : `${String(limit / 1024)} KB`;
  return new AppError('request.too-large', `The request is larger than ${size}.`, 'Send less.', {
    status: 413,
    kept: UNCHANGED,
  });
};

/** Reads a body of at most `limit` bytes. A stated length is only trusted to refuse it early. */
export async function readBytes(request: Request, limit: number): Promise<Uint8Array<ArrayBuffer>> {
  if (Number(request.headers.get('content-length') ?? 0) > limit) throw tooLarge(limit);
  const chunks: Uint8Array[] = [];
  let total = 0;
  for await (const chunk of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    total += chunk.length;
    if (total > limit) throw tooLarge(limit);
    chunks.push(chunk);
  }
  const bytes = new Uint8Array(total);
  let at = 0;
  for (const chunk of chunks) {
    bytes.set(chunk, at);
    at += chunk.length;
  }
  return bytes;
}

/**
 * Reads the JSON body of a route and checks it against the contract, in a thread where it is large.
 */
export async function readJson<B>(
  request: Request,
  route: Route<unknown, unknown, B, unknown>,
): Promise<B> {
  if (route.body.kind !== 'json') throw new Error(`Invariant broken: ${route.path} has no body`);
  const type = request.headers.get('content-type') ?? '';
  if (!/^application\/json\b/i.test(type)) {
    throw new AppError('request.not-json', 'The request is not of the type application/json.', '', {
      status: 415,
      kept: UNCHANGED,
    });
  }
  const bytes = await readBytes(request, route.body.limit);
  const checked =
    bytes.length <= AT_ONCE ? checkBody(bytes, route.body.form) : await checkInThread(bytes, route);
  return bodyOf(checked) as B;
}

async function checkInThread(
  bytes: Uint8Array,
  { method, path: at }: AnyRoute,
): Promise<BodyCheck> {
  const task: BodyTask = { method, path: at, bytes };
  try {
    const signal = AbortSignal.timeout(LONGEST_CHECK_MS);
    return (await threads().run(task, {
      transferList: [bytes.buffer as ArrayBuffer],
      signal,
    })) as BodyCheck;
  } catch (cause) {
    throw new AppError('request.too-costly', 'The request takes too long to check.', 'Send less.', {
      status: 413,
      kept: UNCHANGED,
      cause,
    });
  }
}

function bodyOf(checked: BodyCheck): unknown {
  if (!('fault' in checked)) return checked.value;
  if (checked.fault === 'not-json') {
    throw new AppError('request.not-json', 'The request is not JSON.', '', { kept: UNCHANGED });
  }
  if (checked.fault === 'invalid') {
    const message = `The request is not valid: ${checked.pointer || '/'} ${checked.message}.`;
    throw new AppError('request.invalid', message, '', { kept: UNCHANGED });
  }
  const [first] = checked.diagnostics;
  const what = first ? `${first.pointer} ${first.message}` : 'its form is wrong';
  throw new AppError('document.invalid', `The material cannot be saved: ${what}.`, '', {
    status: 422,
    kept: 'What was saved before is kept.',
    findings: checked.diagnostics,
  });
}

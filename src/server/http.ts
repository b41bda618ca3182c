import type Joi from 'joi';
import { AppError } from '@/core/base/diagnostic';
import { isOutOfSpace, isUnreachable } from '@/db/client';
import { requireSignedIn } from './authentication';
import type { SignedIn } from './authentication';

export interface Failure { readonly code: string; readonly message: string; readonly action: string; readonly details?: unknown }

/** Carries extra data to the client with a refusal. */
export class DetailedError extends AppError {
  constructor(code: string, message: string, action: string, status: number, readonly details: unknown) {
    super(code, message, action, { status });
  }
}

/** The one place where errors become responses. */
export function failureResponse(error: unknown): Response {
  if (error instanceof AppError) {
    const failure: Failure = { code: error.code, message: error.message, action: error.action, ...(error instanceof DetailedError ? { details: error.details } : {}) };
    return Response.json(failure, { status: error.status });
  }
  if (isUnreachable(error)) {
    return Response.json({ code: 'database.unreachable', message: 'The database cannot be reached at the moment.', action: 'Your work is kept in this browser and saved when it is back.' } satisfies Failure, { status: 503 });
  }
  if (isOutOfSpace(error)) {
    return Response.json({ code: 'database.full', message: 'The server’s disk is full.', action: 'Nothing was saved, and nothing is lost: your work is kept in this browser. Ask whoever runs the server to make room.' } satisfies Failure, { status: 507 });
  }
  console.error(error);
  return Response.json({ code: 'server.failed', message: 'The server could not do this.', action: 'Nothing was changed. Try again; if it happens again, report it.' } satisfies Failure, { status: 500 });
}

type Context<P> = { params: Promise<P> };

/** A route that needs somebody signed in. */
export function route<P = Record<string, never>>(work: (user: SignedIn, request: Request, params: P) => Promise<Response>) {
  return async (request: Request, context: Context<P>): Promise<Response> => {
    try {
      assertSameOrigin(request);
      const user = await requireSignedIn(request.headers);
      return await work(user, request, await context.params);
    } catch (error) {
      return failureResponse(error);
    }
  };
}

/** Changes must come from our own pages, whatever cookies a browser sends along. */
function assertSameOrigin(request: Request): void {
  if (request.method === 'GET' || request.method === 'HEAD') return;
  const origin = request.headers.get('origin');
  const host = request.headers.get('host');
  if (origin && host && new URL(origin).host !== host) throw new AppError('request.origin', 'The request comes from another site.', 'Nothing was changed.', { status: 403 });
}

/** Reads and validates a JSON body of at most `limit` bytes. */
export async function readBody<T>(request: Request, schema: Joi.Schema<T>, limit = 8 * 1024 * 1024): Promise<T> {
  const bytes = await readBytes(request, limit);
  let raw: unknown;
  try {
    raw = JSON.parse(new TextDecoder().decode(bytes));
  } catch (cause) {
    throw new AppError('request.not-json', 'The request is not JSON.', 'Nothing was changed.', { cause });
  }
  return validate(raw, schema);
}

export function validate<T>(raw: unknown, schema: Joi.Schema<T>): T {
  const { error, value } = schema.validate(raw, { convert: false, abortEarly: true }) as { error?: Error; value: T };
  if (error) throw new AppError('request.invalid', `The request is not valid: ${error.message}.`, 'Nothing was changed.');
  return value;
}

/** Reads a body of at most `limit` bytes without trusting its stated length. */
export async function readBytes(request: Request, limit: number): Promise<Uint8Array<ArrayBuffer>> {
  const chunks: Uint8Array[] = [];
  let total = 0;
  for await (const chunk of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    total += chunk.length;
    if (total > limit) throw new AppError('request.too-large', `The request is larger than ${String(Math.floor(limit / 1048576))} MB.`, 'Nothing was changed.', { status: 413 });
    chunks.push(chunk);
  }
  const bytes = new Uint8Array(total);
  let at = 0;
  for (const chunk of chunks) { bytes.set(chunk, at); at += chunk.length; }
  return bytes;
}

import { AppError } from '../core/base/diagnostic';
import type { Failure } from '../contract/failure';
import { readMeshMap, readModelFile } from '../contract/models';
import type { Route } from '../contract/route';
import type { ModelPreparation } from '../core/exchange/prepare';
import type { MapSettings } from '../core/mesh/analysis';

/** A request that the server refused (its status), or that did not come through (0). */
export class ApiFailure extends AppError {
  constructor(status: number, { code, message, kept, action, details, findings }: Failure) {
    super(code, message, action, { kept, details, ...(findings ? { findings } : {}) });
    this.name = 'ApiFailure';
    this.requestStatus = status;
  }
  readonly requestStatus: number;
}

const KEPT = 'Your work is kept in this browser and saved when it is back.';
/** The server does not answer. */
export const cannotReach = (): ApiFailure =>
  new ApiFailure(0, {
    code: 'network',
    message: 'The server cannot be reached.',
    kept: KEPT,
    action: 'It is tried again by itself.',
  });
const cutOff = (): ApiFailure =>
  new ApiFailure(0, {
    code: 'network.cut-off',
    message: 'The answer of the server was cut off or is not one of ours.',
    kept: KEPT,
    action: 'It is tried again by itself.',
  });

/** How long an answer is waited for, milliseconds: files may take their time. */
const PATIENCE = { json: 60_000, file: 10 * 60_000 };

export interface Call<P, Q, B> {
  readonly params?: P;
  readonly query?: Q;
  readonly body?: B;
  /** A file is sent from where it lies: the page's own thread never holds its bytes. */
  readonly file?: Blob | Uint8Array<ArrayBuffer>;
  readonly signal?: AbortSignal;
}
type AnyCall = Call<unknown, unknown, unknown>;

/** The address of a route with its parameters filled in. */
export function routeAddress(
  { path }: Pick<Route<unknown, unknown, unknown, unknown>, 'path'>,
  params: unknown = {},
  query: unknown = {},
): string {
  const named = params as Readonly<Record<string, string | number>>;
  const filled = path.replace(/:(\w+)/g, (_, name: string) =>
    encodeURIComponent(String(named[name] ?? '')),
  );
  const given = Object.entries(query as Readonly<Record<string, unknown>>).filter(
    ([, value]) => value !== undefined,
  );
  const search = new URLSearchParams(given.map(([name, value]) => [name, String(value)]));
  return search.size > 0 ? `${filled}?${search.toString()}` : filled;
}

async function send(
  route: Route<unknown, unknown, unknown, unknown>,
  { params, query, body, file, signal }: AnyCall,
): Promise<Response> {
  const isFile = file !== undefined || route.answer.kind === 'response';
  const patience = AbortSignal.timeout(isFile ? PATIENCE.file : PATIENCE.json);
  const type = file === undefined ? 'application/json' : 'application/octet-stream';
  const hasBody = route.body.kind !== 'none';
  let response: Response;
  try {
    response = await fetch(routeAddress(route, params, query), {
      method: route.method,
      signal: signal ? AbortSignal.any([signal, patience]) : patience,
      ...(route.answer.kind === 'json' ? { cache: 'no-store' } : {}),
      ...(hasBody ? { headers: { 'Content-Type': type }, body: file ?? JSON.stringify(body) } : {}),
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw cannotReach();
  }
  if (response.ok || response.status === 304) return response;
  throw await failureOf(response);
}

async function failureOf(response: Response): Promise<ApiFailure> {
  return failureFrom(response.status, await response.json().catch(() => null));
}

/** What the server said against a request. */
export function failureFrom(status: number, given: unknown): ApiFailure {
  const said = given as Partial<Failure> | null;
  return new ApiFailure(status, {
    code: said?.code ?? 'http',
    message: said?.message ?? `The server answered ${String(status)}.`,
    kept: said?.kept ?? '',
    action: said?.action ?? 'Try again in a moment.',
    details: said?.details,
    ...(said?.findings ? { findings: said.findings } : {}),
  });
}

/**
 * Asks the server for what a route of the contract gives.
 * @throws ApiFailure with what the server said, or that it could not be reached or its answer not
 *   be read
 */
export async function call<P, Q, B, A>(
  route: Route<P, Q, B, A>,
  given: Call<P, Q, B> = {},
): Promise<A> {
  const response = await send(route, given);
  if (route.answer.kind === 'response') return response as A;
  let answer: unknown;
  try {
    answer = await response.json();
  } catch (error) {
    if (given.signal?.aborted) throw error;
    throw cutOff();
  }
  // What is no object is no answer of ours, whoever sent it.
  if (typeof answer !== 'object' || answer === null) throw cutOff();
  return answer as A;
}

/** The body of an answer that is a file. */
export async function bytesOf(response: Response): Promise<Uint8Array<ArrayBuffer>> {
  try {
    return new Uint8Array(await response.arrayBuffer());
  } catch {
    throw cutOff();
  }
}

/**
 *  A model's file, which the page passes on without holding its bytes; what is corrected in it when
 *  it is read, and the key that names both.
 */
export interface ModelFile {
  readonly file: Blob;
  readonly preparation: ModelPreparation;
  readonly key: string;
}
export async function getModel(id: string): Promise<ModelFile> {
  const response = await call(readModelFile, { params: { id } });
  const prepared = response.headers.get('Bright-Loom-Preparation') ?? '{}';
  try {
    const file = await response.blob();
    const preparation = JSON.parse(prepared) as ModelPreparation;
    return { file, preparation, key: response.headers.get('ETag') ?? '' };
  } catch {
    throw cutOff();
  }
}

/** The values of a mesh map that the server keeps; null where it keeps none. */
export async function getMeshMap(
  model: string,
  settings: MapSettings,
): Promise<Float32Array<ArrayBuffer> | null> {
  const query = { settings: JSON.stringify(settings) };
  const response = await call(readMeshMap, { params: { id: model }, query });
  if (response.status === 204 || !response.body) return null;
  const inflated = response.body.pipeThrough(new DecompressionStream('deflate'));
  return new Float32Array(await new Response(inflated).arrayBuffer());
}

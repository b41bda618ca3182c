import type { ModelPreparation } from '../core/exchange/prepare';
import type { MapSettings } from '../core/mesh/analysis';

/** A request the server refused, or that did not reach it. */
export class ApiFailure extends Error {
  constructor(readonly status: number, readonly code: string, message: string, readonly action: string, readonly details: unknown) {
    super(message);
    this.name = 'ApiFailure';
  }
}

interface FailureBody { readonly code?: string; readonly message?: string; readonly action?: string; readonly details?: unknown }

async function refuse(response: Response): Promise<never> {
  const body = await response.json().catch(() => ({})) as FailureBody;
  throw new ApiFailure(response.status, body.code ?? 'http', body.message ?? `The server answered ${String(response.status)}.`, body.action ?? '', body.details);
}

async function send(path: string, init: RequestInit): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, init);
  } catch {
    throw new ApiFailure(0, 'network', 'The server cannot be reached.', 'Your work is kept in this browser and saved when it is back.', null);
  }
  return response.ok ? response : refuse(response);
}

export async function getJson<T>(path: string): Promise<T> {
  return (await send(path, { cache: 'no-store' })).json() as Promise<T>;
}
export async function sendJson<T>(method: 'POST' | 'PUT' | 'PATCH', path: string, body: unknown): Promise<T> {
  return (await send(path, { method, headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) })).json() as Promise<T>;
}
export async function getBytes(path: string): Promise<Uint8Array<ArrayBuffer>> {
  return new Uint8Array(await (await send(path, {})).arrayBuffer());
}
/** A file is sent from where it lies: the page's own thread never holds its bytes. */
export async function sendBytes<T>(path: string, bytes: Uint8Array<ArrayBuffer> | File): Promise<T> {
  return (await send(path, { method: 'POST', headers: { 'Content-Type': 'application/octet-stream' }, body: bytes })).json() as Promise<T>;
}

/** A model's file, which the page passes on without holding its bytes; what is mended in it when it is read, and the key that names both. */
export interface ModelFile { readonly file: Blob; readonly preparation: ModelPreparation; readonly key: string }
export async function getModel(id: string): Promise<ModelFile> {
  const response = await send(`/api/models/${id}`, {});
  return { file: await response.blob(), preparation: JSON.parse(response.headers.get('Bright-Loom-Preparation') ?? '{}') as ModelPreparation, key: response.headers.get('ETag') ?? '' };
}
/** The values of a mesh map that the server keeps; null where it keeps none. */
export async function getMeshMap(model: string, settings: MapSettings): Promise<Float32Array<ArrayBuffer> | null> {
  const response = await send(`/api/models/${model}/maps?settings=${encodeURIComponent(JSON.stringify(settings))}`, {});
  if (response.status === 204 || !response.body) return null;
  return new Float32Array(await new Response(response.body.pipeThrough(new DecompressionStream('deflate'))).arrayBuffer());
}

export interface Me { readonly user: { readonly id: string; readonly name: string; readonly role: 'artist' | 'author' | 'librarian' }; readonly projects: readonly { readonly id: string; readonly name: string }[] }
export interface ModelEntry { readonly id: string; readonly name: string; readonly projectId: string | null }

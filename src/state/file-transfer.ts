import type { Route } from '../contract/route';
import { BUNDLE_BYTES_HEADER } from '../core/exchange/bundle';
import { cannotReach, failureFrom, routeAddress } from './api';

/** How far a file has come, 0 to 1. */
export type TransferProgress = (share: number) => void;

/**
 * Reads a file of an answer, and tells how far it is.
 * @throws ApiFailure where the connection ends before the file does
 */
export async function readWithProgress(
  response: Response,
  onProgress: TransferProgress,
): Promise<Blob> {
  const expected = Number(response.headers.get(BUNDLE_BYTES_HEADER) ?? 0);
  const chunks: Uint8Array<ArrayBuffer>[] = [];
  let come = 0;
  try {
    for await (const chunk of (response.body ?? []) as AsyncIterable<Uint8Array<ArrayBuffer>>) {
      chunks.push(chunk);
      come += chunk.length;
      if (expected > 0) onProgress(Math.min(1, come / expected));
    }
  } catch {
    throw cannotReach();
  }
  return new Blob(chunks, { type: response.headers.get('Content-Type') ?? '' });
}

/**
 * Sends a file to a route of the contract from where it lies, and tells how far it is: what `fetch`
 * does not tell.
 * @throws ApiFailure
 */
export function sendWithProgress<Q, A>(
  route: Route<Readonly<Record<string, never>>, Q, null, A>,
  { query, file }: { readonly query?: Q; readonly file: Blob },
  onProgress: TransferProgress,
): Promise<A> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open(route.method, routeAddress(route, {}, query));
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.responseType = 'json';
    request.upload.onprogress = ({ loaded, total }) => {
      onProgress(total > 0 ? loaded / total : 0);
    };
    request.onload = () => {
      const { status } = request;
      if (status >= 200 && status < 300) resolve(request.response as A);
      else reject(failureFrom(status, request.response));
    };
    request.onerror = () => {
      reject(cannotReach());
    };
    request.send(file);
  });
}

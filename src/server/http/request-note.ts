/** What the handler of a request knows and its line in the log should say. */

/** The header that names a request inside this process; whatever came from outside is replaced. */
export const REQUEST_HEADER = 'x-bright-loom-request';

const kept = globalThis as unknown as { brightLoomWho?: Map<string, string> };
const who = (): Map<string, string> => (kept.brightLoomWho ??= new Map<string, string>());

/** Notes who sent a request. */
export function noteUser(headers: Headers, userId: string): void {
  const request = headers.get(REQUEST_HEADER);
  if (request) who().set(request, userId);
}

/** Who sent a request that has been answered; forgets it. */
export function takeUser(request: string): string | undefined {
  const user = who().get(request);
  who().delete(request);
  return user;
}

/** A JSON Pointer (RFC 6901) to a place in a document. */
export const pointer = (path: readonly (string | number)[]): string =>
  path.map((part) => `/${String(part).replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');

/** The parts of a JSON Pointer (RFC 6901); none for the whole document. */
export const parsePointer = (text: string): readonly string[] =>
  text
    .split('/')
    .slice(1)
    .map((part) => part.replaceAll('~1', '/').replaceAll('~0', '~'));

/** A JSON Pointer (RFC 6901) to a place in a document. */
export const pointer = (path: readonly (string | number)[]): string =>
  path.map((part) => `/${String(part).replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');

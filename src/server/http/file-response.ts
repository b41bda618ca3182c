/**
 * A stored file that never changes: its address is its hash. Whatever it holds, it runs nothing.
 */
export const fileResponse = (file: { bytes: Uint8Array; mediaType: string }): Response =>
  new Response(new Uint8Array(file.bytes), {
    headers: {
      'Content-Type': file.mediaType,
      'Cache-Control': 'private, max-age=31536000, immutable',
      'Content-Security-Policy': "default-src 'none'; sandbox",
    },
  });

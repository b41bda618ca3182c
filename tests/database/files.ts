import { spool } from '@/server/http/spool';
import type { SpooledFile } from '@/server/http/spool';
import type { WrittenBundle } from '@/server/bundle';

/** Bytes as a request would bring them to the disk. */
export const spooled =
  (bytes: Uint8Array) =>
  (limit: number): Promise<SpooledFile> =>
    spool(chunksOf(bytes), limit);

async function* chunksOf(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += 65536) {
    yield bytes.subarray(at, at + 65536);
    await Promise.resolve();
  }
}

/** All of a file that is written. */
export const bytesOf = async ({ stream }: WrittenBundle): Promise<Uint8Array<ArrayBuffer>> =>
  new Uint8Array(await new Response(stream).arrayBuffer());

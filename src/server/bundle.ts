/** Files that travel, read from the disk and written as they are read: never whole in memory. */
import { PassThrough, Readable } from 'node:stream';
import { fromFd } from 'yauzl';
import type { Entry, ZipFile as OpenZip } from 'yauzl';
import { ZipFile } from 'yazl';
import {
  BUNDLE_BYTES_HEADER,
  BUNDLE_MOMENT,
  BundleGuard,
  bundleRefused,
  jsonBytes,
  leadsOutside,
  notAsLong,
  notZip,
  readJsonPart,
} from '@/core/exchange/bundle';
import { findBlobSize, readBlobChunks } from '@/db/queries/blobs';
import type { SpooledFile } from './http/spool';

/** A file that was opened: its parts by name, known and bounded. */
export interface OpenBundle {
  readonly names: readonly string[];
  readonly sizeOf: (name: string) => number;
  /** A part piece by piece. @throws AppError where it is not as long as the file states */
  readonly stream: (name: string) => AsyncIterable<Uint8Array>;
  /** A part whole. @throws AppError where it is not as long as the file states */
  readonly read: (name: string) => Promise<Uint8Array<ArrayBuffer>>;
  readonly json: (name: string) => Promise<unknown>;
}

/** Reads the list of parts that are known. @throws AppError */
async function listParts(zip: OpenZip): Promise<ReadonlyMap<string, Entry>> {
  const guard = new BundleGuard();
  const parts = new Map<string, Entry>();
  await new Promise<void>((resolve, reject) => {
    zip.on('entry', (entry: Entry) => {
      try {
        if (guard.admit(entry.fileName, entry.uncompressedSize)) parts.set(entry.fileName, entry);
        zip.readEntry();
      } catch (error) {
        reject(error instanceof Error ? error : notZip());
      }
    });
    zip.on('end', resolve);
    zip.on('error', (error: Error) => {
      const [, name] = /(?:relative path|absolute path|characters in fileName): (.*)$/.exec(
        error.message,
      ) ?? [null, null];
      reject(name === null ? notZip() : leadsOutside(name));
    });
    zip.readEntry();
  });
  return parts;
}

const openZip = ({ handle }: SpooledFile): Promise<OpenZip> =>
  new Promise((resolve, reject) => {
    fromFd(handle.fd, { lazyEntries: true, autoClose: false }, (error, zip) => {
      if (error) reject(notZip());
      else resolve(zip);
    });
  });

/** Opens a file that was sent. @throws AppError for what is no such file, or is no honest one */
export async function openBundle(file: SpooledFile): Promise<OpenBundle> {
  const zip = await openZip(file);
  const parts = await listParts(zip);
  const entryOf = (name: string): Entry => {
    const entry = parts.get(name);
    if (!entry) throw bundleRefused('part', `The file has no “${name}”.`);
    return entry;
  };
  const open = (name: string): Promise<Readable> =>
    new Promise((resolve, reject) => {
      zip.openReadStream(entryOf(name), (error, opened) => {
        if (error) reject(error);
        else resolve(opened);
      });
    });
  async function* stream(name: string): AsyncGenerator<Uint8Array> {
    entryOf(name);
    try {
      for await (const chunk of await open(name)) yield chunk as Uint8Array;
    } catch {
      throw notAsLong(name);
    }
  }
  const read = async (name: string): Promise<Uint8Array<ArrayBuffer>> => {
    const bytes = new Uint8Array(entryOf(name).uncompressedSize);
    let at = 0;
    for await (const chunk of stream(name)) {
      bytes.set(chunk, at);
      at += chunk.length;
    }
    if (at !== bytes.length) throw notAsLong(name);
    return bytes;
  };
  return {
    names: [...parts.keys()],
    sizeOf: (name) => entryOf(name).uncompressedSize,
    stream,
    read,
    json: async (name) => readJsonPart(parts.has(name) ? await read(name) : undefined, name),
  };
}

/** A file that is being written. */
export interface WrittenBundle {
  readonly stream: ReadableStream<Uint8Array>;
  /** About so many bytes will come. */
  readonly bytes: number;
}

/**
 * Writes a zip of JSON and stored files, as fast as it is taken off.
 * @param stored the hash of each file, by the name of its part; one that is gone is left out
 */
export async function writeBundle(
  json: Readonly<Record<string, unknown>>,
  stored: ReadonlyMap<string, string>,
): Promise<WrittenBundle> {
  const zip = new ZipFile();
  const out = zip.outputStream.pipe(new PassThrough());
  // A file that goes while it is read cuts the answer off; so does whoever takes no more of it.
  const cutOff = (error: Error): void => {
    out.destroy(error);
  };
  zip.on('error', cutOff);
  zip.outputStream.on('error', () => undefined);
  let bytes = 0;
  for (const [name, value] of Object.entries(json)) {
    const part = Buffer.from(jsonBytes(value));
    bytes += part.length;
    zip.addBuffer(part, name, { mtime: BUNDLE_MOMENT });
  }
  for (const [name, hash] of stored) {
    const size = await findBlobSize(hash);
    if (size === null) continue;
    bytes += size;
    // What is packed already is not packed again.
    const options = { mtime: BUNDLE_MOMENT, compress: false, size };
    zip.addReadStreamLazy(name, options, (done) => {
      done(null, Readable.from(readBlobChunks(hash, size)).on('error', cutOff));
    });
  }
  zip.end();
  return { stream: Readable.toWeb(out) as ReadableStream<Uint8Array>, bytes };
}

/** Answers with a file as it is written. */
export const bundleResponse = (name: string, { stream, bytes }: WrittenBundle): Response =>
  new Response(stream, {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${name}.zip`)}`,
      'Cache-Control': 'no-store',
      [BUNDLE_BYTES_HEADER]: String(bytes),
    },
  });

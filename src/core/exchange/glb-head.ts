import { WebIO } from '@gltf-transform/core';
import { MODEL_LIMITS, fail } from './model-soup';
import {
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRMeshQuantization,
} from '@gltf-transform/extensions';

/** What the head of a GLB says before any of it is unfolded. */
export interface Head {
  readonly extensionsUsed?: readonly string[];
  readonly accessors?: readonly { readonly count?: number }[];
  readonly bufferViews?: readonly {
    readonly extensions?: Readonly<
      Record<string, { readonly byteStride?: number; readonly count?: number }>
    >;
  }[];
}

/** Parses the head. @throws AppError where it is not JSON */
export function readHead(bytes: Uint8Array): Head {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const length = Math.min(view.getUint32(12, true), bytes.length - 20);
  try {
    return JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length))) as Head;
  } catch (cause) {
    throw fail('broken', 'The file cannot be read: its description is not JSON.', 400, cause);
  }
}

/**
 * The most numbers a compressed model may unfold to: what 5,000,000 triangles with all their
 * attributes need.
 */
const UNFOLDED_BYTES = 2 ** 31;

/**
 * Refuses files that would unfold to far more than they may hold.
 * @throws AppError where it would
 */
export function assertUnfolded({ bufferViews = [], accessors = [] }: Head): void {
  const compressed = bufferViews.reduce(
    (sum, { extensions = {} }) =>
      sum +
      Object.values(extensions).reduce(
        (bytes, { byteStride = 0, count = 0 }) => bytes + byteStride * count,
        0,
      ),
    0,
  );
  const most = accessors.reduce((sum, { count = 0 }) => Math.max(sum, count), 0);
  if (compressed > UNFOLDED_BYTES || most > MODEL_LIMITS.triangles * 4)
    throw fail('unfolds', 'The file says it unfolds to more than a model may hold.', 413);
}

/** Brings the Draco decoder's module where it cannot be found beside the code, as in a browser. */
export type BinarySource = () => Promise<ArrayBuffer>;

/** A reader with the decoders the file needs. */
export async function readerFor(head: Head, dracoBinary?: BinarySource): Promise<WebIO> {
  const io = new WebIO().registerExtensions([KHRMeshQuantization]);
  const used = head.extensionsUsed ?? [];
  if (used.includes(EXTMeshoptCompression.EXTENSION_NAME)) {
    const { MeshoptDecoder } = await import('meshoptimizer');
    await MeshoptDecoder.ready;
    io.registerExtensions([EXTMeshoptCompression]).registerDependencies({
      'meshopt.decoder': MeshoptDecoder,
    });
  }
  if (used.includes(KHRDracoMeshCompression.EXTENSION_NAME)) {
    const { default: draco } = await import('draco3d');
    io.registerExtensions([KHRDracoMeshCompression]).registerDependencies({
      'draco3d.decoder': await draco.createDecoderModule(
        dracoBinary ? { wasmBinary: await dracoBinary() } : {},
      ),
    });
  }
  return io;
}

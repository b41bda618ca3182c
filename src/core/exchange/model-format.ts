import { AppError } from '../base/diagnostic';
import { MODEL_LIMITS, fail } from './model-soup';

/** The formats models are read in. */
export type ModelFormat = 'glb' | 'obj';
/** How much of a text is looked at to tell what it is. */
const LOOKED_AT = 65536;

/**
 * Checks size and header before anything is parsed. Throws AppError.
 * @param length of the whole file, where `bytes` are only its beginning
 */
export function assertGlb(bytes: Uint8Array, length = bytes.length): void {
  if (length > MODEL_LIMITS.bytes) {
    throw new AppError(
      'model.too-large',
      `The file has ${String(Math.ceil(length / 1048576))} MB; the limit is 100 MB.`,
      'Leave out textures or reduce the model.',
      { kept: 'Nothing was changed.', status: 413 },
    );
  }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20 || view.getUint32(0, true) !== 0x46546c67)
    throw fail('not-glb', 'This is not a binary glTF file (.glb).');
  if (view.getUint32(4, true) !== 2)
    throw fail(
      'version',
      `This is glTF version ${String(view.getUint32(4, true))}; version 2 is read.`,
    );
  if (view.getUint32(8, true) > length) {
    throw new AppError(
      'model.truncated',
      `The file is cut off: it says ${String(view.getUint32(8, true))} bytes and has ` +
        `${String(length)}.`,
      'Copy or export the file again.',
      { kept: 'Nothing was changed.' },
    );
  }
}

/**
 * Whether text looks like a Wavefront OBJ: one of its statements stands at the beginning of a line.
 */
const looksLikeObj = (text: string): boolean => /^(v|vt|vn|f|o|g|mtllib|usemtl)\s/m.test(text);

/**
 * Which kind of model a file is, from its first bytes; its size is checked, nothing is parsed.
 * Throws AppError.
 * @param length of the whole file, where `bytes` are only its first 64 kB or more
 */
export function modelFormat(bytes: Uint8Array, length = bytes.length): ModelFormat {
  const isText =
    bytes.length > 0 &&
    bytes
      .subarray(0, LOOKED_AT)
      .every((byte) => byte >= 32 || byte === 9 || byte === 10 || byte === 13);
  if (!isText || !looksLikeObj(new TextDecoder().decode(bytes.subarray(0, LOOKED_AT)))) {
    assertGlb(bytes, length);
    return 'glb';
  }
  if (length > MODEL_LIMITS.bytes)
    throw new AppError(
      'model.too-large',
      `The file has ${String(Math.ceil(length / 1048576))} MB; the limit is 100 MB.`,
      'Reduce the model.',
      { kept: 'Nothing was changed.', status: 413 },
    );
  return 'obj';
}

import { Document, WebIO } from '@gltf-transform/core';
import type { Accessor, Node, Primitive } from '@gltf-transform/core';
import { AppError } from '../base/diagnostic';
import { atlasQuality } from '../mesh/atlas';
import { smoothNormals } from '../mesh/smooth-normals';
import { completeMesh } from '../mesh/surface-mesh';
import type { SurfaceMesh } from '../mesh/surface-mesh';
import { unwrapMesh } from './unwrap';

export const MODEL_LIMITS = { bytes: 100 * 1024 * 1024, triangles: 5_000_000 } as const;
/** Edges flatter than this are shaded smoothly in models that bring no normals. */
const CREASE_RAD = 0.7;
const NO_CHANGE = 'Nothing was changed. Export the model again as binary glTF 2.0 (.glb) and bring it in again.';

export interface ModelImport { readonly mesh: SurfaceMesh; readonly notes: readonly string[] }

/** Checks size and header before anything is parsed. Throws AppError. */
export function assertGlb(bytes: Uint8Array): void {
  if (bytes.length > MODEL_LIMITS.bytes) {
    throw new AppError('model.too-large', `The file has ${String(Math.ceil(bytes.length / 1048576))} MB; the limit is 100 MB.`, 'Nothing was changed. Leave out textures or reduce the model.', { status: 413 });
  }
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20 || view.getUint32(0, true) !== 0x46546c67) throw new AppError('model.not-glb', 'This is not a binary glTF file (.glb).', NO_CHANGE);
  if (view.getUint32(4, true) !== 2) throw new AppError('model.version', `This is glTF version ${String(view.getUint32(4, true))}; version 2 is read.`, NO_CHANGE);
  if (view.getUint32(8, true) > bytes.length) {
    throw new AppError('model.truncated', `The file is cut off: it says ${String(view.getUint32(8, true))} bytes and has ${String(bytes.length)}.`, 'Nothing was changed. Copy or export the file again.');
  }
}

/**
 * Reads a GLB: all triangles of its scene, in world space, with a part per primitive. Brings missing normals and a missing
 * or overlapping atlas. Throws AppError with what is wrong.
 */
export async function readGlb(bytes: Uint8Array<ArrayBuffer>, name: string): Promise<ModelImport> {
  assertGlb(bytes);
  let document: Document;
  try {
    document = await new WebIO().readBinary(bytes);
  } catch (cause) {
    throw new AppError('model.broken', `The file cannot be read: ${cause instanceof Error ? cause.message : String(cause)}.`, NO_CHANGE, { cause });
  }
  const soup = gather(document);
  const notes: string[] = [];
  const triangles = soup.indices.length / 3;
  if (triangles === 0) throw new AppError('model.empty', 'The file holds no triangles.', NO_CHANGE);
  if (soup.dropped > 0) notes.push(`${String(soup.dropped)} triangles without area were left out.`);
  return complete(name, soup, notes);
}

interface Soup {
  positions: Float32Array<ArrayBuffer>; normals: Float32Array<ArrayBuffer> | null; uvs: Float32Array<ArrayBuffer> | null;
  indices: Uint32Array<ArrayBuffer>; parts: Uint32Array<ArrayBuffer>; dropped: number;
}

function gather(document: Document): Soup {
  const scene = document.getRoot().getDefaultScene() ?? document.getRoot().listScenes()[0];
  const found: { node: Node; primitive: Primitive }[] = [];
  scene?.traverse((node) => { for (const primitive of node.getMesh()?.listPrimitives() ?? []) if (primitive.getMode() === 4) found.push({ node, primitive }); });
  const total = found.reduce((sum, { primitive }) => sum + ((primitive.getIndices() ?? primitive.getAttribute('POSITION'))?.getCount() ?? 0) / 3, 0);
  if (total > MODEL_LIMITS.triangles) {
    throw new AppError('model.too-many-triangles', `The model has ${total.toLocaleString('en')} triangles; the limit is 5,000,000.`, 'Nothing was changed. Reduce the model and bring it in again.', { status: 413 });
  }
  const positions: number[][] = [], normals: (number[] | null)[] = [], uvs: (number[] | null)[] = [];
  const indices: number[] = [], parts: number[] = [];
  let offset = 0, dropped = 0;
  found.forEach(({ node, primitive }, part) => {
    const read = readPrimitive(node, primitive);
    positions.push(read.positions);
    normals.push(read.normals);
    uvs.push(read.uvs);
    for (let k = 0; k + 2 < read.indices.length; k += 3) {
      const [a, b, c] = [read.indices[k] as number, read.indices[k + 1] as number, read.indices[k + 2] as number];
      if (a === b || b === c || c === a) { dropped++; continue; }
      indices.push(offset + a, offset + b, offset + c);
      parts.push(part);
    }
    offset += read.positions.length / 3;
  });
  const joined = (lists: readonly (number[] | null)[]): Float32Array<ArrayBuffer> | null =>
    lists.length > 0 && lists.every((list) => list !== null) ? concatenate(lists) : null;
  return { positions: concatenate(positions), normals: joined(normals), uvs: joined(uvs), indices: Uint32Array.from(indices), parts: Uint32Array.from(parts), dropped };
}

function concatenate(lists: readonly number[][]): Float32Array<ArrayBuffer> {
  const result = new Float32Array(lists.reduce((sum, list) => sum + list.length, 0));
  let at = 0;
  for (const list of lists) { result.set(list, at); at += list.length; }
  return result;
}

function readPrimitive(node: Node, primitive: Primitive): { positions: number[]; normals: number[] | null; uvs: number[] | null; indices: readonly number[] } {
  const position = primitive.getAttribute('POSITION');
  if (!position) return { positions: [], normals: null, uvs: null, indices: [] };
  const matrix = node.getWorldMatrix();
  const vectors = (accessor: Accessor, w: 0 | 1): number[] => {
    const result: number[] = [];
    const element: number[] = [];
    for (let k = 0; k < accessor.getCount(); k++) {
      accessor.getElement(k, element);
      const [x, y, z] = element as [number, number, number];
      for (let row = 0; row < 3; row++) result.push((matrix[row] as number) * x + (matrix[row + 4] as number) * y + (matrix[row + 8] as number) * z + (matrix[row + 12] as number) * w);
    }
    return result;
  };
  const positions = vectors(position, 1);
  const bad = positions.findIndex((value) => !Number.isFinite(value) || Math.abs(value) > 1e12);
  if (bad >= 0) throw new AppError('model.not-finite', `Vertex ${String(Math.floor(bad / 3))} of “${node.getName() || 'a part'}” has a coordinate that is not a usable number.`, NO_CHANGE);
  const indices = Array.from(primitive.getIndices()?.getArray() ?? Array.from({ length: position.getCount() }, (_, k) => k));
  if (indices.some((index) => index >= position.getCount())) throw new AppError('model.index', `A triangle of “${node.getName() || 'a part'}” names a vertex that is not there.`, NO_CHANGE);
  const normal = primitive.getAttribute('NORMAL');
  const uv = primitive.getAttribute('TEXCOORD_0');
  const normals = normal && normal.getCount() === position.getCount() ? unit(vectors(normal, 0)) : null;
  return { positions, normals, uvs: uv && uv.getCount() === position.getCount() ? elements(uv, 2) : null, indices };
}

function elements(accessor: Accessor, width: number): number[] {
  const result: number[] = [];
  const element: number[] = [];
  for (let k = 0; k < accessor.getCount(); k++) { accessor.getElement(k, element); result.push(...element.slice(0, width)); }
  return result;
}

/** Unit vectors; null when some are missing (no length or not a number), so that they are made anew. */
function unit(values: number[]): number[] | null {
  for (let k = 0; k < values.length; k += 3) {
    const length = Math.hypot(values[k] as number, values[k + 1] as number, values[k + 2] as number);
    if (!(length > 1e-6)) return null;
    for (let axis = 0; axis < 3; axis++) values[k + axis] = (values[k + axis] as number) / length;
  }
  return values;
}

async function complete(name: string, soup: Soup, notes: string[]): Promise<ModelImport> {
  let { positions, normals, uvs, indices } = soup;
  if (!normals) {
    const shaded = smoothNormals({ positions, indices }, CREASE_RAD);
    notes.push('The model brought no usable normals; they were made, smooth across edges flatter than 40°.');
    uvs = uvs && pick(uvs, shaded.sources, 2);
    ({ positions, normals, indices } = shaded);
  }
  const quality = uvs && atlasQuality({ atlas: uvs, indices });
  if (uvs && quality && !quality.outside && quality.overlap < 0.02 && quality.coverage > 0.02) {
    return { mesh: completeMesh({ name, positions, normals, uvs, atlas: uvs, atlasIsAutomatic: false, indices, parts: soup.parts }), notes };
  }
  const unwrapped = await unwrapMesh(positions, normals, indices);
  notes.push(uvs ? 'Its texture coordinates overlap or leave the unit square; maps use an automatic atlas.' : 'It has no texture coordinates; an automatic atlas was made.');
  return {
    mesh: completeMesh({
      name, positions: pick(positions, unwrapped.sources, 3), normals: pick(normals, unwrapped.sources, 3),
      uvs: uvs ? pick(uvs, unwrapped.sources, 2) : unwrapped.atlas, atlas: unwrapped.atlas, atlasIsAutomatic: true, indices: unwrapped.indices, parts: soup.parts,
    }),
    notes,
  };
}

function pick(values: Float32Array, sources: Uint32Array, width: number): Float32Array<ArrayBuffer> {
  return Float32Array.from({ length: sources.length * width }, (_, k) => values[(sources[Math.floor(k / width)] as number) * width + (k % width)] as number);
}

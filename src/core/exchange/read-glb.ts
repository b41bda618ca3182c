import { WebIO } from '@gltf-transform/core';
import type { Accessor, Document, Node, Primitive } from '@gltf-transform/core';
import {
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRMeshQuantization,
} from '@gltf-transform/extensions';
import type { MeshAttribute } from '../mesh/surface-mesh';
import { assertGlb } from './model-format';
import {
  MODEL_LIMITS,
  assertFinite,
  assertTriangles,
  distinctNames,
  dropCollapsed,
  fail,
} from './model-soup';
import type { ModelSoup } from './model-soup';

const TRIANGLES = 4,
  STRIP = 5,
  FAN = 6;

/** What the head of a GLB says before any of it is unfolded. */
interface Head {
  readonly extensionsUsed?: readonly string[];
  readonly accessors?: readonly { readonly count?: number }[];
  readonly bufferViews?: readonly {
    readonly extensions?: Readonly<
      Record<string, { readonly byteStride?: number; readonly count?: number }>
    >;
  }[];
}

function headOf(bytes: Uint8Array): Head {
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

/** Refuses files that would unfold to far more than they may hold. */
function assertUnfolded({ bufferViews = [], accessors = [] }: Head): void {
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
async function readerFor(head: Head, dracoBinary?: BinarySource): Promise<WebIO> {
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

/**
 * Reads all triangles of a GLB's scene in world space, a part per primitive of every node. Throws
 * AppError with what is wrong.
 */
export async function readGlbSoup(
  bytes: Uint8Array<ArrayBuffer>,
  dracoBinary?: BinarySource,
): Promise<ModelSoup> {
  assertGlb(bytes);
  const head = headOf(bytes);
  assertUnfolded(head);
  let document: Document;
  try {
    document = await (await readerFor(head, dracoBinary)).readBinary(bytes);
  } catch (cause) {
    throw fail(
      'broken',
      `The file cannot be read: ${cause instanceof Error ? cause.message : String(cause)}.`,
      400,
      cause,
    );
  }
  return gather(document);
}

interface Found {
  readonly node: Node;
  readonly primitive: Primitive;
  readonly position: Accessor;
  readonly corners: number;
  /**
   * Where its vertices begin among all, and which of its accessors' elements they are: pieces often
   * share one long accessor.
   */
  readonly firstVertex: number;
  readonly used: Uint32Array;
  readonly places: Uint32Array;
}
const NO_VERTEX = 0xffffffff;

/**
 * The elements a primitive's triangles name, in their order, and each named place as one of them
 * (`NO_VERTEX` where there is none).
 */
function usedVertices(
  primitive: Primitive,
  count: number,
): { used: Uint32Array; places: Uint32Array } {
  const named = primitive.getIndices()?.getArray();
  if (!named) {
    const every = Uint32Array.from({ length: count }, (_, k) => k);
    return { used: every, places: every };
  }
  const taken = new Uint8Array(count);
  for (const index of named) if (index < count) taken[index] = 1;
  const order = new Uint32Array(count).fill(NO_VERTEX);
  let next = 0;
  for (let v = 0; v < count; v++) if (taken[v] === 1) order[v] = next++;
  const used = new Uint32Array(next);
  for (let v = 0; v < count; v++) if (taken[v] === 1) used[order[v] as number] = v;
  return { used, places: Uint32Array.from(named, (index) => order[index] ?? NO_VERTEX) };
}

/**
 * The primitives to be read, with their place among all vertices; counted before anything is
 * unfolded.
 */
function findPrimitives(document: Document): { found: readonly Found[]; skipped: number } {
  const scene = document.getRoot().getDefaultScene() ?? document.getRoot().listScenes()[0];
  const found: Found[] = [];
  const known = new Map<Primitive, ReturnType<typeof usedVertices>>();
  let firstVertex = 0,
    skipped = 0;
  scene?.traverse((node) => {
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      const position = primitive.getAttribute('POSITION');
      if (!position || ![TRIANGLES, STRIP, FAN].includes(primitive.getMode())) {
        skipped++;
        continue;
      }
      const count = (primitive.getIndices() ?? position).getCount();
      const corners =
        primitive.getMode() === TRIANGLES ? count - (count % 3) : Math.max(0, count - 2) * 3;
      const vertices = known.get(primitive) ?? usedVertices(primitive, position.getCount());
      known.set(primitive, vertices);
      found.push({ node, primitive, position, firstVertex, ...vertices, corners });
      firstVertex += vertices.used.length;
    }
  });
  return { found, skipped };
}

function gather(document: Document): ModelSoup {
  const { found, skipped } = findPrimitives(document);
  const corners = found.reduce((sum, each) => sum + each.corners, 0);
  assertTriangles(corners / 3);
  const vertices = found.reduce((sum, each) => sum + each.used.length, 0);
  const positions = new Float32Array(vertices * 3),
    indices = new Uint32Array(corners),
    parts = new Uint32Array(corners / 3);
  const names = found.map(
    ({ node, primitive }, part) =>
      node.getName() || primitive.getMaterial()?.getName() || `Part ${String(part + 1)}`,
  );
  let corner = 0;
  found.forEach((each, part) => {
    const { position, node, firstVertex, used } = each;
    placeVectors(positions, position, each, node.getWorldMatrix(), false);
    assertFinite(positions, firstVertex * 3, (firstVertex + used.length) * 3, names[part] ?? '');
    const written = writeIndices(indices, corner, each, names[part] ?? '');
    parts.fill(part, corner / 3, written / 3);
    corner = written;
  });
  const kept = dropCollapsed(indices, parts);
  const notes = [
    ...(kept.dropped > 0 ? [`${String(kept.dropped)} triangles without area were left out.`] : []),
    ...(skipped > 0
      ? [`${String(skipped)} pieces without triangles (lines or points) were left out.`]
      : []),
  ];
  return {
    positions,
    indices: kept.indices,
    parts: kept.parts,
    partNames: distinctNames(names),
    notes,
    normals: gatherNormals(found, vertices),
    uvs: gatherAttribute(found, 'TEXCOORD_0', 2, vertices, true)?.values ?? null,
    attributes: gatherAttributes(found, vertices),
  };
}

/**
 * Writes the corners of a primitive as triangles; mirrored pieces are turned round so that they
 * keep facing outwards.
 */
function writeIndices(
  into: Uint32Array,
  at: number,
  { node, primitive, firstVertex, places, corners }: Found,
  name: string,
): number {
  const mode = primitive.getMode();
  const isMirrored = determinant(node.getWorldMatrix()) < 0;
  for (let k = 0; k < corners; k++) {
    const t = Math.floor(k / 3),
      c = k % 3;
    const side = isMirrored && c > 0 ? 3 - c : c;
    const place =
      mode === TRIANGLES
        ? t * 3 + side
        : mode === FAN
          ? side === 0
            ? 0
            : t + side
          : t + (t % 2 === 1 && side > 0 ? 3 - side : side);
    const index = places[place] ?? NO_VERTEX;
    if (index === NO_VERTEX)
      throw fail('index', `A triangle of “${name}” names a vertex that is not there.`);
    into[at + k] = firstVertex + index;
  }
  return at + corners;
}

type Matrix = ReturnType<Node['getWorldMatrix']>;
const cell = (matrix: Matrix, row: number, column: number): number =>
  matrix[column * 4 + row] as number;
/** The cofactors of the upper 3 × 3, which turn normals as the matrix turns surfaces. */
const cofactor = (m: Matrix, row: number, column: number): number => {
  const [r1, r2, c1, c2] = [(row + 1) % 3, (row + 2) % 3, (column + 1) % 3, (column + 2) % 3];
  return cell(m, r1, c1) * cell(m, r2, c2) - cell(m, r1, c2) * cell(m, r2, c1);
};
const determinant = (m: Matrix): number =>
  [0, 1, 2].reduce((sum, column) => sum + cell(m, 0, column) * cofactor(m, 0, column), 0);

/** Writes positions, or directions, in world space. */
function placeVectors(
  into: Float32Array,
  accessor: Accessor,
  { firstVertex, used }: Found,
  matrix: Matrix,
  isDirection: boolean,
): void {
  const entries = Array.from({ length: 9 }, (_, k) =>
    isDirection
      ? cofactor(matrix, Math.floor(k / 3), k % 3)
      : cell(matrix, Math.floor(k / 3), k % 3),
  );
  const shift = [0, 1, 2].map((row) => (isDirection ? 0 : cell(matrix, row, 3)));
  const element: number[] = [];
  for (let v = 0; v < used.length; v++) {
    accessor.getElement(used[v] as number, element);
    const x = element[0] as number,
      y = element[1] as number,
      z = element[2] as number;
    for (let row = 0; row < 3; row++)
      into[(firstVertex + v) * 3 + row] =
        (entries[row * 3] as number) * x +
        (entries[row * 3 + 1] as number) * y +
        (entries[row * 3 + 2] as number) * z +
        (shift[row] as number);
  }
}

/**
 * Unit normals; null when a piece brings none, so that all are made anew. Those without length are
 * left at 0.
 */
function gatherNormals(
  found: readonly Found[],
  vertices: number,
): Float32Array<ArrayBuffer> | null {
  const normals = new Float32Array(vertices * 3);
  for (const each of found) {
    const {
      primitive,
      node,
      position,
      firstVertex,
      used: { length: count },
    } = each;
    const accessor = primitive.getAttribute('NORMAL');
    if (accessor?.getCount() !== position.getCount()) return null;
    const matrix = node.getWorldMatrix();
    placeVectors(normals, accessor, each, matrix, true);
    const sign = determinant(matrix) < 0 ? -1 : 1;
    for (let v = firstVertex; v < firstVertex + count; v++) {
      const length = Math.hypot(
        normals[v * 3] as number,
        normals[v * 3 + 1] as number,
        normals[v * 3 + 2] as number,
      );
      if (!(length > 0 && Number.isFinite(length))) return null;
      for (let axis = 0; axis < 3; axis++)
        normals[v * 3 + axis] = ((normals[v * 3 + axis] as number) / length) * sign;
    }
  }
  return found.length > 0 ? normals : null;
}

/**
 * One attribute over all vertices; 0 where a piece lacks it, or null when all must have it and one
 * does not.
 */
function gatherAttribute(
  found: readonly Found[],
  semantic: string,
  width: number,
  vertices: number,
  everywhere = false,
): MeshAttribute | null {
  const values = new Float32Array(vertices * width);
  const element: number[] = [];
  for (const { primitive, position, firstVertex, used } of found) {
    const accessor = primitive.getAttribute(semantic);
    if (accessor?.getCount() !== position.getCount()) {
      if (everywhere) return null;
      continue;
    }
    const own = Math.min(width, accessor.getElementSize());
    for (let v = 0; v < used.length; v++) {
      accessor.getElement(used[v] as number, element);
      for (let k = 0; k < own; k++) {
        const value = element[k] as number;
        values[(firstVertex + v) * width + k] = Number.isFinite(value) ? value : 0;
      }
    }
  }
  return { name: attributeName(semantic), width, values };
}

/**
 * Attributes beside place, normal and first texture coordinates: colours, further sets, and those
 * of the maker's own.
 */
function gatherAttributes(found: readonly Found[], vertices: number): readonly MeshAttribute[] {
  const widths = new Map<string, number>();
  for (const { primitive } of found)
    for (const semantic of primitive.listSemantics()) {
      if (/^(POSITION|NORMAL|TEXCOORD_0|TANGENT|JOINTS_\d+|WEIGHTS_\d+)$/.test(semantic)) continue;
      widths.set(
        semantic,
        Math.max(
          widths.get(semantic) ?? 0,
          Math.min(4, primitive.getAttribute(semantic)?.getElementSize() ?? 1),
        ),
      );
    }
  return [...widths]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .flatMap(([semantic, width]) => gatherAttribute(found, semantic, width, vertices) ?? []);
}

/**
 * The name an artist reads: “uv 2”, “colour”, or the maker's own without the underscore
 * glTF asks for.
 */
function attributeName(semantic: string): string {
  const [, kind, number = '0'] = /^(TEXCOORD|COLOR)_(\d+)$/.exec(semantic) ?? [];
  if (kind === 'TEXCOORD') return `uv ${String(Number(number) + 1)}`;
  if (kind === 'COLOR') return number === '0' ? 'colour' : `colour ${String(Number(number) + 1)}`;
  return semantic.replace(/^_/, '').toLowerCase();
}

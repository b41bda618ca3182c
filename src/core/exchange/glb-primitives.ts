import type { Accessor, Document, Node, Primitive } from '@gltf-transform/core';
import { fail } from './model-soup';

const TRIANGLES = 4,
  STRIP = 5,
  FAN = 6;

/** A primitive of a node that holds triangles. */
export interface Found {
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
export function findPrimitives(document: Document): { found: readonly Found[]; skipped: number } {
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

/**
 * Writes the corners of a primitive as triangles; mirrored pieces are turned round so that they
 * keep facing outwards.
 * @throws AppError where a triangle names a vertex that does not exist
 */
export function writeIndices(
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
      throw fail('index', `A triangle of “${name}” names a vertex that does not exist.`);
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

/** The determinant of the upper 3 × 3: below 0 where a piece is mirrored. */
export const determinant = (m: Matrix): number =>
  [0, 1, 2].reduce((sum, column) => sum + cell(m, 0, column) * cofactor(m, 0, column), 0);

/** Writes positions, or directions, in world space. */
export function placeVectors(
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

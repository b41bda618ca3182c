import type { MeshAttribute } from '../mesh/surface-mesh';
import { determinant, placeVectors } from './glb-primitives';
import type { Found } from './glb-primitives';

/**
 * Unit normals; null when a piece brings none, so that all are recomputed. Those without length are
 * left at 0.
 */
export function gatherNormals(
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
export function gatherAttribute(
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
export function gatherAttributes(
  found: readonly Found[],
  vertices: number,
): readonly MeshAttribute[] {
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

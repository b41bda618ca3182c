import { weldVertices } from '../mesh/topology';
import { dropCollapsed } from './model-soup';
import type { ModelSoup } from './model-soup';

/** What is mended in a model each time it is read; the file itself stays as it came. */
export interface ModelPreparation {
  /** Normals are made anew, smooth across edges flatter than so many degrees. */
  readonly smooth?: number;
  /** Vertices closer than this share of the model's bounds are put in one place. */
  readonly weld?: number;
  /** The texture coordinates are not used for maps: an automatic atlas is made. */
  readonly unwrap?: true;
  /** All triangles face the other way. */
  readonly turnRound?: true;
}
export const PREPARATION_LIMITS = { smooth: [0, 180], weld: [0, 0.05] } as const;

/** Turns triangles round and puts vertices in one place; smoothing and unwrapping follow where missing normals and atlases are made. */
export function prepareSoup(soup: ModelSoup, { smooth, weld, turnRound }: ModelPreparation): ModelSoup {
  let prepared = turnRound ? turned(soup) : soup;
  if (weld !== undefined && weld > 0) prepared = gathered(prepared, weld);
  return smooth === undefined ? prepared : { ...prepared, normals: null };
}

function turned(soup: ModelSoup): ModelSoup {
  const indices = soup.indices.slice();
  for (let k = 0; k < indices.length; k += 3) { indices[k + 1] = soup.indices[k + 2] as number; indices[k + 2] = soup.indices[k + 1] as number; }
  return { ...soup, indices, normals: soup.normals && Float32Array.from(soup.normals, (value) => -value) };
}

/** Vertices keep their attributes and seams; only their places become one. Triangles that collapse go. */
function gathered(soup: ModelSoup, share: number): ModelSoup {
  let low = Infinity, high = -Infinity;
  for (const value of soup.positions) { low = Math.min(low, value); high = Math.max(high, value); }
  const first = weldVertices(soup.positions, (high - low) * share);
  const positions = soup.positions.slice();
  for (let v = 0; v < first.length; v++) for (let axis = 0; axis < 3; axis++) positions[v * 3 + axis] = soup.positions[(first[v] as number) * 3 + axis] as number;
  const placed = soup.indices.map((vertex) => first[vertex] as number);
  const kept = dropCollapsed(soup.indices.slice(), soup.parts.slice(), placed);
  return { ...soup, positions, indices: kept.indices, parts: kept.parts };
}

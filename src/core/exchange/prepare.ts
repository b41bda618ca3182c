import type { Cure } from '../mesh/finding';
import { weldVertices } from '../mesh/topology';
import { dropCollapsed } from './model-soup';
import type { ModelSoup } from './model-soup';

/** What is corrected in a model each time it is read; the file itself is unchanged. */
export interface ModelPreparation {
  /** Normals are recomputed, smooth across edges flatter than so many degrees. */
  readonly smooth?: number;
  /** Vertices closer than this share of the model's bounds are put in one place. */
  readonly weld?: number;
  /** The texture coordinates are not used for maps: an automatic atlas is made. */
  readonly unwrap?: true;
  /** All triangles face the other way. */
  readonly flipWinding?: true;
  /** Metres that one unit of the file stands for; 1 when left out. */
  readonly unit?: number;
  /** Z points up in the file instead of Y. */
  readonly zUp?: true;
}
/** The ranges of corrections: degrees, share of the bounds, metres a unit. */
export const PREPARATION_LIMITS = { smooth: [0, 180], weld: [0, 0.05], unit: [1e-6, 1e6] } as const;

/** What a cure found by the diagnosis asks for by itself. */
const CURED: Readonly<Record<Cure, ModelPreparation>> = {
  smooth: { smooth: 40 },
  weld: { weld: 0.0005 },
  unwrap: { unwrap: true },
  flip: { flipWinding: true },
};

/**
 * Adds a cure to those applied already. One that was applied and did not help is applied more
 * strongly.
 */
export function withCure(given: ModelPreparation, cure: Cure): ModelPreparation {
  if (cure === 'weld' && given.weld !== undefined)
    return { ...given, weld: Math.min(PREPARATION_LIMITS.weld[1], given.weld * 4) };
  if (cure === 'smooth' && given.smooth !== undefined)
    return { ...given, smooth: Math.min(PREPARATION_LIMITS.smooth[1], given.smooth + 20) };
  if (cure === 'flip' && given.flipWinding) return withoutCure(given, cure);
  return { ...given, ...CURED[cure] };
}

/** Removes a cure. */
export function withoutCure(given: ModelPreparation, cure: Cure): ModelPreparation {
  const names = new Set(Object.keys(CURED[cure]));
  return Object.fromEntries(Object.entries(given).filter(([name]) => !names.has(name)));
}
/** The cures that a preparation applies. */
export const listCures = (given: ModelPreparation): readonly Cure[] =>
  (Object.keys(CURED) as Cure[]).filter((cure) =>
    Object.keys(CURED[cure]).some((name) => name in given),
  );

/** Says what a unit of the file is, or which axis points up. */
export function withUnitAndAxis(
  given: ModelPreparation,
  {
    unit = given.unit ?? 1,
    zUp = given.zUp ?? false,
  }: { readonly unit?: number; readonly zUp?: boolean },
): ModelPreparation {
  const { unit: _unit, zUp: _zUp, ...rest } = given;
  return { ...rest, ...(unit === 1 ? {} : { unit }), ...(zUp ? { zUp } : {}) };
}

/**
 * Turns triangles round and puts vertices in one place; smoothing and unwrapping follow where
 * missing normals and atlases are made.
 */
export function prepareSoup(
  soup: ModelSoup,
  { smooth, weld, flipWinding, unit, zUp }: ModelPreparation,
): ModelSoup {
  let prepared = flipWinding ? flipped(soup) : soup;
  if ((unit !== undefined && unit !== 1) || zUp)
    prepared = placed(prepared, unit ?? 1, zUp === true);
  if (weld !== undefined && weld > 0) prepared = gathered(prepared, weld);
  return smooth === undefined ? prepared : { ...prepared, normals: null };
}

/** In metres and Y up: (x, y, z) of a file whose Z points up is (x, z, −y) here. */
function placed(soup: ModelSoup, unit: number, zUp: boolean): ModelSoup {
  const along = (values: Float32Array, scale: number): Float32Array<ArrayBuffer> => {
    const result = new Float32Array(values.length);
    for (let k = 0; k < values.length; k += 3) {
      const y = values[k + 1] as number,
        z = values[k + 2] as number;
      result[k] = (values[k] as number) * scale;
      result[k + 1] = (zUp ? z : y) * scale;
      result[k + 2] = (zUp ? -y : z) * scale;
    }
    return result;
  };
  return {
    ...soup,
    positions: along(soup.positions, unit),
    normals: soup.normals && along(soup.normals, 1),
  };
}

function flipped(soup: ModelSoup): ModelSoup {
  const indices = soup.indices.slice();
  for (let k = 0; k < indices.length; k += 3) {
    indices[k + 1] = soup.indices[k + 2] as number;
    indices[k + 2] = soup.indices[k + 1] as number;
  }
  return {
    ...soup,
    indices,
    normals: soup.normals && Float32Array.from(soup.normals, (value) => -value),
  };
}

/**
 * Vertices keep their attributes and seams; only their places become one. Triangles that collapse
 * go.
 */
function gathered(soup: ModelSoup, share: number): ModelSoup {
  let low = Infinity,
    high = -Infinity;
  for (const value of soup.positions) {
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  const first = weldVertices(soup.positions, (high - low) * share);
  const positions = soup.positions.slice();
  for (let v = 0; v < first.length; v++)
    for (let axis = 0; axis < 3; axis++)
      positions[v * 3 + axis] = soup.positions[(first[v] as number) * 3 + axis] as number;
  const welded = soup.indices.map((vertex) => first[vertex] as number);
  const kept = dropCollapsed(soup.indices.slice(), soup.parts.slice(), welded);
  return { ...soup, positions, indices: kept.indices, parts: kept.parts };
}

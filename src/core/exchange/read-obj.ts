import type { MeshAttribute } from '../mesh/surface-mesh';
import { assertFinite, assertTriangles, distinctNames, dropCollapsed, fail } from './model-soup';
import type { ModelSoup } from './model-soup';

/** A polygon of a hundred thousand corners needs less. */
const LONGEST_LINE = 1_000_000;

/** Growing lists of what lines bring. */
class Gathered {
  readonly places: number[] = [];
  readonly colours: number[] = [];
  readonly normals: number[] = [];
  readonly uvs: number[] = [];
  /** Per corner: place, texture coordinates, normal, counted from 0; −1 for none. */
  readonly corners: number[] = [];
  readonly parts: number[] = [];
  readonly names: string[] = [];
  private name = '';
  private byName = new Map<string, number>();

  begin(name: string): void {
    this.name = name;
  }

  /** The part the next face belongs to. */
  part(): number {
    const name = this.name || 'Part 1';
    let part = this.byName.get(name);
    if (part === undefined) {
      part = this.names.push(name) - 1;
      this.byName.set(name, part);
    }
    return part;
  }
}

/**
 * Reads a Wavefront OBJ (B1 format of 1995): places with optional colours, texture coordinates,
 * normals, polygons (as fans), a part per object or group. Texture coordinates count upwards there,
 * downwards here.
 * @throws AppError with the line that is wrong
 */
export function readObjSoup(text: string): ModelSoup {
  const gathered = new Gathered();
  let line = 0;
  for (let from = 0; from < text.length; line++) {
    let until = text.indexOf('\n', from);
    if (until < 0) until = text.length;
    if (until - from > LONGEST_LINE)
      throw fail(
        'broken',
        `Line ${String(line + 1)} of the OBJ has more than ` +
          `${LONGEST_LINE.toLocaleString('en')} characters.`,
      );
    readLine(gathered, text.slice(from, until).trim(), line + 1);
    from = until + 1;
  }
  return assemble(gathered);
}

function readLine(gathered: Gathered, line: string, number: number): void {
  if (line === '' || line.startsWith('#')) return;
  const [word = '', ...rest] = line.split(/\s+/);
  switch (word) {
    case 'v': {
      const values = numbers(rest, 3, number);
      gathered.places.push(...values.slice(0, 3));
      if (values.length >= 6) gathered.colours.push(...values.slice(3, 6));
      break;
    }
    case 'vt': {
      const values = numbers(rest, 1, number);
      gathered.uvs.push(values[0] as number, 1 - (values[1] ?? 0));
      break;
    }
    case 'vn':
      gathered.normals.push(...numbers(rest, 3, number).slice(0, 3));
      break;
    case 'o':
    case 'g':
      gathered.begin(rest.join(' '));
      break;
    case 'f':
      readFace(gathered, rest, number);
      break;
    // Materials, smoothing groups, curves: nothing of them is a triangle.
    default:
      break;
  }
}

function numbers(words: readonly string[], least: number, line: number): number[] {
  const values = words.map(Number);
  if (values.length < least || values.some((value) => !Number.isFinite(value)))
    throw fail('broken', `Line ${String(line)} of the OBJ should hold ${String(least)} numbers.`);
  return values;
}

function readFace(gathered: Gathered, words: readonly string[], line: number): void {
  const part = gathered.part();
  assertTriangles(gathered.parts.length + words.length - 2);
  const corners = words.map((word) => {
    const [place = '', uv = '', normal = ''] = word.split('/');
    return [
      indexOf(place, gathered.places.length / 3, line),
      uv === '' ? -1 : indexOf(uv, gathered.uvs.length / 2, line),
      normal === '' ? -1 : indexOf(normal, gathered.normals.length / 3, line),
    ] as const;
  });
  for (let k = 1; k + 1 < corners.length; k++) {
    for (const corner of [corners[0], corners[k], corners[k + 1]])
      if (corner) gathered.corners.push(...corner);
    gathered.parts.push(part);
  }
}

/** Counted from 1, or backwards from the last one so far. */
function indexOf(word: string, count: number, line: number): number {
  const given = Number(word);
  const index = given < 0 ? count + given : given - 1;
  if (!Number.isInteger(index) || index < 0 || index >= count)
    throw fail('index', `Line ${String(line)} of the OBJ names a vertex that does not exist.`);
  return index;
}

/** One vertex for each distinct corner. */
function assemble(gathered: Gathered): ModelSoup {
  const { corners, places, uvs, normals, colours } = gathered;
  const count = corners.length / 3;
  assertTriangles(count / 3);
  const made = new Map<string, number>();
  const sources: number[] = [];
  const indices = new Uint32Array(count);
  for (let k = 0; k < count; k++) {
    const key = corners.slice(k * 3, k * 3 + 3).join('/');
    let index = made.get(key);
    if (index === undefined) {
      index = sources.push(k) - 1;
      made.set(key, index);
    }
    indices[k] = index;
  }
  const spread = (
    values: readonly number[],
    width: number,
    which: number,
  ): Float32Array<ArrayBuffer> | null => {
    if (sources.length === 0 || sources.some((k) => (corners[k * 3 + which] as number) < 0))
      return null;
    return Float32Array.from(
      { length: sources.length * width },
      (_, at) =>
        values[
          (corners[(sources[Math.floor(at / width)] as number) * 3 + which] as number) * width +
            (at % width)
        ] as number,
    );
  };
  const positions = spread(places, 3, 0) ?? new Float32Array();
  assertFinite(positions, 0, positions.length, 'the OBJ');
  const kept = dropCollapsed(indices, Uint32Array.from(gathered.parts));
  const attributes: MeshAttribute[] =
    colours.length === places.length && colours.length > 0
      ? [{ name: 'colour', width: 3, values: spread(colours, 3, 0) ?? new Float32Array() }]
      : [];
  return {
    positions,
    uvs: spread(uvs, 2, 1),
    normals: unitNormals(spread(normals, 3, 2)),
    attributes,
    indices: kept.indices,
    parts: kept.parts,
    partNames: distinctNames(gathered.names),
    notes:
      kept.dropped > 0 ? [`${String(kept.dropped)} triangles without area were left out.`] : [],
  };
}

function unitNormals(normals: Float32Array<ArrayBuffer> | null): Float32Array<ArrayBuffer> | null {
  if (!normals) return null;
  for (let k = 0; k < normals.length; k += 3) {
    const length = Math.hypot(
      normals[k] as number,
      normals[k + 1] as number,
      normals[k + 2] as number,
    );
    if (!(length > 0)) return null;
    for (let axis = 0; axis < 3; axis++) normals[k + axis] = (normals[k + axis] as number) / length;
  }
  return normals;
}

import { AppError } from '../base/diagnostic';
import { atlasQuality } from '../mesh/atlas';
import { smoothNormals } from '../mesh/smooth-normals';
import { completeMesh } from '../mesh/surface-mesh';
import type { MeshAttribute, SurfaceMesh } from '../mesh/surface-mesh';
import { modelFormat } from './model-format';
import { fail } from './model-soup';
import type { ModelSoup } from './model-soup';
import { prepareSoup } from './prepare';
import type { ModelPreparation } from './prepare';
import { readGlbSoup } from './read-glb';
import type { BinarySource } from './read-glb';
import { readObjSoup } from './read-obj';
import { isStretched, unwrapMesh } from './unwrap';

export interface ReadOptions {
  readonly preparation?: ModelPreparation;
  readonly dracoBinary?: BinarySource;
}

/** Edges flatter than this are shaded smoothly in models that bring no normals. */
const CREASE_RAD = 0.7;
export interface ModelImport {
  readonly mesh: SurfaceMesh;
  readonly notes: readonly string[];
}
/**
 * Reads a GLB or an OBJ, told apart by their content: all triangles in world space. Makes missing
 * normals and a missing or overlapping atlas, and says so. Throws AppError with what is wrong.
 */
export async function readModel(
  bytes: Uint8Array<ArrayBuffer>,
  name: string,
  { preparation = {}, dracoBinary }: ReadOptions = {},
): Promise<ModelImport> {
  const soup = await readSoup(bytes, dracoBinary);
  if (soup.indices.length === 0) throw fail('empty', 'The file holds no triangles.');
  return completeModel(name, prepareSoup(soup, preparation), preparation);
}

async function readSoup(
  bytes: Uint8Array<ArrayBuffer>,
  dracoBinary?: BinarySource,
): Promise<ModelSoup> {
  const format = modelFormat(bytes);
  try {
    return format === 'obj'
      ? readObjSoup(new TextDecoder().decode(bytes))
      : await readGlbSoup(bytes, dracoBinary);
  } catch (cause) {
    if (cause instanceof AppError) throw cause;
    // A description may be JSON and yet name things of the wrong kind anywhere: what stumbles over
    // it says so here.
    throw fail(
      'broken',
      'The file cannot be read: its description does not fit together.',
      400,
      cause,
    );
  }
}

/** A vertex for each of `sources`, in their order. */
function pickVertices(
  soup: ModelSoup,
  sources: Uint32Array,
): Pick<ModelSoup, 'positions' | 'normals' | 'uvs' | 'attributes'> {
  return {
    positions: pick(soup.positions, sources, 3),
    normals: soup.normals && pick(soup.normals, sources, 3),
    uvs: soup.uvs && pick(soup.uvs, sources, 2),
    attributes: soup.attributes.map((attribute): MeshAttribute => ({
      ...attribute,
      values: pick(attribute.values, sources, attribute.width),
    })),
  };
}

function pick(
  values: Float32Array,
  sources: Uint32Array,
  width: number,
): Float32Array<ArrayBuffer> {
  const result = new Float32Array(sources.length * width);
  for (let v = 0; v < sources.length; v++)
    for (let k = 0; k < width; k++)
      result[v * width + k] = values[(sources[v] as number) * width + k] as number;
  return result;
}

async function completeModel(
  name: string,
  given: ModelSoup,
  { smooth, unwrap }: ModelPreparation,
): Promise<ModelImport> {
  let soup = given;
  const notes = [...given.notes];
  if (!soup.normals) {
    const shaded = smoothNormals(
      soup,
      smooth === undefined ? CREASE_RAD : (smooth * Math.PI) / 180,
    );
    if (smooth === undefined)
      notes.push(
        'The model brought no usable normals; they were made, smooth across edges flatter ' +
          'than 40°.',
      );
    soup = {
      ...soup,
      ...pickVertices(soup, shaded.sources),
      normals: shaded.normals,
      indices: shaded.indices,
    };
  }
  const normals = soup.normals ?? new Float32Array();
  const { uvs, indices, parts, partNames } = soup;
  const quality = uvs && !unwrap && atlasQuality({ atlas: uvs, indices });
  if (uvs && quality && !quality.outside && quality.overlap < 0.02 && quality.coverage > 0.02) {
    return {
      mesh: completeMesh({
        name,
        positions: soup.positions,
        normals,
        uvs,
        atlas: uvs,
        atlasIsAutomatic: false,
        indices,
        parts,
        partNames,
        attributes: soup.attributes,
      }),
      notes,
    };
  }
  const unwrapped = await unwrapMesh(soup.positions, normals, indices);
  if (isStretched(soup.positions, indices))
    notes.push(
      'The model is far longer than its surface is wide: a vertex may lie far off by ' +
        'mistake. Maps have little room on all the rest.',
    );
  if (!unwrap)
    notes.push(
      uvs
        ? 'Its texture coordinates overlap or leave the unit square; maps use an automatic atlas.'
        : 'It has no texture coordinates; an automatic atlas was made.',
    );
  const split = pickVertices({ ...soup, normals }, unwrapped.sources);
  return {
    mesh: completeMesh({
      name,
      positions: split.positions,
      normals: split.normals ?? normals,
      uvs: split.uvs ?? unwrapped.atlas,
      atlas: unwrapped.atlas,
      atlasIsAutomatic: true,
      indices: unwrapped.indices,
      parts,
      partNames,
      attributes: split.attributes,
    }),
    notes,
  };
}

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
import type { BinarySource } from './glb-head';
import { readObjSoup } from './read-obj';
import { isStretched, unwrapMesh } from './unwrap';

/** How a model is read: its corrections, and where the Draco decoder comes from. */
export interface ReadOptions {
  readonly preparation?: ModelPreparation;
  readonly dracoBinary?: BinarySource;
}

/** Edges flatter than this are shaded smoothly in models that bring no normals. */
const CREASE_RAD = 0.7;
/** A model that was read, and what was noticed, in sentences. */
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

/** Makes what is missing, normals and an atlas, and says so. */
async function completeModel(
  name: string,
  given: ModelSoup,
  preparation: ModelPreparation,
): Promise<ModelImport> {
  const shaded = withNormals(given, preparation.smooth);
  const { soup } = shaded;
  const atlas = await withAtlas(soup, preparation.unwrap === true);
  const { parts, partNames } = soup;
  return {
    mesh: completeMesh({ name, parts, partNames, ...atlas.made }),
    notes: [...given.notes, ...shaded.notes, ...atlas.notes],
  };
}

type Shaded = ModelSoup & { readonly normals: Float32Array<ArrayBuffer> };
function withNormals(
  soup: ModelSoup,
  smooth: number | undefined,
): { readonly soup: Shaded; readonly notes: readonly string[] } {
  if (soup.normals) return { soup: { ...soup, normals: soup.normals }, notes: [] };
  const angle = smooth === undefined ? CREASE_RAD : (smooth * Math.PI) / 180;
  const { sources, normals, indices } = smoothNormals(soup, angle);
  return {
    soup: { ...soup, ...pickVertices(soup, sources), normals, indices },
    notes:
      smooth === undefined
        ? [
            'The model has no usable normals; they were computed, smooth across edges flatter ' +
              'than 40°.',
          ]
        : [],
  };
}

/** A mesh with its atlas: its own texture coordinates where they serve, else an automatic one. */
type Unwrapped = Omit<Parameters<typeof completeMesh>[0], 'name' | 'parts' | 'partNames'>;
async function withAtlas(
  soup: Shaded,
  isUnwrapWanted: boolean,
): Promise<{ readonly made: Unwrapped; readonly notes: readonly string[] }> {
  const { uvs, indices, positions, normals, attributes } = soup;
  const quality = uvs && !isUnwrapWanted && atlasQuality({ atlas: uvs, indices });
  if (uvs && quality && !quality.outside && quality.overlap < 0.02 && quality.coverage > 0.02) {
    const own = { positions, normals, indices, attributes, uvs, atlas: uvs };
    return { made: { ...own, atlasIsAutomatic: false }, notes: [] };
  }
  const { sources, atlas, indices: rewritten } = await unwrapMesh(positions, normals, indices);
  const split = pickVertices(soup, sources);
  return {
    made: {
      positions: split.positions,
      normals: split.normals ?? normals,
      uvs: split.uvs ?? atlas,
      atlas,
      atlasIsAutomatic: true,
      indices: rewritten,
      attributes: split.attributes,
    },
    notes: [
      ...(isStretched(positions, indices)
        ? [
            'The model is far longer than its surface is wide: a vertex may lie far off by ' +
              'mistake. Maps have little room on all the rest.',
          ]
        : []),
      ...(isUnwrapWanted
        ? []
        : [
            uvs
              ? 'Its texture coordinates overlap or leave the unit square; maps use an ' +
                'automatic atlas.'
              : 'It has no texture coordinates; an automatic atlas was made.',
          ]),
    ],
  };
}

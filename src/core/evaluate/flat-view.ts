import type { ResultKey } from '../base/ids';
import { scale } from '../base/vector';
import type { NetworkDocument, Triple, ValueKind } from '../graph/document';
import { findSeams } from '../mesh/seams';
import type { SamplePoints } from '../mesh/sample-points';
import { laneIndices } from '../nodes/surface-parameters';
import { encodeSrgb } from '../surface/colour-science';
import type { LoadedModel } from './loaded-model';
import type { Picture } from './picture';
import type { PointedRay } from './point-explainer';
import { EvaluationSession } from './session';

const BASE_COLOUR = laneIndices('baseColour');

/** A result in texture space: a value for each texel that shows a place of the surface. */
export interface FlatValues {
  /** Texels a side. */
  readonly size: number;
  readonly kind: Exclude<ValueKind, 'surface'>;
  /** Which texels: row × size + column, rows from the top. */
  readonly texels: Uint32Array<ArrayBuffer>;
  /** One of a scalar, three of a vector or colour; one value a texel in each. */
  readonly lanes: readonly Float32Array<ArrayBuffer>[];
  /** Where the atlas is cut: u, v of one end, u, v of the other; v grows downwards. */
  readonly seams: Float32Array<ArrayBuffer>;
}

/** Reads results in texture space; the program is kept while only values change. */
export class FlatReader {
  private session: { readonly key: ResultKey | null; readonly made: EvaluationSession } | null =
    null;
  private readonly seams = new WeakMap<object, Float32Array<ArrayBuffer>>();

  /**
   * @param key of any result; null for the finished surface. Of a surface its base colour is read
   * @param size texels a side
   * @throws CompileError when the document has errors
   */
  read(
    { analysis, mesh, maps }: LoadedModel,
    document: NetworkDocument,
    key: ResultKey | null,
    size: number,
  ): FlatValues {
    const { raster, points } = analysis.raster(size);
    if (this.session?.key !== key)
      this.session = {
        key,
        made: new EvaluationSession({
          surface: key === null,
          taps: key === null ? [] : [key],
          antialias: ['images'],
        }),
      };
    const { made } = this.session;
    const kind = key === null ? 'surface' : (made.prepare(document).slots[0]?.kind ?? 'scalar');
    const all = made.evaluate(document, mesh, points, maps);
    const isSurface = kind === 'surface';
    const lanes = isSurface ? BASE_COLOUR.map((lane) => all[lane] ?? new Float32Array()) : all;
    return {
      size,
      kind: isSurface ? 'colour' : kind,
      texels: raster.texels.slice(),
      lanes: lanes.map((lane) => lane.slice()),
      seams: this.seamsOf(mesh).slice(),
    };
  }

  private seamsOf(mesh: LoadedModel['mesh']): Float32Array<ArrayBuffer> {
    const known = this.seams.get(mesh);
    if (known) return known;
    const found = findSeams(mesh, mesh.size);
    this.seams.set(mesh, found);
    return found;
  }
}

/** How values are painted: which become black and white, and the one channel that is shown. */
export interface FlatLook {
  readonly range: readonly [number, number];
  readonly channel: number | null;
}
/** What stands where there is no number. */
const NO_NUMBER: Triple = [170, 40, 50];

/** The values as a picture; nothing where the atlas shows no surface. */
export function paintFlat(
  { size, kind, texels, lanes }: FlatValues,
  { range: [low, high], channel }: FlatLook,
): Picture {
  const pixels = new Uint8ClampedArray(size * size * 4);
  const only = kind === 'scalar' ? 0 : channel;
  const isColour = kind === 'colour' && only === null;
  for (let k = 0; k < texels.length; k++) {
    const at = (texels[k] as number) * 4;
    for (let c = 0; c < 3; c++) {
      const value = ((lanes[only ?? c]?.[k] ?? 0) - low) / (high - low);
      const shown = Math.min(1, Math.max(0, value));
      pixels[at + c] = Number.isNaN(value)
        ? (NO_NUMBER[c] as number)
        : 255 * (isColour ? encodeSrgb(shown) : shown);
    }
    pixels[at + 3] = 255;
  }
  return { width: size, height: size, pixels };
}

/** A ray that meets the surface at one of some points straight on, from just above it. */
function rayOnto({ positions, faceNormals }: SamplePoints, k: number, size: number): PointedRay {
  const three = (values: Float32Array): Triple => [
    values[k * 3] as number,
    values[k * 3 + 1] as number,
    values[k * 3 + 2] as number,
  ];
  const [place, normal] = [three(positions), three(faceNormals)];
  const above = scale(normal, size * ABOVE);
  return {
    from: [place[0] + above[0], place[1] + above[1], place[2] + above[2]],
    towards: [-normal[0], -normal[1], -normal[2]],
  };
}
/** How far above the surface a ray begins, in sizes of the object: nothing stands between. */
const ABOVE = 1e-4;

/** The ray onto what a texel shows; null where it shows nothing. */
export function rayOntoTexel(
  { analysis, mesh }: LoadedModel,
  size: number,
  texel: number,
): PointedRay | null {
  const { raster, points } = analysis.raster(size);
  const k = raster.texels.indexOf(texel);
  return k < 0 ? null : rayOnto(points, k, mesh.size);
}

/**
 * The ray onto the place where a result comes nearest to a value, among points spread over the
 * model.
 * @returns null where it is no number anywhere
 * @throws CompileError when the document has errors
 */
export function rayOntoValue(
  model: LoadedModel,
  document: NetworkDocument,
  key: ResultKey,
  value: number,
): PointedRay | null {
  const session = new EvaluationSession({ surface: false, taps: [key], antialias: [] });
  const [lane] = session.evaluate(document, model.mesh, model.uniform, model.maps, {
    isExact: true,
  });
  let [nearest, found] = [Infinity, -1];
  lane?.forEach((each, k) => {
    const apart = Math.abs(each - value);
    if (apart < nearest) [nearest, found] = [apart, k];
  });
  return found < 0 ? null : rayOnto(model.uniform, found, model.mesh.size);
}

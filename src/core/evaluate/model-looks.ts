import { assert } from '../base/assert';
import { NetworkSketch } from '../edit/network-sketch';
import type { NetworkDocument } from '../graph/document';
import { MAP_SIZE, MAP_VIEWS, resolveMapSettings } from '../mesh/analysis';
import type { MeshAnalysis, NamedMapView } from '../mesh/analysis';
import { sampleMap } from '../mesh/mesh-map';
import { triangleCount } from '../mesh/surface-mesh';
import { framingCamera, seePoints } from './camera';
import type { VisiblePoints } from './camera';
import { drawOutput } from './draw';
import { halve, paintValues } from './picture';
import type { Picture } from './picture';

/** A picture of what masks will see in a model. */
export interface ModelLook {
  readonly id: string;
  readonly title: string;
  readonly description: string;
}
const MAP_LOOKS = [...MAP_VIEWS].flatMap(([id, { look }]) => (look ? [{ id, ...look }] : []));
/** In clay, every map that has a look, and the parts. */
export const MODEL_LOOKS: readonly ModelLook[] = [
  { id: 'clay', title: 'In clay', description: 'Its shape and normals.' },
  ...MAP_LOOKS.map(({ id, title, description }) => ({ id, title, description })),
  { id: 'parts', title: 'Parts', description: 'A colour for each.' },
];

const plain = new NetworkSketch()
  .node('paint', 'surface.surface', { values: { baseColour: [0.18, 0.18, 0.18], roughness: 0.65 } })
  .finish('Clay', 'paint.surface');
const parts: NetworkDocument = {
  ...plain,
  network: new NetworkSketch().node('shown', 'model.part').inside({}),
};

/** Beyond so many triangles masks are measured at the vertices only: there are enough of them. */
const MANY_TRIANGLES = 200_000;

/**
 * A look of a model, `size` pixels square.
 * @param look the id of one of MODEL_LOOKS
 */
export function drawModelLook(analysis: MeshAnalysis, look: string, size: number): Picture {
  const { mesh } = analysis;
  const seen = seePoints(analysis, framingCamera(mesh.centre, mesh.size), size * 2, size * 2);
  const view = MAP_VIEWS.get(look);
  if (view?.look) return halve(paintMap(analysis, view, view.look, seen));
  assert(look === 'clay' || look === 'parts', `there is no look “${look}”`);
  const isClay = look === 'clay';
  // Neither reads a map.
  const noMaps = (): undefined => undefined;
  return drawOutput(
    isClay ? plain : parts,
    isClay ? 'surface' : 'shown:colour',
    analysis,
    seen,
    noMaps,
  );
}

/** A map over what is seen of the model, from its black to its white value. */
function paintMap(
  analysis: MeshAnalysis,
  { kind, given, choices }: NamedMapView,
  { black, white }: { readonly black: number; readonly white: number },
  seen: VisiblePoints,
): Picture {
  const settings = resolveMapSettings(kind, given, choices, analysis.mesh.size);
  const map =
    triangleCount(analysis.mesh) > MANY_TRIANGLES
      ? analysis.quickMap(settings, MAP_SIZE.quick)
      : analysis.fineMap(settings, MAP_SIZE.quick);
  const { atlas, count } = seen.points;
  const values = new Float32Array(count),
    texel = new Float32Array(4);
  for (let k = 0; k < count; k++) {
    sampleMap(map, atlas[k * 2] as number, atlas[k * 2 + 1] as number, texel, 0);
    values[k] = ((texel[0] as number) - black) / (white - black);
  }
  return paintValues(seen, [values], false);
}

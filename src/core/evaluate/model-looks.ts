import { NetworkSketch } from '../edit/network-sketch';
import type { NetworkDocument } from '../graph/document';
import { MAP_SIZE } from '../mesh/analysis';
import type { MeshAnalysis } from '../mesh/analysis';
import { triangleCount } from '../mesh/surface-mesh';
import { framingCamera, seePoints } from './camera';
import { drawOutput } from './draw';
import type { Picture } from './picture';

/** A picture that tells what masks will see in a model. */
export interface ModelLook {
  readonly id: string;
  readonly title: string;
  readonly tells: string;
}
export const MODEL_LOOKS: readonly ModelLook[] = [
  { id: 'clay', title: 'In clay', tells: 'Its shape and normals.' },
  { id: 'curvature', title: 'Curvature', tells: 'White on edges, black in hollows.' },
  { id: 'occlusion', title: 'Openness', tells: 'Black where something is in the way.' },
  { id: 'thickness', title: 'Thickness', tells: 'Black where it is thin.' },
  { id: 'crease', title: 'Crease bands', tells: 'White along sharp edges.' },
  { id: 'parts', title: 'Parts', tells: 'A colour for each.' },
];

const plain = new NetworkSketch()
  .node('paint', 'surface.surface', { values: { baseColour: [0.18, 0.18, 0.18], roughness: 0.65 } })
  .finish('Clay', 'paint.surface');
const sketched = (sketch: NetworkSketch): NetworkDocument => ({
  ...plain,
  network: sketch.inside({}),
});
const DRAWN: Readonly<
  Record<string, { readonly document: NetworkDocument; readonly shown: string }>
> = {
  clay: { document: plain, shown: 'surface' },
  curvature: {
    document: sketched(
      new NetworkSketch()
        .node('bend', 'model.curvature')
        .node('shown', 'ranges.remap', { values: { inLow: -0.4, inHigh: 0.4 } })
        .wire('bend.signed > shown.value'),
    ),
    shown: 'shown:value',
  },
  occlusion: {
    document: sketched(new NetworkSketch().node('shown', 'model.occlusion')),
    shown: 'shown:openness',
  },
  thickness: {
    document: sketched(new NetworkSketch().node('shown', 'model.thickness')),
    shown: 'shown:thickness',
  },
  crease: {
    document: sketched(new NetworkSketch().node('shown', 'model.crease-distance')),
    shown: 'shown:band',
  },
  parts: {
    document: sketched(new NetworkSketch().node('shown', 'model.part')),
    shown: 'shown:colour',
  },
};

/** Beyond so many triangles masks are measured at the vertices only: there are enough of them. */
const MANY_TRIANGLES = 200_000;

/** A look of a model, `size` pixels square. */
export function drawModelLook(analysis: MeshAnalysis, look: string, size: number): Picture {
  const drawn = DRAWN[look];
  if (!drawn) throw new Error(`Invariant broken: there is no look “${look}”`);
  const measure =
    triangleCount(analysis.mesh) > MANY_TRIANGLES
      ? analysis.quickMap.bind(analysis)
      : analysis.fineMap.bind(analysis);
  const seen = seePoints(
    analysis,
    framingCamera(analysis.mesh.centre, analysis.mesh.size),
    size * 2,
    size * 2,
  );
  return drawOutput(drawn.document, drawn.shown, analysis, seen, (settings) =>
    measure(settings, MAP_SIZE.quick),
  );
}

/** What would change a point most: the derivative, against finite differences of the picture. */
import { framingCamera, seePoints } from '@/core/evaluate/camera';
import { LoadedModel } from '@/core/evaluate/loaded-model';
import { outputGlsl } from '@/core/evaluate/output-glsl';
import { PointExplainer } from '@/core/evaluate/point-explainer';
import type { PointedRay } from '@/core/evaluate/point-explainer';
import { sceneLighting } from '@/core/evaluate/lighting';
import { EvaluationSession } from '@/core/evaluate/session';
import { getModelScale } from '@/core/evaluate/map-demands';
import { outputEquation } from '@/core/edit/equation';
import { setValue } from '@/core/edit/nodes';
import type { NetworkDocument } from '@/core/graph/document';
import { sampleSurface, shadePoint } from '@/core/surface/shade';
import { displayColour } from '@/core/surface/tone';
import { pickPoints } from '@/core/mesh/sample-points';
import { documentOf, node } from '../support/networks';
import { demoModel } from '../support/ready-card';

const loaded = demoModel('study').then(({ analysis }) => new LoadedModel(analysis.mesh));
const painted = documentOf(
  [
    node('noise', 'patterns.noise', { scale: 3 }),
    node('step', 'ranges.smoothstep', { edge: 0.5, width: 0.9 }),
    node('idle', 'math.math', { a: 0.2, b: 0.3 }, { operation: 'add' }),
    node('paint', 'surface.surface', { metalness: 0, baseColour: [0.5, 0.3, 0.2] }),
  ],
  ['noise:value > step:value', 'step:mask > paint:roughness', 'paint:surface > @out:surface'],
);

/** A ray from the framing camera through a pixel near the middle of the model. */
async function aim(): Promise<{ ray: PointedRay; shown: (document: NetworkDocument) => number[] }> {
  const { analysis, mesh } = await loaded;
  const camera = framingCamera(mesh.centre, mesh.size);
  const seen = seePoints(analysis, camera, 31, 31);
  const place = seen.pixels.indexOf(15 * 31 + 15);
  const view = [0, 1, 2].map((k) => seen.views[place * 3 + k] ?? 0) as [number, number, number];
  const ray: PointedRay = {
    from: camera.eye,
    towards: [-view[0], -view[1], -view[2]],
  };
  const at = pickPoints(mesh, seen.points, [place]);
  const session = new EvaluationSession({ surface: true, taps: [] });
  return {
    ray,
    shown: (document) => {
      const lanes = session.evaluate(document, mesh, at, () => undefined);
      const surface = sampleSurface(lanes, 0);
      const lit = sceneLighting(document, analysis, at)(0);
      return [...displayColour(shadePoint(surface, view, lit), surface.unlit, false)];
    },
  };
}

it('is the slope of the shown colour, sorted; what changes nothing is left out', async () => {
  const { ray, shown } = await aim();
  const found = new PointExplainer().strongest(await loaded, painted, ray);
  expect(found.map(({ node: id }) => id)).not.toContain('idle');
  expect(found.length).toBeGreaterThan(3);
  expect([...found].sort((a, b) => b.strength - a.strength)).toEqual(found);
  const edge = found.find(({ node: id, input }) => id === 'step' && input === 'edge');
  const half = 1 / 4096;
  const [below, above] = [-half, half].map((step) =>
    shown(setValue(painted, null, 'step', 'edge', 0.5 + step)),
  );
  const slope =
    Math.max(...(below ?? []).map((channel, k) => Math.abs(channel - (above?.[k] ?? 0)))) /
    255 /
    (2 * half);
  expect((edge?.strength ?? NaN) / slope).toBeCloseTo(1, 1);
});

it('is nothing where a ray meets nothing', async () => {
  const away: PointedRay = { from: [0, 0, 9], towards: [0, 1, 0] };
  expect(new PointExplainer().strongest(await loaded, painted, away)).toEqual([]);
});

describe('an output as text', () => {
  it('has a line for each node it depends on, in the order of computing', () => {
    const lines = outputEquation(painted, null, { node: 'step', output: 'mask' });
    expect(lines.map((line) => line.node)).toEqual(['noise', 'step']);
    expect(lines[1]?.text).toContain('edge: 0.5');
  });
  it('is a function of GLSL with its values as constants', async () => {
    const { mesh } = await loaded;
    const text = outputGlsl(painted, 'step:mask', getModelScale(mesh));
    expect(text).toContain('void evaluate(');
    expect(text).toContain('out float out_value');
    expect(text).toContain('in float in_position_x');
    expect(text).toContain('(0.8999999761581421)');
    expect(outputGlsl(painted, 'gone:mask', getModelScale(mesh))).toBeNull();
  });
});

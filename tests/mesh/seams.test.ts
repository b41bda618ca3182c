/** Cuts of an atlas, and what is seen in texture space. */
import { FlatReader, paintFlat, rayOntoTexel, rayOntoValue } from '@/core/evaluate/flat-view';
import { LoadedModel } from '@/core/evaluate/loaded-model';
import { PointExplainer } from '@/core/evaluate/point-explainer';
import { ShadowOpacityReader } from '@/core/evaluate/shadow-opacity';
import { DEMO_MODELS } from '@/core/mesh/demo-models';
import { findSeams } from '@/core/mesh/seams';
import { meshOfSketch, unitTile } from '../support/meshes';
import { documentOf, node } from '../support/networks';

const square = (atlas: readonly number[]) => ({
  positions: Float32Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 0, 0, 1, 1, 0, 0, 1, 0]),
  indices: Uint32Array.from([0, 1, 2, 3, 4, 5]),
  atlas: Float32Array.from(atlas),
});

it('finds the border of a chart, and the edge along which two charts are cut', () => {
  const whole = square([0, 0, 1, 0, 1, 1, 0, 0, 1, 1, 0, 1]);
  expect(findSeams(whole, 1)).toHaveLength(4 * 4);
  const cut = square([0, 0, 0.4, 0, 0.4, 0.4, 0.5, 0.5, 1, 1, 0.5, 1]);
  // The edge between them is a seam on either side.
  expect(findSeams(cut, 1)).toHaveLength(6 * 4);
});

const document = documentOf([node('p', 'model.position')]);
function buoy(): LoadedModel {
  const sketch = DEMO_MODELS.find(({ name }) => name === 'buoy')?.make();
  if (!sketch) throw new Error('no buoy');
  return new LoadedModel(meshOfSketch(sketch));
}

it('shows each texel what the whole evaluation gives at its place', () => {
  const model = buoy();
  const values = new FlatReader().read(model, document, 'p:y', 128);
  expect(values.kind).toBe('scalar');
  const { raster, points } = model.analysis.raster(128);
  expect([...values.texels]).toEqual([...raster.texels]);
  values.lanes[0]?.forEach((value, k) => {
    expect(value).toBe(points.positions[k * 3 + 1]);
  });
  const picture = paintFlat(values, { range: [-10, 10], channel: null });
  const [first = 0] = values.texels;
  const grey = ((values.lanes[0]?.[0] ?? 0) + 10) / 20;
  expect(picture.pixels[first * 4]).toBe(Math.round(255 * Math.fround(grey)));
});

it('leads from a texel and from a value to the place on the surface', () => {
  const model = buoy();
  const { raster, points } = model.analysis.raster(128);
  for (const k of [0, 500, 2000]) {
    const ray = rayOntoTexel(model, 128, raster.texels[k] ?? -1);
    const found = ray && new PointExplainer().explain(model, document, [ray]);
    for (const axis of [0, 1, 2] as const)
      expect(found?.points[0]?.place[axis]).toBeCloseTo(points.positions[k * 3 + axis] ?? NaN, 4);
  }
  const covered = new Set(raster.texels);
  const empty = Array.from({ length: 128 * 128 }, (_, k) => k).find((k) => !covered.has(k));
  expect(rayOntoTexel(model, 128, empty ?? -1)).toBeNull();
  const ray = rayOntoValue(model, document, 'p:y', 0.2);
  expect(ray?.from[1]).toBeCloseTo(0.2, 1);
});

it('reads what a surface stops of the light', () => {
  const model = new LoadedModel(unitTile());
  const half = documentOf(
    [node('s', 'surface.surface', { opacity: 0.25 })],
    ['s:surface > @out:surface'],
  );
  const { size, texels } = new ShadowOpacityReader().read(model, half);
  const [inside = 0] = model.analysis.raster(size).raster.texels;
  expect(texels[inside]).toBe(63);
});

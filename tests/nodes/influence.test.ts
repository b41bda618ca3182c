import { setAmount } from '@/core/edit/amounts';
import { addDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import { setValue } from '@/core/edit/nodes';
import { disconnect } from '@/core/edit/strands';
import { seePoints, framingCamera } from '@/core/evaluate/camera';
import { InfluenceFinder } from '@/core/evaluate/influence';
import { drawInfluence, influenceShares } from '@/core/evaluate/influence-picture';
import { LoadedModel } from '@/core/evaluate/loaded-model';
import { EvaluationSession } from '@/core/evaluate/session';
import type { Law, NetworkDocument } from '@/core/graph/document';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import { meshOfSketch } from '../support/meshes';
import { documentOf, node } from '../support/networks';

const model = new LoadedModel(
  meshOfSketch(
    new ShapeSketch()
      .nextPart('ball')
      .sphere([0, 0, 0], 1, 24)
      .box([1.2, 0, 0], [0.5, 1, 0.5], 0.1)
      .finish(3),
  ),
);
const camera = framingCamera(model.mesh.centre, model.mesh.size);
const WIDTH = 72;

/** Salt and soot, each by a threshold of its own; the dial drives one of the values. */
function withDial(inner: string, input: string, law: Law) {
  const document = documentOf(
    [
      node('grain', 'patterns.noise', { scale: 3 }),
      node('salt', 'ranges.threshold', { level: 0.5, width: 0.1 }),
      node('blots', 'patterns.cell-noise', { scale: 2 }),
      node('soot', 'ranges.smoothstep', { edge: 0.3, width: 0.2 }),
      node('both', 'masks.union'),
      node('end', 'surface.surface'),
    ],
    [
      'grain:value > salt:value',
      'blots:nearest > soot:value',
      'salt:mask > both:masks',
      'soot:mask > both:masks',
      'both:mask > end:roughness',
      'end:surface > @out:surface',
    ],
  );
  const { document: packed, groupId } = groupSelection(document, {
    board: null,
    ids: ['grain', 'salt', 'blots', 'soot', 'both'],
    name: 'Dirt',
    path: [],
  });
  const made = addDial(packed, groupId, inner, input, law, 'Trial');
  if (!made) throw new Error(`${law} is not offered`);
  const card = made.document.network.nodes.find(({ group }) => group === groupId)?.id ?? '';
  const dial = made.document.groups[groupId]?.dials[0];
  if (!dial) throw new Error('no dial');
  return { document: made.document, place: { path: [], node: card, input: dial.id }, dial };
}

/** Pixels that change at any of many settings, each compiled and evaluated anew. */
function bruteForce(
  document: NetworkDocument,
  { node: card, input }: { readonly node: string; readonly input: string },
  settings: readonly number[],
): ReadonlySet<number> {
  const seen = seePoints(model.analysis, camera, WIDTH, WIDTH);
  const look = (value: number | undefined) =>
    new EvaluationSession({ surface: true, taps: [], antialias: [] }).evaluate(
      setValue(document, null, card, input, value),
      model.mesh,
      seen.points,
      model.measured,
    );
  const now = look(undefined);
  const changed = new Set<number>();
  for (const setting of settings)
    look(setting).forEach((lane, l) => {
      seen.pixels.forEach((pixel, k) => {
        if (Math.abs((lane[k] ?? 0) - (now[l]?.[k] ?? 0)) > 1e-5) changed.add(pixel);
      });
    });
  return changed;
}

describe('the region of a dial', () => {
  it.each([
    ['salt', 'level', 'lift'],
    ['soot', 'width', 'times'],
    ['grain', 'scale', 'times'],
  ] as const)('of %s %s by %s has the pixels that brute force finds', (inner, input, law) => {
    const { document, place, dial } = withDial(inner, input, law);
    const found = new InfluenceFinder().find(model, document, place, null, camera, WIDTH);
    if (!found) throw new Error('nothing was found');
    const [low, high] = dial.soft;
    const settings = Array.from({ length: 25 }, (_, k) => low + ((high - low) * k) / 24);
    const truth = bruteForce(document, place, settings);
    const visible = found.strength.filter((value) => !Number.isNaN(value)).length;
    expect(truth.size).toBeGreaterThan(visible * 0.02);
    let apart = 0;
    found.reach.forEach((isIn, pixel) => {
      if ((isIn === 1) !== truth.has(pixel)) apart++;
    });
    expect(apart).toBeLessThanOrEqual(visible * 0.01);
  });

  it('has as its strength the derivative, and compiles once', () => {
    const document = documentOf(
      [node('end', 'surface.surface', { roughness: 0.4 })],
      ['end:surface > @out:surface'],
    );
    const finder = new InfluenceFinder();
    const place = { path: [], node: 'end', input: 'roughness' };
    const found = finder.find(model, document, place, null, camera, WIDTH);
    // Roughness is a parameter of the surface itself: it rises by the whole slider, 1, everywhere.
    for (const value of found?.strength ?? [])
      if (!Number.isNaN(value)) expect(value).toBeCloseTo(1, 3);
    expect(influenceShares(found as NonNullable<typeof found>)).toEqual({ now: 1, ever: 1 });
    finder.find(model, setValue(document, null, 'end', 'roughness', 0.6), place, null, camera, 40);
    expect(finder.compilations).toBe(1);
  });

  it('is empty for a dial that drives nothing which is seen', () => {
    const { document, place } = withDial('salt', 'level', 'lift');
    const off = setValue(document, null, 'end', 'metalness', 1);
    const cut = { ...off, network: { ...off.network, strands: off.network.strands.slice(0, 0) } };
    const end = document.network.strands.find(({ to }) => to.node === '@out');
    const alone = { ...cut, network: { ...cut.network, strands: end ? [end] : [] } };
    const found = new InfluenceFinder().find(model, alone, place, null, camera, WIDTH);
    expect(found && influenceShares(found)).toEqual({ now: 0, ever: 0 });
    const picture = found && drawInfluence(found);
    expect(picture?.pixels.some((byte, k) => k % 4 === 3 && byte > 0)).toBe(false);
  });
});

it('finds what a node and a strand make of the picture, by the difference without them', () => {
  const { document } = withDial('salt', 'level', 'times');
  const [group] = Object.keys(document.groups);
  const card = document.network.nodes.find((each) => each.group === group)?.id ?? '';
  const path = [card];
  const lanesOf = (shown: NetworkDocument): readonly Float32Array[] => {
    const seen = seePoints(model.analysis, camera, WIDTH, Math.round(WIDTH / camera.aspect));
    return new EvaluationSession({ surface: true, taps: [], antialias: [] }).evaluate(
      shown,
      model.mesh,
      seen.points,
      model.measured,
    );
  };
  const expected = (without: NetworkDocument): number => {
    const [a, b] = [lanesOf(document), lanesOf(without)];
    const count = a[0]?.length ?? 0;
    const differs = (k: number): boolean =>
      a.some((lane, l) => Math.abs((lane[k] ?? 0) - (b[l]?.[k] ?? 0)) > 1e-6);
    return Array.from({ length: count }, (_, k) => k).filter(differs).length / count;
  };
  const inner = document.groups[group ?? '']?.network;
  const strand = inner?.strands.find(({ from }) => from.node === 'soot');
  if (!strand) throw new Error('no strand');
  const finder = new InfluenceFinder();
  const ofStrand = finder.find(
    model,
    document,
    { path, part: 'strand', id: strand.id },
    null,
    camera,
    WIDTH,
  );
  const cut = disconnect(document, group ?? '', [strand.id]);
  expect(ofStrand && influenceShares(ofStrand).ever).toBeCloseTo(expected(cut), 6);
  const ofNode = finder.find(
    model,
    document,
    { path, part: 'node', node: 'soot' },
    null,
    camera,
    WIDTH,
  );
  const off = setAmount(document, group ?? '', 'soot', 0);
  expect(ofNode && influenceShares(ofNode).ever).toBeCloseTo(expected(off), 6);
  expect(ofNode?.largest).toBeGreaterThan(0);
  const gone = { path, part: 'strand', id: 'nowhere' } as const;
  expect(finder.find(model, document, gone, null, camera, WIDTH)).toBeNull();
});

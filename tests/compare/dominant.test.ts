/**
 * What accounts for a difference: of a hundred made pairs of states, each with one change that
 * matters among thirty, it comes first in all; the shares sum as stated.
 */
import { seededRandom } from '@/core/base/random';
import { measureChanges } from '@/core/compare/change-shares';
import { listStateChanges } from '@/core/compare/state-changes';
import type { SeenState } from '@/core/compare/state-changes';
import { framingCamera } from '@/core/evaluate/camera';
import { MaterialPainter } from '@/core/evaluate/material-painter';
import { changeNode } from '@/core/edit/board';
import type { NetworkDocument, NodeInstance } from '@/core/graph/document';
import { documentOf, node } from '../support/networks';
import { demoModel } from '../support/ready-card';

const PAIRS = 100;
const CHANGES = 30;
const SIDE = 12;

/** A chain of colours laid over each other, each by a little of its own noise. */
function chain(count: number): NetworkDocument {
  const ids = Array.from({ length: count }, (_, k) => String(k));
  return documentOf(
    [
      ...ids.flatMap((k) => [
        node(`noise${k}`, 'patterns.noise', { scale: 2 + Number(k) }),
        node(`blend${k}`, 'colour.blend', { where: 1, amount: 0.05 }),
      ]),
      node('main', 'patterns.stripes', { scale: 3 }),
      node('paint', 'colour.blend', { where: 1, amount: 0.9 }),
      node('end', 'surface.surface', { roughness: 0.8 }),
    ],
    [
      ...ids.slice(1).map((k) => `blend${String(Number(k) - 1)}:colour > blend${k}:under`),
      ...ids.map((k) => `noise${k}:value > blend${k}:over`),
      `blend${String(count - 1)}:colour > paint:under`,
      'main:value > paint:over',
      'paint:colour > end:baseColour',
      'end:surface > @out:surface',
    ],
  );
}

type Edit = (document: NetworkDocument) => NetworkDocument;
const on =
  (id: string, change: (each: NodeInstance) => NodeInstance): Edit =>
  (document) =>
    changeNode(document, null, id, change);
const value =
  (input: string, to: number) =>
  (each: NodeInstance): NodeInstance => ({ ...each, values: { ...each.values, [input]: to } });
const option =
  (name: string, to: string) =>
  (each: NodeInstance): NodeInstance => ({ ...each, options: { ...each.options, [name]: to } });

/** Changes that matter: a mode, a value, a node that is off, a strand. */
const DOMINANT: readonly (readonly [node: string, edit: Edit])[] = [
  ['paint', on('paint', option('mode', 'multiply'))],
  ['paint', on('paint', option('mode', 'difference'))],
  ['paint', on('paint', value('amount', 0.1))],
  ['paint', on('paint', (each) => ({ ...each, off: true }))],
  ['paint', on('paint', (each) => ({ ...each, amount: 0.3 }))],
  [
    'end',
    (document) => ({
      ...document,
      network: {
        ...document.network,
        strands: document.network.strands.filter(({ to }) => to.input !== 'baseColour'),
      },
    }),
  ],
];

const model = demoModel('study');
async function painter() {
  const { analysis, maps } = await model;
  const camera = framingCamera(analysis.mesh.centre, analysis.mesh.size);
  const seen = (document: NetworkDocument): SeenState => ({ document, model: 'study', camera });
  const made = new MaterialPainter({ analysis, maps }, SIDE, camera);
  return { seen, draw: ({ document }: SeenState) => made.paint(document) };
}
const sumOf = (shares: readonly (number | null)[]): number =>
  shares.reduce<number>((sum, share) => sum + (share ?? 0), 0);

it('puts the one change that matters first, in all of a hundred pairs', async () => {
  const random = seededRandom(2026);
  const { seen, draw } = await painter();
  const before = chain(CHANGES);
  const missed: string[] = [];
  for (let pair = 0; pair < PAIRS; pair++) {
    const small = Array.from({ length: CHANGES - 1 }, (_, k) =>
      random() < 0.5
        ? on(`blend${String(k)}`, value('amount', 0.05 + 0.02 * random()))
        : on(`noise${String(k)}`, value('scale', 2 + k + 0.3 * random())),
    );
    const [place, edit] = DOMINANT[pair % DOMINANT.length] as (typeof DOMINANT)[number];
    const edits = small.toSpliced(Math.floor(random() * small.length), 0, edit);
    const after = edits.reduce((document, each) => each(document), before);
    const changes = listStateChanges(seen(before), seen(after), (id) => id);
    expect(changes).toHaveLength(CHANGES);
    const found = measureChanges(seen(before), seen(after), changes, draw);
    const [first] = found.changes;
    if (first?.change.node !== place && !first?.change.what.includes('base colour'))
      missed.push(`${String(pair)}: ${first?.change.place ?? ''} ${first?.change.what ?? ''}`);
    expect(found.sum).toBeCloseTo(sumOf(found.changes.map(({ share }) => share)), 9);
  }
  expect(missed).toEqual([]);
}, 300_000);

it('accounts for all where there is one change, and puts it back to the bit', async () => {
  const { seen, draw } = await painter();
  const before = chain(3);
  for (const [, edit] of DOMINANT) {
    const after = edit(before);
    const changes = listStateChanges(seen(before), seen(after), (id) => id);
    const found = measureChanges(seen(before), seen(after), changes, draw);
    expect(found.changes).toHaveLength(1);
    expect(found.changes[0]?.share).toBe(1);
    const undone = changes[0]?.undo(seen(after));
    expect(undone && draw(undone).pixels).toEqual(found.pictures[0].pixels);
  }
});

it('tells the model and the camera as changes, too', async () => {
  const { seen, draw } = await painter();
  const before = seen(chain(2));
  const camera = { ...before.camera, eye: [3, 0.2, 0.1] as const };
  const after = { ...before, camera, model: 'buoy' };
  const changes = listStateChanges(before, after, (id) => `the ${id}`);
  expect(changes.map(({ what, after: is }) => [what, is])).toEqual([
    ['model', 'the buoy'],
    ['camera', 'eye at 3.000, 0.2000, 0.1000'],
  ]);
  const back = changes.reduce<SeenState>((state, { undo }) => undo(state), after);
  expect(back).toEqual(before);
  expect(draw(back).pixels).toEqual(draw(before).pixels);
});

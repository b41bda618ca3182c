import 'fake-indexeddb/auto';
import { client } from '@/state/client';
import { makeEditing } from '@/state/editing';
import { Evaluation } from '@/state/evaluation';
import { queryClient } from '@/state/query-client';
import { createStores } from '@/state/stores';
import type { Stores } from '@/state/stores';
import { emptyDocument } from '@/core/graph/document';
import type { NetworkDocument } from '@/core/graph/document';
import type { WorkerPool } from '@/workers/pool';
import type { DecodedImage } from '@/core/exchange/image-types';
import { documentOf, node } from '../support/networks';
import { FakeClock, FakeStage, modelFile, poolHere, refuses, says, serve, until } from './fakes';
import type { Answering, Asked } from './fakes';

const network = documentOf(
  [node('n', 'patterns.noise', { scale: 5 }), node('s', 'surface.surface')],
  ['n:value > s:roughness', 's:surface > @out:surface'],
);
const IMAGE = 'ab'.repeat(32);
const pixels: DecodedImage = {
  format: 'PNG',
  width: 2,
  height: 2,
  pixels: new Uint8Array(16).fill(128),
  top: 255,
};

interface Desk {
  readonly stores: Stores;
  readonly pool: WorkerPool;
  readonly clock: FakeClock;
  readonly evaluation: Evaluation;
  readonly asked: Asked[];
  readonly edit: (change: (document: NetworkDocument) => NetworkDocument) => void;
  readonly calm: () => Promise<void>;
}
let desk: Desk | null = null;

const models: Answering = ({ path }) => {
  if (path.includes('/maps')) return new Response(null, { status: 204 });
  const [, name] = /^\/api\/models\/demo-(\w+)$/.exec(path) ?? [];
  return name ? modelFile(name) : refuses(404);
};

function open(document = network, answer: Answering = models, isBroken = false): Desk {
  const stores = createStores();
  const asked = serve(answer);
  const pool = poolHere();
  const clock = new FakeClock();
  const editing = makeEditing(stores);
  editing.openDocument({ document, materialId: 'm', modelId: 'demo-tile', revision: 1 });
  const evaluation = new Evaluation({ stores, pool, client, clock }, () =>
    isBroken ? Promise.reject(new Error('The image is broken.')) : Promise.resolve(pixels),
  );
  desk = {
    stores,
    pool,
    clock,
    evaluation,
    asked,
    edit: (change) => {
      editing.commit('Edited', change);
    },
    calm: () => until(() => evaluation.isIdle && !evaluation.findings.isBusy, 'calm'),
  };
  return desk;
}

beforeEach(() => {
  queryClient().clear();
});
afterEach(() => {
  desk?.evaluation.close();
  desk = null;
});

describe('the evaluation', () => {
  it('shows a model: results, statistics, kinds, and a program for the stage', async () => {
    const { evaluation, stores, calm } = open();
    const stage = new FakeStage('program');
    const detach = evaluation.attach(stage);
    expect(await evaluation.show('demo-tile', 'Tile')).toEqual([]);
    await calm();
    const { taps, kinds, problem, appearance } = stores.results.getState();
    expect(problem).toBeNull();
    expect([...taps.keys()]).toEqual(['n:value', 's:surface']);
    expect(taps.get('n:value')?.statistics?.minimum).toBeGreaterThan(-0.01);
    expect(kinds.get('s:surface')).toBe('surface');
    expect(appearance?.opacityMode).toBe('opaque');
    expect(stores.stage.getState().model?.scale.size).toBeGreaterThan(0);
    for (const told of ['current model', 'current program', 'current values', 'scene', 'lights 2'])
      expect(stage.told).toContain(told);
    expect(evaluation.counts).toMatchObject({ stagePrograms: 1, compilations: 1 });
    detach();
    expect(stage.told.at(-1)).toBe('remove current');
  });

  it('sends values at once, and makes a program only when the structure changes', async () => {
    const { evaluation, edit, calm } = open();
    const stage = new FakeStage('program');
    evaluation.attach(stage);
    await evaluation.show('demo-tile', 'Tile');
    await calm();
    const before = stage.values.get('current');
    edit((document) => ({
      ...document,
      network: {
        ...document.network,
        nodes: document.network.nodes.map((each) => ({ ...each, values: { scale: 9 } })),
      },
    }));
    await calm();
    expect(stage.values.get('current')).not.toEqual(before);
    expect(evaluation.counts.stagePrograms).toBe(1);
    edit(() => documentOf([node('n', 'patterns.checks')]));
    await calm();
    expect(evaluation.counts.stagePrograms).toBe(2);
  });

  it('fills the buffer of a slow stage, shared out to the workers', async () => {
    const { evaluation, calm, stores } = open();
    const stage = new FakeStage('workers');
    evaluation.attach(stage);
    await evaluation.show('demo-tile', 'Tile');
    await calm();
    expect(stage.told).toContain('current touch');
    const fill = stage.fills.get('current');
    const triangles = new Uint32Array(100);
    const weights = new Float32Array(200).fill(0.25);
    const sample = { eye: [0, 1, 2], pixelRad: 0.001 } as const;
    const parts = await fill?.('coarse 1', triangles, weights, false, sample);
    expect(parts?.count).toBe(100);
    expect(parts?.parts.length).toBe(3);
    stores.view.setState({ pin: 'n:value' });
    const pinned = await fill?.('fine 1', new Uint32Array(8), new Float32Array(16), true, sample);
    expect(pinned?.kind).toBe('scalar');
  });

  it('keeps the last results when a network has errors, and says all that is wrong', async () => {
    const { evaluation, stores, edit, calm } = open();
    evaluation.attach(new FakeStage('program'));
    await evaluation.show('demo-tile', 'Tile');
    await calm();
    edit(() =>
      documentOf([node('a', 'patterns.future'), node('b', 'patterns.later'), node('c', 'x.y')]),
    );
    await calm();
    await until(() => stores.results.getState().problem !== null, 'a problem');
    expect(stores.results.getState().problem?.findings).toHaveLength(3);
    expect([...stores.results.getState().taps.keys()]).toContain('n:value');
    const { findings } = stores.findings.getState();
    expect(findings.map(({ code, place }) => [code, place.node])).toEqual([
      ['node.unknown-type', 'a'],
      ['node.unknown-type', 'b'],
      ['node.unknown-type', 'c'],
      ['network.no-surface', undefined],
    ]);
    edit(() => network);
    await calm();
    expect(stores.results.getState().problem).toBeNull();
    expect(stores.findings.getState().findings).toEqual([]);
  });

  it('goes on when workers end, whichever they are', async () => {
    const { evaluation, pool, stores, edit, calm } = open();
    evaluation.attach(new FakeStage('program'));
    await evaluation.show('demo-tile', 'Tile');
    await calm();
    for (const place of [0, 1, 2]) {
      pool.kill(place);
      edit(() => documentOf([node('n', 'patterns.noise', { scale: place + 20 })]));
      await calm();
      await until(() => stores.results.getState().taps.has('n:value'), 'results');
      await until(() => stores.results.getState().problem === null, 'no problem');
    }
    await expect(pool.evaluator.texelCount('demo-tile', 8)).resolves.toBeGreaterThan(0);
  });

  it('shows looks, lights, pins and the surroundings as they are chosen', async () => {
    const { evaluation, stores, edit, calm } = open();
    const stage = new FakeStage('program');
    evaluation.attach(stage);
    await evaluation.show('demo-tile', 'Tile');
    await calm();
    stores.view.setState({ pin: 'n:value', look: 'exaggerated' });
    await calm();
    expect(stage.told.filter((each) => each.startsWith('look exaggerated')).length).toBeGreaterThan(
      0,
    );
    edit((document) => ({ ...document, opacityMode: 'dithered' }));
    edit((document) => ({ ...document, lights: [], surroundings: { turn: 20, strength: 2 } }));
    await calm();
    expect(stage.told).toContain('current appearance dithered');
    expect(stage.told).toContain('lights 0');
  });

  it('finds what is under the pointer', async () => {
    const { evaluation } = open();
    expect(await evaluation.questions.pick([0, 1, 0], [0, -1, 0])).toBeNull();
    await evaluation.show('demo-tile', 'Tile');
    await until(() => evaluation.counts.evaluations > 0, 'results');
    const hit = await evaluation.questions.pick([0.05, 1, 0.05], [0, -1, 0]);
    expect(hit?.kind).toBe('colour');
    expect(hit?.place[1]).toBeCloseTo(0, 1);
    expect(await evaluation.questions.pick([0, 5, 0], [0, 1, 0])).toBeNull();
  });

  it('says which model cannot be shown, and shows it when asked again later', async () => {
    let isThere = false;
    const { evaluation } = open(network, (request) => (isThere ? models(request) : refuses(404)));
    await expect(evaluation.show('demo-tile', 'Tile')).rejects.toThrow('Refused with 404.');
    isThere = true;
    expect(await evaluation.show('demo-tile', 'Tile')).toEqual([]);
  });
});

describe('images', () => {
  const kelp = { image: IMAGE, name: 'kelp.png' };
  const shown = documentOf(
    [node('i', 'patterns.image', { image: kelp }), node('s', 'surface.surface')],
    ['i:colour > s:baseColour', 's:surface > @out:surface'],
  );

  it('come into the workers and onto the stage', async () => {
    const { evaluation, stores, calm } = open(shown, (request) =>
      request.path.includes(IMAGE) ? new Response(new Uint8Array([1])) : models(request),
    );
    const stage = new FakeStage('program');
    evaluation.attach(stage);
    await evaluation.show('demo-tile', 'Tile');
    await until(() => stores.results.getState().images.get(IMAGE)?.state === 'ready', 'an image');
    await calm();
    await until(() => stage.told.includes('current image 0'), 'an image on the stage');
    await until(() => stores.results.getState().readings.get('i') === 'colour', 'a reading');
  });

  it('that cannot be had are findings at their nodes, and are asked for again later', async () => {
    const { evaluation, stores, clock, edit, asked, calm } = open(shown);
    evaluation.attach(new FakeStage('program'));
    await evaluation.show('demo-tile', 'Tile');
    await until(() => stores.findings.getState().findings.length > 0, 'a finding');
    expect(stores.findings.getState().findings[0]).toMatchObject({
      code: 'image.unavailable',
      severity: 'warning',
      place: { board: null, node: 'i', input: 'image' },
    });
    const times = (): number => asked.filter(({ path }) => path.includes(IMAGE)).length;
    const before = times();
    edit((document) => ({ ...document, name: 'Again' }));
    await calm();
    expect(times()).toBe(before);
    clock.pass(11_000);
    edit((document) => ({ ...document, name: 'Later' }));
    await until(() => times() > before, 'another try');
  });

  it('that are broken say why', async () => {
    const answer: Answering = (request) =>
      request.path.includes(IMAGE) ? new Response(new Uint8Array([1])) : models(request);
    const { evaluation, stores } = open(shown, answer, true);
    await evaluation.show('demo-tile', 'Tile');
    await until(() => stores.results.getState().images.get(IMAGE)?.state === 'failed', 'a failure');
    expect(stores.results.getState().images.get(IMAGE)).toMatchObject({
      message: expect.stringContaining('The image is broken.') as string,
    });
  });
});

describe('models beside the current one', () => {
  const beside = (
    models: NonNullable<NetworkDocument['companions']>['models'],
  ): NetworkDocument => ({
    ...network,
    companions: { sizes: 'alike', models },
  });
  const bell = { id: 'c1', model: 'demo-bell', name: 'Bell', turn: 0 };

  it('are shown with this network or another, and go when they are taken away', async () => {
    const other = documentOf([node('o', 'patterns.checks')]);
    const { evaluation, stores, edit, calm } = open(beside([bell]), (request) =>
      request.path === '/api/materials/tin'
        ? says(200, { id: 'tin', document: other, revision: 1 })
        : models(request),
    );
    const stage = new FakeStage('program');
    evaluation.attach(stage);
    await evaluation.show('demo-tile', 'Tile');
    await until(
      () => stores.stage.getState().companionStates.get('c1')?.state === 'ready',
      'a companion',
    );
    await calm();
    expect(stage.told).toContain('beside c1 model');
    expect(stage.told).toContain('beside c1 program');
    edit((document) => ({ ...document, ...beside([{ ...bell, material: 'tin', turn: 30 }]) }));
    await calm();
    edit((document) => ({ ...document, lights: [] }));
    await calm();
    edit((document) => ({ ...document, companions: { sizes: 'alike', models: [] } }));
    await until(() => stores.stage.getState().companionStates.size === 0, 'none');
    expect(stage.told).toContain('remove beside c1');
  });

  it('say why they cannot be shown', async () => {
    const { evaluation, stores } = open(beside([{ ...bell, model: 'demo-none' }]), ({ path }) =>
      path.endsWith('none') ? refuses(404) : models({ path, method: 'GET', body: null }),
    );
    await evaluation.show('demo-tile', 'Tile');
    await until(
      () => stores.stage.getState().companionStates.get('c1')?.state === 'failed',
      'a failure',
    );
    expect(stores.stage.getState().companionStates.get('c1')).toMatchObject({
      message: expect.stringContaining('Refused with 404.') as string,
    });
  });

  it('are left out where a document has none', async () => {
    const { evaluation, calm } = open(emptyDocument('Bare'));
    const stage = new FakeStage('workers');
    evaluation.attach(stage);
    await evaluation.show('demo-tile', 'Tile');
    await calm();
    expect([...stage.fills.keys()]).toEqual(['current']);
  });
});

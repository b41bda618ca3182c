import 'fake-indexeddb/auto';
import { deflateSync } from 'node:zlib';
import type { NestedDemand } from '@/core/evaluate/session';
import { MAP_SIZE, mapKey } from '@/core/mesh/analysis';
import type { MapSettings } from '@/core/mesh/analysis';
import { client } from '@/state/client';
import { IDLE_MAPS, MapSchedule } from '@/state/map-schedule';
import { keepNewest } from '@/state/map-cache';
import { queryClient } from '@/state/query-client';
import { StageModels } from '@/state/stage-models';
import { createStores } from '@/state/stores';
import type { Stores } from '@/state/stores';
import { unwrap } from '@/workers/answer';
import type { WorkerPool } from '@/workers/pool';
import { FakeClock, modelFile, poolHere, refuses, serve, until } from './fakes';
import type { Answering, Asked } from './fakes';

const curvature = (radius: number): MapSettings => ({ kind: 'curvature', radius });
const demand = (settings: MapSettings, needs: readonly MapSettings[] = []): NestedDemand => ({
  field: 'map:n',
  resolved: settings,
  needs,
});

describe('the schedule of maps', () => {
  it('puts first looks before finished maps, and nothing before what it needs', () => {
    const schedule = new MapSchedule();
    const [a, b, c] = [curvature(1), curvature(2), curvature(3)];
    schedule.request('current', 'm', [demand(a), demand(b, [a]), demand(c)]);
    const look = (settings: MapSettings): void => {
      const entry = schedule.find('m', settings);
      if (entry) entry.map = {} as never;
    };
    expect(schedule.next()?.settings).toEqual(a);
    look(a);
    expect(schedule.next()?.settings).toEqual(c);
    look(c);
    expect(schedule.next()?.settings).toEqual(a);
    Object.assign(schedule.find('m', a) ?? {}, { isFine: true });
    expect(schedule.next()?.settings).toEqual(b);
  });

  it('begins nothing that nobody wants any more, and forgets the oldest of those', () => {
    const schedule = new MapSchedule();
    schedule.request('current', 'm', [demand(curvature(0))]);
    schedule.request('beside', 'm', [demand(curvature(0))]);
    schedule.request('current', 'm', []);
    expect(schedule.next()?.settings).toEqual(curvature(0));
    schedule.request('beside', '', []);
    expect(schedule.next()).toBeNull();
    const dropped = Array.from({ length: IDLE_MAPS + 5 }, (_, k) =>
      schedule.request('current', 'm', [demand(curvature(k + 1))]),
    ).flat();
    expect(dropped.map(({ settings }) => settings)).toEqual(
      [0, 1, 2, 3, 4].map((k) => curvature(k)),
    );
    expect(schedule.all).toHaveLength(IDLE_MAPS + 1);
  });

  it('keeps what was stopped as it is, until a setting changes or a person goes on', () => {
    const schedule = new MapSchedule();
    schedule.request('current', 'm', [demand(curvature(1))]);
    schedule.stop();
    expect([schedule.isAnyStopped, schedule.next()]).toEqual([true, null]);
    schedule.request('current', 'm', [demand(curvature(2))]);
    expect(schedule.next()?.settings).toEqual(curvature(2));
    schedule.resume();
    schedule.request('current', 'm', [demand(curvature(1))]);
    expect([schedule.isAnyStopped, schedule.next()?.settings]).toEqual([false, curvature(1)]);
  });
});

describe('the cache of maps', () => {
  it('gives up those used longest ago, and never the newest', () => {
    const rows = [1, 2, 3].map((at) => ({ key: String(at), bytes: 40, at }));
    expect(keepNewest(rows, 80).map(({ key }) => key)).toEqual(['3', '2']);
    expect(keepNewest(rows, 10).map(({ key }) => key)).toEqual(['3']);
  });
});

interface Desk {
  readonly models: StageModels;
  readonly pool: WorkerPool;
  readonly stores: Stores;
  readonly clock: FakeClock;
  readonly asked: Asked[];
}
let pool: WorkerPool | null = null;
let revision = 0;
/** Models of a tile; each desk has a file of its own name, so that nothing is found by chance. */
function open(maps: Answering = () => new Response(null, { status: 204 }), tag?: string): Desk {
  const etag = tag ?? `tile ${String(++revision)}`;
  const asked = serve((request) => {
    if (request.path.includes('/maps')) return maps(request);
    const file = modelFile('tile');
    file.headers.set('ETag', etag);
    return file;
  });
  const stores = createStores();
  const clock = new FakeClock();
  pool = poolHere(3);
  return { models: new StageModels({ stores, pool, client, clock }), pool, stores, clock, asked };
}
/** The curvature that Curvature asks for as it comes; small enough to be measured at once. */
const SETTINGS: MapSettings = curvature(0.05);

async function request(desk: Desk, settings: MapSettings = SETTINGS): Promise<void> {
  await desk.models.load('demo-tile', 'Tile');
  desk.models.request('current', 'demo-tile', [demand(settings)]);
}
const finished = ({ models, clock }: Desk): Promise<void> => {
  const done = models.finished();
  const timer = setInterval(() => {
    clock.pass(60);
  }, 5);
  return done.finally(() => {
    clearInterval(timer);
  });
};

beforeEach(() => {
  queryClient().clear();
});
afterEach(() => {
  pool?.close();
  pool = null;
});

describe('a file that is dropped', () => {
  it('is read once, and is there in every worker when it has become a model', async () => {
    const desk = open();
    const { loader } = desk.models;
    const bytes = await modelFile('tile').arrayBuffer();
    const read = await loader.read(new File([bytes], 'tile.glb'));
    // What the server then says is the file could not be read at all.
    serve(() => new Response('no model', { headers: { ETag: '"x"' } }));
    await loader.adopt('mine', read);
    expect((await loader.load('mine', 'Mine')).facts.triangles).toBe(read.facts.triangles);
    for (const worker of desk.pool.all)
      expect(await unwrap(worker.texelCount('mine', 8))).toBeGreaterThan(0);
    expect(await desk.pool.background.renameModel('absent', 'x')).toMatchObject({
      code: 'worker.no-model',
    });
  });
});

describe('maps of a model', () => {
  it('are seen quickly first, refined meanwhile, finished, and given to every worker', async () => {
    const desk = open();
    const sizes: number[] = [];
    desk.models.onMaps(() => {
      sizes.push(desk.models.mapFor('demo-tile', SETTINGS)?.size ?? 0);
    });
    const progress: string[] = [];
    desk.stores.measuring.subscribe(({ progress: now }) => {
      if (now) progress.push(now.label);
      desk.clock.pass(400);
    });
    await request(desk);
    await finished(desk);
    expect(sizes[0]).toBe(MAP_SIZE.quick);
    expect(sizes.at(-1)).toBe(MAP_SIZE.fine);
    expect(progress[0]).toMatch(/^Measuring curvature: first look/i);
    expect(desk.models.counts).toMatchObject({ measured: 1, recalled: 0, fetched: 0 });
    expect(desk.stores.measuring.getState().progress).toBeNull();
    expect(desk.models.settingsAsked.map(mapKey)).toEqual([mapKey(SETTINGS)]);
  });

  it('of a worker that ends are measured by the others', async () => {
    const desk = open();
    let kills = 0;
    desk.stores.measuring.subscribe(({ progress }) => {
      if (progress && progress.share > 0.1 && kills < 2) desk.pool.kill(++kills);
    });
    await request(desk);
    await finished(desk);
    expect(kills).toBe(2);
    await until(() => desk.models.mapFor('demo-tile', SETTINGS) !== null, 'a map');
    expect(desk.stores.results.getState().problem).toBeNull();
    for (const worker of desk.pool.all)
      expect(await unwrap(worker.texelCount('demo-tile', 16))).toBeGreaterThan(0);
  });

  it('are found again in this browser, and at the server', async () => {
    const crease: MapSettings = { kind: 'crease', width: 0.05, angleRad: 0.5 };
    const first = open(undefined, 'the same tile');
    await request(first, crease);
    await finished(first);
    pool?.close();
    const second = open(undefined, 'the same tile');
    await request(second, crease);
    await finished(second);
    expect(second.models.counts).toMatchObject({ measured: 0, recalled: 1 });
    const total = await unwrap(second.pool.evaluator.texelCount('demo-tile', MAP_SIZE.fine));
    pool?.close();
    const values = new Float32Array(total).fill(0.25);
    const third = open(() => new Response(deflateSync(new Uint8Array(values.buffer))));
    await request(third, { kind: 'crease', width: 0.06, angleRad: 0.5 });
    await finished(third);
    expect(third.models.counts).toMatchObject({ measured: 0, fetched: 1 });
  });

  it('are measured here when the server cannot say', async () => {
    const desk = open(() => refuses(503));
    await request(desk);
    await finished(desk);
    expect(desk.models.counts.measured).toBe(1);
  });

  it('can be stopped and gone on with', async () => {
    const desk = open();
    const stop = desk.stores.measuring.subscribe(({ progress }) => {
      if (progress && progress.share > 0) {
        stop();
        desk.models.stop();
      }
    });
    await request(desk);
    await finished(desk);
    expect(desk.stores.measuring.getState().isMeasuringStopped).toBe(true);
    expect(desk.models.counts.measured).toBe(0);
    desk.models.resume();
    await finished(desk);
    expect(desk.stores.measuring.getState().isMeasuringStopped).toBe(false);
    expect(desk.models.counts.measured).toBe(1);
  });

  it('that fail say so, and that the page may be loaded again', async () => {
    const desk = open();
    await desk.models.load('demo-tile', 'Tile');
    desk.models.request('current', 'never-loaded', [demand(SETTINGS)]);
    await finished(desk);
    expect(desk.stores.results.getState().problem).toMatchObject({
      message: expect.stringMatching(/^Measuring the model failed/) as string,
      action: 'Reload the page to try again.',
    });
  });
});

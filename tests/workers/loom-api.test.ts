import { readFileSync } from 'node:fs';
import { framingCamera } from '@/core/evaluate/camera';
import { groupSelection } from '@/core/edit/group';
import { setValue } from '@/core/edit/nodes';
import { diffJson } from '@/core/graph/patch';
import type { NetworkDocument } from '@/core/graph/document';
import { IDENTITY_PLACEMENT } from '@/core/compile/model-scale';
import type { LaidOut } from '@/core/mesh/stage-arrays';
import { unwrap } from '@/workers/answer';
import { makeLoomApi } from '@/workers/loom-api';
import type { LoomApi } from '@/workers/loom-api';
import { WorkerPool } from '@/workers/pool';
import { documentOf, node } from '../support/networks';
import { poolHere, startHere, until } from '../state/fakes';

const network = documentOf(
  [node('n', 'patterns.noise', { scale: 5 }), node('s', 'surface.surface')],
  ['n:value > s:roughness', 's:surface > @out:surface'],
);
const tile = new Blob([readFileSync('assets/models/tile.glb')]);

describe('what a worker can be asked', () => {
  let api: LoomApi;
  beforeAll(async () => {
    api = makeLoomApi(() => Promise.reject(new Error('no Draco here')));
    const loaded = await unwrap(api.loadModel('tile', tile, 'Tile'));
    expect(loaded.facts.triangles).toBeGreaterThan(0);
  });
  const camera = framingCamera([0, 0, 0], 1);

  it('evaluates results, surfaces included, with pictures, statistics and histograms', async () => {
    const taps = ['n:value', 's:surface'];
    const asked = { path: [], surface: true, camera, size: 24 };
    const request = { model: 'tile', document: network, taps, ...asked };
    const result = await unwrap(api.evaluate(request));
    expect(result.taps.map(({ key, kind }) => `${key} ${kind}`)).toEqual([
      'n:value scalar',
      's:surface surface',
    ]);
    const [noise, surface] = result.taps;
    expect(noise?.histogram?.reduce((sum, count) => sum + count)).toBeGreaterThan(1000);
    expect([surface?.statistics, surface?.histogram]).toEqual([null, null]);
    expect(surface?.picture.width).toBe(24);
    expect(result.ports?.kinds.get('s:surface')).toBe('surface');
    expect(result.appearance?.opacityMode).toBe('opaque');
    const again = await unwrap(api.evaluate({ ...request, taps: ['n:value'], surface: false }));
    expect(again).toMatchObject({ compilations: 1, ports: null, appearance: null });
    expect(again.taps.map(({ key }) => key)).toEqual(['n:value']);
    // Of a larger program, or of one of its own, a result is the same.
    expect(again.taps[0]).toEqual(result.taps[0]);
  });

  it('holds documents by number, and changes them by patches', async () => {
    const edited = setValue(network, null, 'n', 'scale', 31);
    await unwrap(api.holdDocument(1, { whole: network }));
    await unwrap(api.holdDocument(2, { base: 1, patch: diffJson(network, edited) }));
    const request = {
      model: 'tile',
      taps: ['n:value'],
      path: [],
      surface: false,
      camera,
      size: 16,
    };
    const tapsOf = async (document: number | NetworkDocument): Promise<unknown> =>
      (await unwrap(api.evaluate({ ...request, document }))).taps;
    expect(await tapsOf(2)).toEqual(await tapsOf(edited));
    expect(await tapsOf(1)).toEqual(await tapsOf(network));
    expect(await api.check(9)).toMatchObject({ failed: true, code: 'worker.no-document' });
    const unfit = [{ op: 'remove', path: '/network/nodes/99' }] as const;
    expect(await api.holdDocument(3, { base: 2, patch: unfit })).toMatchObject({
      code: 'patch.unfit',
    });
  });

  it('fills, surveys, picks, draws and looks at a model', async () => {
    const fill = {
      subject: 'current',
      model: 'tile',
      document: network,
      pin: 'n:value',
      version: 'coarse 1',
      triangles: new Uint32Array(5),
      weights: new Float32Array(10).fill(0.2),
    };
    expect((await unwrap(api.fill(fill))).lanes[0]).toHaveLength(5);
    expect((await unwrap(api.fill({ ...fill, pin: null }))).lanes.length).toBeGreaterThan(3);
    expect(await unwrap(api.leave('current'))).toBe(true);
    const current = { size: 1, minimum: [0, 0, 0], extent: [1, 1, 1], centre: [0, 0, 0] } as const;
    const standing = { placement: IDENTITY_PLACEMENT, current } as never;
    const survey = await unwrap(api.survey('tile', network, null, standing));
    expect(survey.appearance.opacityMode).toBe('opaque');
    const hit = await unwrap(api.pick('tile', network, 'n:value', [0, 1, 0], [0, -1, 0]));
    expect([hit?.kind, hit?.value.length]).toEqual(['scalar', 1]);
    const picture = await unwrap(api.picture('tile', network, 'n:value', camera, 16));
    expect(picture.width).toBe(16);
    expect((await unwrap(api.modelLook('tile', 'clay', 16))).width).toBeGreaterThan(0);
    expect((await unwrap(api.diagnose('tile'))).findings).toBeDefined();
  });

  it('makes the stage’s program, checks, proves and bakes', async () => {
    expect((await unwrap(api.prepareStage(network, null))).uniformCount).toBeGreaterThan(0);
    expect(await unwrap(api.check(network))).toEqual([]);
    const source = { materialId: 'm', revision: 1 };
    const packed = groupSelection(network, {
      board: null,
      ids: ['n'],
      name: 'G',
      path: [],
      source,
    });
    const proof = await unwrap(api.prove(network, packed.document, packed.groupId, ['tile']));
    expect(proof.identical).toBe(true);
    const plan = await unwrap(
      api.planBake('tile', network, { size: 16, depth: 8, formats: ['png', 'glb'] }),
    );
    const strips = await unwrap(api.bakeRows('tile', network, plan, [0, 16]));
    const files = await unwrap(api.packageBake('tile', 'Tin', plan, [strips], ['png', 'glb']));
    expect(files.length).toBeGreaterThan(1);
  });

  it('lays a model out for the stage, and sends it to another worker', async () => {
    const { port1, port2 } = new MessageChannel();
    const arrived = new Promise<LaidOut>((resolve) => {
      port2.onmessage = ({ data }: MessageEvent<LaidOut>) => {
        resolve(data);
      };
    });
    expect(await unwrap(api.layOut('tile', true, port1))).toBe(true);
    expect((await arrived).extras?.indices.length).toBeGreaterThan(0);
    port2.close();
    const other = makeLoomApi(() => Promise.reject(new Error('no Draco here')));
    const way = new MessageChannel();
    const received = unwrap(other.receiveModel('tile', way.port2));
    const asked = unwrap(other.texelCount('tile', 16));
    await unwrap(api.sendModel('tile', way.port1));
    await received;
    expect(await asked).toBeGreaterThan(0);
    way.port1.close();
  });

  it('gives what goes wrong as data, with all findings of a document', async () => {
    expect(await api.texelCount('absent', 8)).toMatchObject({
      failed: true,
      code: 'worker.no-model',
    });
    const broken = documentOf([node('a', 'no.such'), node('b', 'nor.such')]);
    const request = {
      model: 'tile',
      document: broken,
      taps: [],
      path: [],
      surface: false,
      camera,
      size: 8,
    };
    const answer = await api.evaluate(request);
    expect(answer).toMatchObject({ failed: true, code: 'node.unknown-type' });
    await expect(unwrap(Promise.resolve(answer))).rejects.toMatchObject({
      findings: [{ nodeId: 'a' }, { nodeId: 'b' }],
    });
    const waiting = makeLoomApi(() => Promise.reject(new Error('no Draco here')));
    const { port2 } = new MessageChannel();
    void waiting.receiveModel('lost', port2);
    await waiting.cancelTransfer('lost');
    expect(await waiting.texelCount('lost', 8)).toMatchObject({ code: 'worker.no-model' });
  });
});

describe('the pool', () => {
  it('replaces a worker that ends, tells of it, and fails what it was asked', async () => {
    const pool = poolHere(3);
    const replaced: unknown[] = [];
    const stop = pool.onReplaced((remote) => replaced.push(remote));
    expect([pool.size, pool.backgrounds.length]).toEqual([3, 2]);
    const [first, second] = [pool.background, pool.background];
    expect(first).not.toBe(second);
    const hanging = pool.evaluator.texelCount('nothing', 8);
    pool.kill(0);
    await expect(hanging).rejects.toMatchObject({ code: 'worker.lost' });
    await until(() => replaced.length === 1, 'a new worker');
    expect(await pool.evaluator.texelCount('nothing', 8)).toMatchObject({
      code: 'worker.no-model',
    });
    stop();
    pool.tellAll((worker) => worker.leave('nobody'));
    pool.close();
    await expect(pool.all[1]?.leave('nobody')).rejects.toMatchObject({ code: 'worker.lost' });
  });

  it('starts as many as it is told', () => {
    let started = 0;
    const pool = new WorkerPool(4, () => {
      started++;
      return startHere();
    });
    expect([started, pool.all.length]).toEqual([4, 4]);
    pool.close();
  });
});

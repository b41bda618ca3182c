/** What asking at a point, a plot of a dragged value and the cause of a difference cost. */
import { readFile } from 'node:fs/promises';
import { MeshAnalysis } from '@/core/mesh/analysis';
import { readModel } from '@/core/exchange/read-model';
import { setValue } from '@/core/edit/nodes';
import { framingCamera } from '@/core/evaluate/camera';
import { LoadedModel } from '@/core/evaluate/loaded-model';
import { PointExplainer } from '@/core/evaluate/point-explainer';
import { EvaluationSession } from '@/core/evaluate/session';
import { StateComparer } from '@/core/evaluate/state-comparer';
import { TransferMeter } from '@/core/evaluate/transfer';
import { NetworkSketch } from '@/core/edit/network-sketch';
import type { NetworkDocument } from '@/core/graph/document';
import { largeNetwork } from './network';
import { sized } from '../size';

const NODES = sized(300, 24);
const CHANGES = sized(30, 3);
/** Of the pictures by which changes are put in order, and measured; as the editor does it. */
const SIDES = sized({ order: 40, whole: 128 }, { order: 8, whole: 16 });
const RUNS = sized(9, 1);

const median = (times: readonly number[]): number =>
  [...times].sort((a, b) => a - b)[times.length >> 1] ?? NaN;
function time(work: () => unknown): number {
  const began = performance.now();
  work();
  return performance.now() - began;
}

export interface SeeingFigures {
  /** Milliseconds. */
  readonly firstPoint: number;
  readonly point: number;
  readonly firstShares: number;
  readonly shares: number;
  readonly plotStep: number;
  /** Until all changes are in order, and until all are measured. */
  readonly order: number;
  readonly whole: number;
  /** One picture of the size by which changes are measured. */
  readonly picture: number;
}

/** Numbers of the network that can be changed, from the first on. */
function numbers(document: NetworkDocument): readonly (readonly [string, string, number])[] {
  return document.network.nodes.flatMap(({ id, values }) =>
    Object.entries(values).flatMap(([input, value]): (readonly [string, string, number])[] =>
      typeof value === 'number' ? [[id, input, value]] : [],
    ),
  );
}

function measurePoint(model: LoadedModel, document: NetworkDocument) {
  const { eye, target } = framingCamera(model.mesh.centre, model.mesh.size);
  const ray = {
    from: eye,
    towards: [target[0] - eye[0], target[1] - eye[1], target[2] - eye[2]] as const,
  };
  const explainer = new PointExplainer();
  const ask = (): number => time(() => explainer.explain(model, document, [ray]));
  const share = (): number => time(() => explainer.shares(model, document, [ray]));
  const firstPoint = ask();
  const firstShares = share();
  const again = Array.from({ length: RUNS }, () => [ask(), share()] as const);
  return {
    firstPoint,
    firstShares,
    point: median(again.map(([point]) => point)),
    shares: median(again.map(([, shares]) => shares)),
  };
}

/** Noise that goes through a chain of so many nodes, and is stepped at its end. */
function chain(count: number): NetworkDocument {
  const ids = Array.from({ length: count }, (_, k) => `n${String(k)}`);
  return ids
    .reduce(
      (sketch, id, k) =>
        sketch
          .node(id, 'math.math', { options: { operation: 'add' }, values: { b: 0.0001 * k } })
          .wire(`${k === 0 ? 'noise' : (ids[k - 1] ?? '')}.value > ${id}.a`),
      new NetworkSketch().node('noise', 'patterns.noise', { values: { scale: 5 } }),
    )
    .node('step', 'ranges.smoothstep')
    .wire(`${ids.at(-1) ?? ''}.value > step.value`)
    .node('paint', 'surface.surface')
    .wire('step.mask > paint.roughness')
    .finish('Chain', 'paint.surface');
}

/** A step of a dragged value at the far end of what is plotted: all of it is upstream. */
function measurePlot(model: LoadedModel): number {
  const document = chain(NODES);
  const [from, to] = [`n${String(NODES - 1)}:value`, 'step:mask'];
  const meter = new TransferMeter();
  if (!meter.measure(model, document, from, to)) throw new Error('the chain is broken');
  return median(
    Array.from({ length: RUNS }, (_, k) => {
      const moved = setValue(document, null, 'n0', 'b', k * 0.01);
      return time(() => meter.measure(model, moved, from, to));
    }),
  );
}

function measureCauses(model: LoadedModel, document: NetworkDocument) {
  const changed = numbers(document)
    .slice(0, CHANGES)
    .reduce(
      (now, [id, input, value]) => setValue(now, null, id, input, value * 1.05 + 0.01),
      document,
    );
  const camera = framingCamera(model.mesh.centre, model.mesh.size);
  const seen = (each: NetworkDocument) => ({ document: each, model: 'bench', camera });
  const comparer = new StateComparer(
    seen(document),
    seen(changed),
    () => ({ analysis: model.analysis, maps: model.measured }),
    (id) => id,
  );
  // What is compiled and looked up once is there already: the pictures were shown before.
  comparer.compare(SIDES.whole);
  const pass = (side: number): number =>
    time(() => {
      const { changes } = comparer.compare(side);
      changes.forEach((_, k) => comparer.share(k, side));
    });
  const order = pass(SIDES.order);
  const whole = order + pass(SIDES.whole);
  const pictures = Array.from({ length: 3 }, () => time(() => comparer.share(0, SIDES.whole)));
  return { order, whole, picture: median(pictures) };
}

/** All of it on the buoy of the demo, in this thread. */
export async function measureSeeing(): Promise<SeeingFigures> {
  const { mesh } = await readModel(
    new Uint8Array(await readFile('assets/models/buoy.glb')),
    'buoy',
  );
  const model = new LoadedModel(new MeshAnalysis(mesh).mesh);
  const document = largeNetwork(NODES);
  // Questions are exact: what the network reads of the model is measured before.
  const demands = new EvaluationSession({ surface: true, taps: 'all' }).demands(document, mesh);
  for (const { resolved } of demands) model.provide(resolved, model.measured(resolved));
  return {
    ...measurePoint(model, document),
    plotStep: measurePlot(model),
    ...measureCauses(model, document),
  };
}
export const CHANGES_MEASURED = CHANGES;

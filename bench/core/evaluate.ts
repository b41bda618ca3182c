import { readFileSync } from 'node:fs';
import path from 'node:path';
import { WasmRunner } from '@/core/backends/wasm/runner';
import { compileNetwork, uniformsFor } from '@/core/compile/compile';
import type { CompileRequest } from '@/core/compile/compile';
import {
  bakeRows,
  bakeStrip,
  lanesFor,
  makeBakeSession,
  planBake,
  rasteriseStrip,
  planStrips,
} from '@/core/evaluate/bake';
import type { BakeStrip } from '@/core/evaluate/bake';
import type { MapSource } from '@/core/evaluate/session';
import { readModel } from '@/core/exchange/read-model';
import { packBakedRows } from '@/core/handoff/packaging';
import type { NetworkDocument } from '@/core/graph/document';
import { MeshAnalysis, mapKey } from '@/core/mesh/analysis';
import type { MeshMap } from '@/core/mesh/mesh-map';
import { benchNetwork } from './network';
import { sized } from '../size';

export const BENCH_POINTS = sized(65536, 1024);
export const BAKE_SIZE = sized(1024, 128);
export const STRIP_ROWS = 64;
const SCALE = { size: 2, minimum: [-1, -1, -1] as const, extent: [2, 2, 2] as const };

function benchLanes(count: number): (name: string) => Float32Array {
  const made = new Map<string, Float32Array>();
  return (name) => {
    let lane = made.get(name);
    if (!lane) {
      const salt = Array.from(name, (letter) => letter.charCodeAt(0)).reduce(
        (sum, code) => sum + code,
        0,
      );
      lane = Float32Array.from(
        { length: count },
        (_, k) => ((k * (salt * 7 + 13)) % 100003) / 100003,
      );
      made.set(name, lane);
    }
    return lane;
  };
}

export const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;

/** Milliseconds of what is done, once. */
export function timed(work: () => unknown): number {
  const began = performance.now();
  work();
  return performance.now() - began;
}

/** Something to call that evaluates a document once over `count` points, ready and warm. */
export function prepareEvaluation(
  document: NetworkDocument,
  request: CompileRequest = { surface: true, taps: [] },
  count = BENCH_POINTS,
): () => void {
  const compiled = compileNetwork(document, request);
  const runner = new WasmRunner(compiled.program);
  runner.setUniforms(uniformsFor(compiled, document, SCALE));
  const lanes = benchLanes(count);
  const outputs = compiled.program.outputs.map(() => new Float32Array(count));
  const run = (): void => {
    runner.run(lanes, count, outputs);
  };
  for (let k = 0; k < 4; k++) run();
  return run;
}

/**
 * Milliseconds from a document to a module that is ready, and of one evaluation of it over 256²
 * points; medians.
 */
export function measureCompile(
  document: NetworkDocument,
  rounds: number,
): { compile: number; evaluate: number; bytes: number } {
  const run = prepareEvaluation(document);
  let bytes = 0;
  const pairs = Array.from({ length: rounds }, () => ({
    compile: timed(() => {
      bytes = new WasmRunner(compileNetwork(document, { surface: true, taps: [] }).program)
        .moduleBytes;
    }),
    evaluate: timed(run),
  }));
  return {
    compile: median(pairs.map((pair) => pair.compile)),
    evaluate: median(pairs.map((pair) => pair.evaluate)),
    bytes,
  };
}

/**
 * One shown output of every node against the last only, over 96² points: medians of the times, and
 * of their ratio.
 */
export function measureSwatches(
  document: NetworkDocument,
  rounds: number,
): { all: number; last: number; ratio: number; swatches: number } {
  const firsts = new Map<string, string>();
  for (const { key, kind } of compileNetwork(document, { surface: false, taps: 'all' }).slots) {
    const [node = ''] = key.split(':');
    if (kind !== 'surface' && !firsts.has(node)) firsts.set(node, key);
  }
  const points = 96 * 96;
  const all = prepareEvaluation(document, { surface: true, taps: [...firsts.values()] }, points);
  const last = prepareEvaluation(document, { surface: true, taps: [] }, points);
  // Several at a time: one alone is too short for the clock.
  const many = (run: () => void) => (): void => {
    for (let k = 0; k < 5; k++) run();
  };
  const pairs = Array.from({ length: rounds }, () => ({
    all: timed(many(all)) / 5,
    last: timed(many(last)) / 5,
  }));
  return {
    all: median(pairs.map((pair) => pair.all)),
    last: median(pairs.map((pair) => pair.last)),
    ratio: median(pairs.map((pair) => pair.all / pair.last)),
    swatches: firsts.size,
  };
}

/** The rows a bake hands out at once. */
export const ROWS = planStrips(BAKE_SIZE);
export interface BakeBench {
  readonly points: (row: number) => void;
  readonly strip: (row: number) => void;
  readonly texels: () => number;
  readonly pack: (strip: number) => void;
}

/**
 * Bakes strips of the fixed network on the study form. `points` finds the texels' points, `strip`
 * evaluates at them, `pack` does both and writes the maps' rows as PNG 16.
 */
export async function prepareBake(): Promise<BakeBench> {
  const { mesh } = await readModel(
    new Uint8Array(
      readFileSync(path.resolve(import.meta.dirname, '../../assets/models/study.glb')),
    ),
    'study',
  );
  const analysis = new MeshAnalysis(mesh);
  const maps = new Map<string, MeshMap>();
  const source: MapSource = (settings) => {
    const key = mapKey(settings);
    const map = maps.get(key) ?? analysis.quickMap(settings, 256);
    maps.set(key, map);
    return map;
  };
  const document = benchNetwork();
  const session = makeBakeSession();
  const whole = planBake(session, document, mesh, source, {
    size: BAKE_SIZE,
    maps: 16,
    textures: 8,
  });
  const plan = { ...whole, images: whole.images.filter((image) => 'map' in image) };
  const wanted = lanesFor(plan.images);
  const strips = new Map<number, BakeStrip>();
  const points = (row: number): void => {
    strips.set(row, rasteriseStrip(mesh, BAKE_SIZE, row, row + STRIP_ROWS));
  };
  const strip = (row: number): void => {
    if (!strips.has(row)) points(row);
    bakeStrip(session, document, mesh, strips.get(row) as BakeStrip, source, wanted);
  };
  // Every strip once: it compiles, and splits the points into lanes.
  for (let row = 0; row < BAKE_SIZE; row += STRIP_ROWS) strip(row);
  const texels = (): number =>
    [...strips.values()].reduce((sum, { raster }) => sum + raster.texels.length, 0);
  const pack = (k: number): void => {
    packBakedRows(
      bakeRows(session, document, mesh, plan, source, ROWS[k] as readonly [number, number]),
    );
  };
  pack(0);
  return { points, strip, texels, pack };
}

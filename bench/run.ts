/** Prints the project's figures as a table and as JSON. Compare ratios within one run only. */
import { cpus } from 'node:os';
import { fork } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import path from 'node:path';
import { BENCH_POINTS, measureCompile, measureEvaluation, median } from './evaluate';
import { largeNetwork } from './network';
import { measureStage } from './stage';

const ROUNDS = 9;

async function onAllThreads(threads: number): Promise<number> {
  const workers = Array.from({ length: threads }, () => fork(path.resolve(import.meta.dirname, 'evaluate-process.ts'), { execArgv: ['--import', 'tsx'] }));
  const ask = (worker: ChildProcess): Promise<number[]> => new Promise((resolve, reject) => { worker.once('message', (times: number[]) => { resolve(times); }); worker.once('error', reject); worker.send(ROUNDS * 2); });
  await Promise.all(workers.map(ask));
  const times = await Promise.all(workers.map(ask));
  for (const worker of workers) worker.kill();
  return times.reduce((sum, each) => sum + BENCH_POINTS / median(each) * 1000, 0);
}

const one = BENCH_POINTS / median(measureEvaluation(ROUNDS)) * 1000;
const threads = cpus().length;
const all = await onAllThreads(threads);
const small = measureCompile(largeNetwork(1), ROUNDS);
const large = measureCompile(largeNetwork(150), ROUNDS);
const stage = await measureStage(ROUNDS);
const rows: Record<string, string> = {
  'fixed network, one thread': `${(one / 1e6).toFixed(2)} million points/s (${(1e9 / one).toFixed(0)} ns/point)`,
  [`fixed network, ${String(threads)} threads`]: `${(all / 1e6).toFixed(2)} million points/s (${(all / one).toFixed(2)} × one thread)`,
  'compile of the fixed network': `${small.compile.toFixed(1)} ms, ${String(small.bytes)} bytes (${(small.compile / small.evaluate).toFixed(2)} × one evaluation over 256²)`,
  'compile of 150 nodes': `${large.compile.toFixed(1)} ms, ${String(large.bytes)} bytes (${(large.compile / large.evaluate).toFixed(2)} × one evaluation over 256²)`,
  ...(stage ? {
    'plain frame of the stage': `${stage.plainFrame.toFixed(1)} ms`,
    'edit to the next picture': `${stage.editToPicture.toFixed(1)} ms (${(stage.editToPicture / stage.plainFrame).toFixed(2)} × a plain frame)`,
    'drag to the next picture, coarse': `${stage.dragToPicture.toFixed(1)} ms (${(stage.dragToPicture / stage.plainFrame).toFixed(2)} ×)`,
    'drag to the finished picture': `${stage.dragToFinePicture.toFixed(1)} ms (${(stage.dragToFinePicture / stage.plainFrame).toFixed(2)} ×)`,
    'recompilations while dragging': String(stage.compilationsWhileDragging),
  } : { 'stage': 'not measured: start the application with ./start first' }),
};
for (const [name, value] of Object.entries(rows)) console.log(`${name.padEnd(36)} ${value}`);
console.log(JSON.stringify({ pointsPerSecond: { one, all, threads }, compile: { small, large }, stage }));
process.exit(0);

/** Compiled networks against the same in C; bakes; what compiling and swatches cost. */
import { cpus } from 'node:os';
import { measureCells } from '../core/cells';
import { Crew } from '../core/crew';
import {
  BAKE_SIZE,
  BENCH_POINTS,
  measureCompile,
  measureSwatches,
  median,
  prepareEvaluation,
  timed,
} from '../core/evaluate';
import { benchNetwork, largeNetwork } from '../core/network';
import { makeReference } from '../core/reference';
import { milliseconds, times } from '../runner/part';
import type { NoteRow, Part } from '../runner/part';
import { sized } from '../size';

const ROUNDS = sized(9, 1);
/** Evaluations between two readings of the clock. */
const REPEATS = 8;
const threads = cpus().length;
const against = (ratio: number): string =>
  Number.isNaN(ratio) ? 'no clang and lld here to compare with' : `${times(ratio)} clang’s`;

/** Our module and the reference, in turn. */
function evaluation(row: NoteRow): void {
  const run = prepareEvaluation(benchNetwork());
  const reference = makeReference();
  reference?.();
  const pairs = Array.from({ length: ROUNDS }, () => {
    const whole = timed(() => {
      for (let k = 0; k < REPEATS; k++) run();
    });
    const ours = ((whole / REPEATS) * 1e6) / BENCH_POINTS;
    return { ours, ratio: ours / (reference?.() ?? NaN) };
  });
  const ours = median(pairs.map((pair) => pair.ours));
  row(
    'fixed network, one thread',
    `${ours.toFixed(0)} ns/point (${against(median(pairs.map(({ ratio }) => ratio)))})`,
    ours,
  );
}

async function measureBakes(crew: Crew, row: NoteRow): Promise<void> {
  const reference = makeReference();
  const texels = await crew.texels();
  reference?.();
  const rounds: { bake: number; whole: number; ratio: number }[] = [];
  for (let k = 0; k < ROUNDS; k++) {
    const clang = reference?.() ?? NaN;
    const bake = await crew.bake('strip');
    const whole = await crew.bake('points');
    rounds.push({ bake, whole, ratio: bake / ((clang * texels) / 1e6) });
  }
  const bake = median(rounds.map((each) => each.bake));
  const whole = median(rounds.map((each) => each.whole));
  row(
    `bake of ${String(BAKE_SIZE)}², all workers, not written`,
    `${milliseconds(bake)} for ${String(texels)} texels ` +
      `(${against(median(rounds.map(({ ratio }) => ratio)))}, one thread)`,
    bake,
  );
  row(
    'the same, finding the texels’ points too',
    `${milliseconds(whole)} (${times(whole / bake)})`,
    whole,
  );
  const writes: number[] = [];
  for (let k = 0; k < sized(5, 1); k++) writes.push(await crew.write());
  const write = median(writes);
  row(
    'a bake with its maps written as PNG 16',
    `${milliseconds(write)} (${times(write / whole)} finding points and evaluating)`,
    write,
  );
}

/** Several processes against one. */
async function workers(row: NoteRow): Promise<void> {
  const crew = await Crew.gather(threads);
  try {
    const { ratio, one, all } = await crew.measureScaling(ROUNDS);
    row(
      `${String(threads)} workers against one`,
      `${times(ratio)} (${(one / 1e6).toFixed(2)} and ${(all / 1e6).toFixed(2)} million points/s)`,
      1 / ratio,
    );
    await measureBakes(crew, row);
    const rays = await crew.measureRayScaling(sized(5, 1));
    row(`occlusion rays, ${String(threads)} workers against one`, times(rays), 1 / rays);
  } finally {
    crew.dismiss();
  }
}

function compiling(row: NoteRow): void {
  for (const [name, document] of [
    ['the fixed network', benchNetwork()],
    ['150 nodes', largeNetwork(150)],
  ] as const) {
    const { compile, evaluate, bytes } = measureCompile(document, ROUNDS);
    row(
      `compile of ${name}`,
      `${milliseconds(compile)}, ${String(bytes)} bytes ` +
        `(${times(compile / evaluate)} one evaluation)`,
      compile,
    );
  }
}

function swatches(row: NoteRow): void {
  const found = measureSwatches(benchNetwork(), ROUNDS);
  row(
    'swatches of all nodes, 96²',
    `${milliseconds(found.all)} for ${String(found.swatches)} ` +
      `(${times(found.ratio)} the last output only)`,
    found.all,
  );
  const { border, three, six } = measureCells(ROUNDS * 3);
  const parts = [border, three, six].map((ratio) => ratio.toFixed(2)).join('; ');
  row('cell noise: border; nearest, border, value; all six', `${parts} × nearest alone`, six);
}

const needs = 'nothing more; clang and lld for the comparison';
export const CORE_PARTS: readonly Part[] = [
  { id: 'evaluation', needs, measure: evaluation },
  { id: 'workers', needs, measure: workers },
  { id: 'compiling', needs, measure: compiling },
  { id: 'swatches', needs, measure: swatches },
];

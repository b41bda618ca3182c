/** Prints the project's figures as a table and as JSON. Compare ratios within one run only. */
import { cpus } from 'node:os';
import { measureCells } from './cells';
import { Crew } from './crew';
import {
  BENCH_POINTS,
  measureCompile,
  measureSwatches,
  median,
  prepareEvaluation,
  timed,
} from './evaluate';
import { benchNetwork, largeNetwork } from './network';
import { measureLimit, measureModel } from './model';
import { OCCLUSION_SIDE, measureOcclusion } from './occlusion';
import { makeReference } from './reference';
import { measurePage } from './page';
import type { PageFigures } from './page';
import { measureStage } from './stage';

const ROUNDS = 9;
const threads = cpus().length;

/**
 * Nanoseconds per point of our module and of the reference, in turn; medians, and the median of the
 * ratios.
 */
function measureAgainstReference(): {
  ours: number;
  reference: number | null;
  ratio: number | null;
} {
  const run = prepareEvaluation(benchNetwork());
  const reference = makeReference();
  reference?.();
  const pairs = Array.from({ length: ROUNDS }, () => ({
    ours:
      ((timed(() => {
        for (let k = 0; k < 8; k++) run();
      }) /
        8) *
        1e6) /
      BENCH_POINTS,
    reference: reference?.() ?? null,
  }));
  const ratios = pairs.flatMap((pair) =>
    pair.reference === null ? [] : [pair.ours / pair.reference],
  );
  return {
    ours: median(pairs.map((pair) => pair.ours)),
    reference: reference ? median(pairs.map((pair) => pair.reference ?? NaN)) : null,
    ratio: reference ? median(ratios) : null,
  };
}

const single = measureAgainstReference();
const crew = await Crew.gather(threads);
const scaling = await crew.measureScaling(ROUNDS);
const reference = makeReference();
const texels = await crew.texels();
reference?.();
const bakes: { milliseconds: number; whole: number; ratio: number | null }[] = [];
for (let k = 0; k < ROUNDS; k++) {
  const clang = reference?.() ?? null;
  const milliseconds = await crew.bake('strip');
  bakes.push({
    milliseconds,
    whole: await crew.bake('points'),
    ratio: clang === null ? null : milliseconds / ((clang * texels) / 1e6),
  });
}
const bake = median(bakes.map(({ milliseconds }) => milliseconds));
const whole = median(bakes.map((each) => each.whole));
const bakeRatio = reference ? median(bakes.map(({ ratio }) => ratio ?? NaN)) : null;
const writes: number[] = [];
for (let k = 0; k < 5; k++) writes.push(await crew.write());
const rayScaling = await crew.measureRayScaling(5);
crew.dismiss();
const occlusion = [measureOcclusion(OCCLUSION_SIDE, ROUNDS), measureOcclusion(708, 3)] as const;
const model = measureModel(3);
const limit = await measureLimit();
const small = measureCompile(benchNetwork(), ROUNDS);
const large = measureCompile(largeNetwork(150), ROUNDS);
const swatches = measureSwatches(benchNetwork(), ROUNDS);
const cells = measureCells(ROUNDS * 3);
const stage = await measureStage(ROUNDS);
const page = await measurePage();
const against = (ratio: number | null): string =>
  ratio === null
    ? 'no clang and lld here to compare with'
    : `${ratio.toFixed(2)} × clang’s WebAssembly`;

const besides = (ratio: number | null, other: string): string =>
  ratio === null ? 'no Embree here to compare with' : `${ratio.toFixed(2)} × ${other}`;

const busy = ({ longestTask, tasksOver50, seconds }: PageFigures): string =>
  (tasksOver50 === 0
    ? 'none over 50 ms'
    : `${longestTask.toFixed(0)} ms, ${String(tasksOver50)} over 50 ms`) +
  ' ' +
  `in ${seconds.toFixed(0)} s`;

const rows: Record<string, string> = {
  'fixed network, one thread': `${single.ours.toFixed(0)} ns/point (${against(single.ratio)})`,
  [`${String(threads)} workers against one`]:
    `${scaling.ratio.toFixed(2)} × (${(scaling.one / 1e6).toFixed(2)} and ` +
    `${(scaling.all / 1e6).toFixed(2)} million points/s)`,
  'bake of 1024², all workers, not written':
    `${bake.toFixed(0)} ms for ${String(texels)} texels ` + `(${against(bakeRatio)}, one thread)`,
  'the same, finding the texels’ points too':
    `${whole.toFixed(0)} ms ` + `(${(whole / bake).toFixed(2)} ×)`,
  'a bake with its maps written as PNG 16':
    `${median(writes).toFixed(0)} ms on all workers, writing between evaluating ` +
    `(${(median(writes) / whole).toFixed(2)} × finding points and evaluating)`,
  ...Object.fromEntries(
    occlusion.flatMap((each) => [
      [
        `occlusion rays, ${each.triangles.toLocaleString('en')} triangles, one thread`,
        `${(each.raysPerSecond / 1e6).toFixed(2)} million/s ` +
          `(${besides(each.rayRatio, 'Embree')})`,
      ],
      [
        `hierarchy of ${each.triangles.toLocaleString('en')} triangles`,
        `${each.build.toFixed(0)} ms, ${each.megabytes.toFixed(0)} MB ` +
          `(${besides(each.buildRatio, 'Embree’s')})`,
      ],
    ]),
  ),
  [`occlusion rays, ${String(threads)} workers against one`]: `${rayScaling.toFixed(2)} ×`,
  'first look at occlusion, 80,000 triangles':
    `${model.first.toFixed(0)} ms (${((model.first / model.finished) * 100).toFixed(1)} % ` +
    `of the finished map: 512², 128 rays, ${(model.coverage * 100).toFixed(0)} % covered)`,
  'unwrapping the same':
    `${model.unwrap.toFixed(0)} ms (${(model.unwrap / model.finished).toFixed(2)} × its ` +
    'occlusion map)',
  'curvature of the same, 512²':
    `${model.curvature.toFixed(0)} ms (${(model.curvature / model.finished).toFixed(2)} × ` +
    'its occlusion map)',
  [`reading and a first look, ${limit.triangles.toLocaleString('en')} triangles`]:
    `${limit.megabytes.toFixed(0)} MB at most, of it ${limit.kernel.toFixed(0)} MB in the ` +
    `kernel; ${limit.seconds.toFixed(0)} s`,
  'compile of the fixed network':
    `${small.compile.toFixed(1)} ms, ${String(small.bytes)} bytes ` +
    `(${(small.compile / small.evaluate).toFixed(2)} × one evaluation over 256²)`,
  'compile of 150 nodes':
    `${large.compile.toFixed(1)} ms, ${String(large.bytes)} bytes ` +
    `(${(large.compile / large.evaluate).toFixed(2)} × one evaluation over 256²)`,
  'cell noise: border; nearest, border, value; all six':
    `${cells.border.toFixed(2)}; ${cells.three.toFixed(2)}; ${cells.six.toFixed(2)} × ` +
    'nearest alone',
  'swatches of all nodes, 96²':
    `${swatches.all.toFixed(1)} ms for ${String(swatches.swatches)} ` +
    `(${swatches.ratio.toFixed(2)} × the last output only)`,
  ...(stage
    ? {
        'plain frame of the stage': `${stage.plainFrame.toFixed(1)} ms`,
        'edit to the next picture':
          `${stage.editToPicture.toFixed(1)} ms ` +
          `(${(stage.editToPicture / stage.plainFrame).toFixed(2)} × a plain frame)`,
        'drag to the next picture, coarse':
          `${stage.dragToPicture.toFixed(1)} ms ` +
          `(${(stage.dragToPicture / stage.plainFrame).toFixed(2)} ×)`,
        'drag to the finished picture':
          `${stage.dragToFinePicture.toFixed(1)} ms ` +
          `(${(stage.dragToFinePicture / stage.plainFrame).toFixed(2)} ×)`,
        'recompilations while dragging': String(stage.compilationsWhileDragging),
        ...(page
          ? {
              [`longest task of the page, ${page.models.triangles.toLocaleString('en')} ` +
              'triangles brought in and looked over']: busy(page.models),
              'the same on the stage: brought in, occlusion, turned': busy(page.stage),
              ['the same on the stage, ' +
              `${page.stageOfSmall.triangles.toLocaleString('en')} triangles`]: busy(
                page.stageOfSmall,
              ),
            }
          : {}),
      }
    : { stage: 'not measured: start the application with ./start first' }),
};
for (const [name, value] of Object.entries(rows)) console.log(`${name.padEnd(40)} ${value}`);
console.log(
  JSON.stringify({
    single,
    scaling,
    bake: { milliseconds: bake, whole, texels, ratio: bakeRatio, write: median(writes) },
    compile: { small, large },
    swatches,
    cells,
    occlusion,
    rayScaling,
    model,
    limit,
    stage,
    page,
  }),
);
process.exit(0);

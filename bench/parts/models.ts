/** Rays, hierarchies and maps of models. */
import { measureLimit, measureModel } from '../models/model';
import { OCCLUSION_SIDE, measureOcclusion } from '../models/occlusion';
import { milliseconds, times } from '../runner/part';
import type { NoteRow, Part } from '../runner/part';
import { sized } from '../size';

const besides = (ratio: number | null, other: string): string =>
  ratio === null ? 'no Embree here to compare with' : `${times(ratio)} ${other}`;

function rays(row: NoteRow): void {
  for (const [side, rounds] of sized(
    [
      [OCCLUSION_SIDE, 9],
      [708, 3],
    ] as const,
    [[OCCLUSION_SIDE, 1]] as const,
  )) {
    const found = measureOcclusion(side, rounds);
    const triangles = found.triangles.toLocaleString('en');
    row(
      `occlusion rays, ${triangles} triangles, one thread`,
      `${(found.raysPerSecond / 1e6).toFixed(2)} million/s (${besides(found.rayRatio, 'Embree')})`,
      1e6 / found.raysPerSecond,
    );
    row(
      `hierarchy of ${triangles} triangles`,
      `${milliseconds(found.build)}, ${found.megabytes.toFixed(0)} MB ` +
        `(${besides(found.buildRatio, 'Embree’s')})`,
      found.build,
    );
  }
}

function maps(row: NoteRow): void {
  const { triangles, first, finished, unwrap, curvature, coverage } = measureModel(sized(3, 1));
  row(
    `first look at occlusion, ${triangles.toLocaleString('en')} triangles`,
    `${milliseconds(first)} (${((first / finished) * 100).toFixed(1)} % of the finished map, ` +
      `${(coverage * 100).toFixed(0)} % covered)`,
    first,
  );
  for (const [name, took] of [
    ['unwrapping the same', unwrap],
    ['curvature of the same', curvature],
  ] as const)
    row(name, `${milliseconds(took)} (${times(took / finished)} its occlusion map)`, took);
}

async function limit(row: NoteRow): Promise<void> {
  const { triangles, megabytes, kernel, seconds } = await measureLimit();
  row(
    `reading and a first look, ${triangles.toLocaleString('en')} triangles`,
    `${megabytes.toFixed(0)} MB at most, of it ${kernel.toFixed(0)} MB in the kernel; ` +
      `${seconds.toFixed(1)} s`,
    megabytes,
  );
}

export const MODEL_PARTS: readonly Part[] = [
  { id: 'rays', needs: 'nothing more; gcc and Embree for the comparison', measure: rays },
  { id: 'maps', needs: 'nothing more', measure: maps },
  { id: 'limit', needs: '6 GB of memory', measure: limit },
];

import { mkdir } from 'node:fs/promises';
import path from 'node:path';
import { joinStrips, packRows } from '@/core/exchange/png-strips';
import { MAP_VIEWS, MeshAnalysis, resolveMapSettings } from '@/core/mesh/analysis';
import type { NamedMapView } from '@/core/mesh/analysis';
import { diagnose } from '@/core/mesh/diagnose';
import { fillGutter, planGutter } from '@/core/mesh/gutter';
import type { Arguments } from './arguments';
import { UsageError } from './arguments';
import { readPreparation, readModel } from './read-model';
import { writeOut } from './write-out';

const saturate = (value: number): number => Math.min(1, Math.max(0, value));
const SIZES = [64, 128, 256, 512, 1024, 2048, 4096];
const GUTTER = 8;

/**
 * `bright-loom analyse MODEL --maps NAMES --size N --out DIR`: maps measured on a model, as 16-bit
 * PNG, and what was found about it.
 */
export async function runAnalyse(
  { positionals, values }: Arguments,
  print: (text: string) => void,
  complain: (text: string) => void,
): Promise<number> {
  const [model] = positionals;
  const { out } = values;
  if (!model || typeof out !== 'string') throw new UsageError('analyse needs a model and --out.');
  const size = Number(values['size'] ?? 512);
  if (!SIZES.includes(size)) throw new UsageError(`--size is one of ${SIZES.join(', ')}.`);
  const names =
    typeof values['maps'] === 'string'
      ? values['maps'].split(',').map((name) => name.trim())
      : ['curvature', 'occlusion'];
  const views = names.map((name) => {
    const view = MAP_VIEWS.get(name);
    if (!view)
      throw new UsageError(
        `There is no map “${name}”; there are ${[...MAP_VIEWS.keys()].join(', ')}.`,
      );
    return { name, view };
  });
  const mesh = await readModel(model, complain, readPreparation(values));
  const analysis = new MeshAnalysis(mesh);
  await mkdir(out, { recursive: true });
  const stem = path.basename(model).replace(/^demo:|\.(glb|obj)$/g, '');
  for (const { name, view } of views) {
    const file = path.join(out, `${stem}-${name}.png`);
    await writeOut(file, drawMap(analysis, view, size));
    print(`${file}  ${view.stores}`);
  }
  const diagnosis = diagnose(mesh);
  for (const { tone, title, effect } of diagnosis.findings)
    if (tone === 'fault') complain(`${title}. ${effect}`);
  print(JSON.stringify({ format: 'bright-loom/diagnosis', version: 1, ...diagnosis }));
  return 0;
}

/** One map over the whole atlas, with a gutter. */
function drawMap(
  analysis: MeshAnalysis,
  { kind, given, choices, store }: NamedMapView,
  size: number,
): Uint8Array {
  const { raster } = analysis.raster(size);
  const measured = analysis.measureTexels(
    resolveMapSettings(kind, given, choices, analysis.mesh.size),
    size,
    0,
    raster.texels.length,
  );
  const values = new Float32Array(size * size),
    covered = new Uint8Array(size * size);
  raster.texels.forEach((texel, k) => {
    values[texel] = saturate(store(measured[k] as number, analysis.mesh.size));
    covered[texel] = 1;
  });
  fillGutter(values, planGutter(covered, size, GUTTER), 1);
  const layout = { width: size, height: size, channels: 1, depth: 16, meaning: 'linear' } as const;
  return joinStrips(layout, [packRows(layout, values, { isFirst: true, isLast: true })]);
}

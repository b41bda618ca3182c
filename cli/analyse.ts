import { mkdir } from 'node:fs/promises';
import path from 'node:path';
import { joinStrips, packRows } from '@/core/exchange/png-strips';
import { MeshAnalysis, settleMap } from '@/core/mesh/analysis';
import type { MapKind } from '@/core/mesh/analysis';
import { diagnose } from '@/core/mesh/diagnose';
import { fillGutter, planGutter } from '@/core/mesh/gutter';
import type { Arguments } from './arguments';
import { UsageError } from './arguments';
import { preparationOf, readModel } from './read-model';
import { writeOut } from './write-out';

interface MapRequest {
  readonly kind: MapKind;
  readonly settings: Readonly<Record<string, number>>;
  readonly choices: Readonly<Record<string, string>>;
  readonly store: (value: number, size: number) => number;
  readonly says: string;
}
const limited = (value: number): number => Math.min(1, Math.max(0, value));
/**
 * What can be measured without a document: settings as the nodes come with, and how values are
 * stored.
 */
const REQUESTS: Readonly<Record<string, MapRequest>> = {
  curvature: {
    kind: 'curvature',
    settings: { radius: 0.03 },
    choices: {},
    store: (value) => limited(value / 2 + 0.5),
    says: '½ + ½·ρ·H',
  },
  occlusion: {
    kind: 'occlusion',
    settings: { reach: 0.25, cone: 90 },
    choices: {},
    store: limited,
    says: 'openness',
  },
  thickness: {
    kind: 'occlusion',
    settings: { reach: 0.25, cone: 90, falloff: 1 },
    choices: { side: 'solid' },
    store: limited,
    says: 'mean inside distance within reach',
  },
  proximity: {
    kind: 'proximity',
    settings: {},
    choices: { to: 'others' },
    store: (value, size) => limited(value / size),
    says: 'distance to other parts in object sizes',
  },
  crease: {
    kind: 'crease',
    settings: { angle: 30, width: 0.05 },
    choices: {},
    store: limited,
    says: 'distance to creases, 1 from the width on',
  },
};
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
  const unknown = names.find((name) => !REQUESTS[name]);
  if (unknown !== undefined)
    throw new UsageError(
      `There is no map “${unknown}”; there are ${Object.keys(REQUESTS).join(', ')}.`,
    );
  const mesh = await readModel(model, complain, preparationOf(values));
  const analysis = new MeshAnalysis(mesh);
  await mkdir(out, { recursive: true });
  const stem = path.basename(model).replace(/^demo:|\.(glb|obj)$/g, '');
  for (const name of names) {
    const request = REQUESTS[name] as MapRequest;
    const file = path.join(out, `${stem}-${name}.png`);
    await writeOut(file, drawMap(analysis, request, size));
    print(`${file}  ${request.says}`);
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
  { kind, settings, choices, store }: MapRequest,
  size: number,
): Uint8Array {
  const { raster } = analysis.raster(size);
  const measured = analysis.measureTexels(
    settleMap(kind, settings, choices, analysis.mesh.size),
    size,
    0,
    raster.texels.length,
  );
  const values = new Float32Array(size * size),
    covered = new Uint8Array(size * size);
  raster.texels.forEach((texel, k) => {
    values[texel] = store(measured[k] as number, analysis.mesh.size);
    covered[texel] = 1;
  });
  fillGutter(values, planGutter(covered, size, GUTTER), 1);
  const layout = { width: size, height: size, channels: 1, depth: 16, meaning: 'linear' } as const;
  return joinStrips(layout, [packRows(layout, values, { isFirst: true, isLast: true })]);
}

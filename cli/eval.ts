import { AppError } from '@/core/base/diagnostic';
import type { LaneName, ResultKey } from '@/core/base/ids';
import { parseLaneName } from '@/core/base/lane-name';
import { isOutputKey, readableKey } from '@/core/graph/result-key';
import { compileNetwork, uniformsFor } from '@/core/compile/compile';
import type { CompiledNetwork, OutputSlot } from '@/core/compile/compile';
import { SURFACE_LANES } from '@/core/nodes/surface-parameters';
import { WasmRunner } from '@/core/backends/wasm/runner';
import { bindImages, imageDemands } from '@/core/compile/images';
import { threadImages } from '@/core/evaluate/image-store';
import { readImages } from './read-images';
import { adviseDocument, watchedIn } from '@/core/evaluate/advice';
import type { NetworkDocument } from '@/core/graph/document';
import { UsageError } from './arguments';
import type { Arguments } from './arguments';
import { readDocument } from './read-document';
import { listAttributes, gatherLane, readPoints } from './points-file';
import type { PointRecord, PointsFile } from './points-file';

const DEFAULT_MODEL = { size: 1, minimum: [-0.5, -0.5, -0.5] as const, extent: [1, 1, 1] as const };

export async function runEval(
  { positionals, values }: Arguments,
  print: (text: string) => void,
  complain: (text: string) => void,
): Promise<number> {
  const [file] = positionals;
  const pointsFile = values['points'];
  if (!file || typeof pointsFile !== 'string')
    throw new UsageError('eval needs a document and --points.');
  const document = await readDocument(file);
  const points = await readPoints(pointsFile);
  await readImages(document, values['images'], complain);
  const wanted =
    typeof values['outputs'] === 'string'
      ? values['outputs'].split(',').map((name) => name.trim())
      : null;
  const compiled = wanted
    ? compileWanted(document, wanted)
    : compileNetwork(document, { surface: true, taps: 'all', watched: watchedIn(document) });
  const outputs = evaluatePoints(compiled, document, points);
  const shown = compiled.slots.filter(({ key }) => key === SURFACE || isOutputKey(key));
  const results = Object.fromEntries(
    shown.flatMap((slot) => describeSlot(slot, outputs, points.points.length)),
  );
  const findings = wanted ? [] : adviseDocument(document, compiled, outputs);
  if (values['json'])
    print(
      JSON.stringify({
        format: 'bright-loom/values',
        version: 1,
        count: points.points.length,
        outputs: results,
        ...(wanted ? {} : { findings }),
      }),
    );
  else {
    for (const [name, list] of Object.entries(results))
      print(`${name}: ${list.map((value) => JSON.stringify(value)).join(' ')}`);
    for (const finding of findings)
      complain(`note: ${finding.node}: ${finding.message} [${finding.code}]`);
  }
  return 0;
}

/** The name by which the finished surface is asked for. */
const SURFACE = 'surface';

/** Compiles the outputs named, each as a person writes it: `path/to/node:output`. */
function compileWanted(document: NetworkDocument, wanted: readonly string[]): CompiledNetwork {
  const all = [...compileNetwork(document, { surface: false, taps: [] }).kinds.keys()].filter(
    isOutputKey,
  );
  const named = wanted.filter((name) => name !== SURFACE);
  const keyFor = (name: string): ResultKey | undefined =>
    all.find((key) => key === name) ?? all.find((key) => readableKey(key) === name);
  const missing = named.filter((name) => keyFor(name) === undefined);
  if (missing.length > 0)
    throw new AppError(
      'eval.no-output',
      `The network has no output ${missing.join(', ')}.`,
      `It has: ${all.map(readableKey).join(', ')}.`,
    );
  return compileNetwork(document, {
    surface: wanted.includes(SURFACE),
    taps: named.map((name) => keyFor(name) ?? name),
  });
}

function evaluatePoints(
  compiled: CompiledNetwork,
  document: NetworkDocument,
  { points, model }: PointsFile,
): readonly Float32Array[] {
  const runner = new WasmRunner(compiled.program);
  const uniforms = uniformsFor(compiled, document, {
    ...(model ?? DEFAULT_MODEL),
    attributes: listAttributes(points),
  });
  runner.setImages(
    bindImages(imageDemands(compiled.imageSlots, document), uniforms, (hash, reading) =>
      threadImages.sheet(hash, reading),
    ),
  );
  runner.setUniforms(uniforms);
  const byField = mapFieldsByKind(compiled);
  const lanes = new Map(
    compiled.program.inputs.map((name) => [
      name,
      isRead(compiled, name) ? gatherLane(withKinds(points, byField), name, byField) : undefined,
    ]),
  );
  const outputs = compiled.program.outputs.map(() => new Float32Array(points.length));
  runner.run((name) => lanes.get(name), points.length, outputs);
  return outputs;
}

/** Whether some live value reads an input: unused ones need not be in the file. */
function isRead(compiled: CompiledNetwork, name: string): boolean {
  return compiled.liveInputs.has(name);
}

/**
 * A field may be given per node (by its path) or once for all nodes of a kind (“curvature”,
 * “occlusion”).
 */
function mapFieldsByKind(compiled: CompiledNetwork): ReadonlyMap<string, string> {
  return new Map(compiled.mapSlots.map((slot) => [mapField(slot.field), slot.kind]));
}

const mapField = (name: LaneName): string => {
  const lane = parseLaneName(name);
  return lane.of === 'map' ? lane.field : '';
};

function withKinds(
  points: readonly PointRecord[],
  kinds: ReadonlyMap<string, string>,
): readonly PointRecord[] {
  if (kinds.size === 0) return points;
  return points.map((point) => ({
    ...point,
    fields: {
      ...point.fields,
      ...Object.fromEntries(
        [...kinds].flatMap(([node, kind]) => {
          const given = point.fields?.[node] ?? point.fields?.[kind];
          return given === undefined ? [] : [[node, given]];
        }),
      ),
    },
  }));
}

function describeSlot(
  slot: OutputSlot,
  outputs: readonly Float32Array[],
  count: number,
): [string, readonly unknown[]][] {
  const number = (value: number | undefined): number | string =>
    value === undefined || !Number.isFinite(value) ? String(value) : value;
  if (slot.kind === 'surface') {
    return SURFACE_LANES.map((name, k) => [
      `${slot.key}.${name}`,
      Array.from({ length: count }, (_, point) => number(outputs[slot.first + k]?.[point])),
    ]);
  }
  const at = (point: number): (number | string)[] =>
    Array.from({ length: slot.lanes }, (_, k) => number(outputs[slot.first + k]?.[point]));
  return [
    [
      slot.key,
      Array.from({ length: count }, (_, point) => (slot.lanes === 1 ? at(point)[0] : at(point))),
    ],
  ];
}

import Joi from 'joi';
import { AppError, messageOf } from '@/core/base/diagnostic';
import type { LaneName, ResultKey } from '@/core/base/ids';
import { AXES, parseLaneName } from '@/core/base/lane-name';
import { own } from '@/core/base/own';
import { isOutputKey, readableKey } from '@/core/graph/result-key';
import { compileNetwork, uniformsFor } from '@/core/compile/compile';
import { SURFACE_LANES } from '@/core/nodes/surface-parameters';
import type { CompiledNetwork, OutputSlot } from '@/core/compile/compile';
import { WasmRunner } from '@/core/backends/wasm/runner';
import { bindImages, imageDemands } from '@/core/compile/images';
import { threadImages } from '@/core/evaluate/image-store';
import { readImages } from './read-images';
import { adviseDocument, watchedIn } from '@/core/evaluate/advice';
import type { NetworkDocument } from '@/core/graph/document';
import type { Arguments } from './arguments';
import { UsageError } from './arguments';
import { readDocument, readText } from './read-document';

const vector = (length: number): Joi.ArraySchema =>
  Joi.array().items(Joi.number().unsafe().required()).length(length);
const pointsSchema = Joi.object({
  format: Joi.valid('bright-loom/points'),
  version: Joi.valid(1),
  model: Joi.object({
    size: Joi.number().greater(0).required(),
    minimum: vector(3).required(),
    extent: vector(3).required(),
  }),
  points: Joi.array()
    .items(
      Joi.object({
        position: vector(3),
        normal: vector(3),
        faceNormal: vector(3),
        view: vector(3),
        uv: vector(2),
        part: Joi.number().integer().min(0),
        partCentre: vector(3),
        attributes: Joi.object().pattern(
          Joi.string(),
          Joi.array().items(Joi.number().unsafe()).min(1).max(4),
        ),
        fields: Joi.object().pattern(
          Joi.string(),
          Joi.alternatives(Joi.number().unsafe(), vector(3)),
        ),
      }),
    )
    .min(1)
    .max(1_000_000)
    .required(),
});
interface PointRecord {
  readonly position?: readonly number[];
  readonly normal?: readonly number[];
  readonly faceNormal?: readonly number[];
  readonly view?: readonly number[];
  readonly uv?: readonly number[];
  readonly part?: number;
  readonly partCentre?: readonly number[];
  readonly attributes?: Readonly<Record<string, readonly number[]>>;
  readonly fields?: Readonly<Record<string, number>>;
}
interface PointsFile {
  readonly model?: {
    size: number;
    minimum: [number, number, number];
    extent: [number, number, number];
  };
  readonly points: readonly PointRecord[];
}

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

async function readPoints(file: string): Promise<PointsFile> {
  let raw: unknown;
  try {
    raw = JSON.parse(await readText(file));
  } catch (cause) {
    if (cause instanceof AppError) throw cause;
    throw new AppError('points.not-json', `${file} is not JSON: ${messageOf(cause)}.`, '', {
      cause,
    });
  }
  const { error } = pointsSchema.validate(raw, { convert: false });
  if (error)
    throw new AppError(
      'points.shape',
      `${file}: ${error.message}.`,
      'See docs/command-line.md for the form of a points file.',
    );
  return raw as PointsFile;
}

/** The lane of a field for all points; throws with the first point that lacks it. */
function lane(
  points: readonly PointRecord[],
  name: string,
  kinds: ReadonlyMap<string, string>,
): Float32Array {
  return Float32Array.from(points, (point, index) => {
    const value = valueOf(point, name);
    if (value === undefined) {
      const field = fieldWords(name, kinds);
      throw new AppError(
        'points.missing-field',
        `A node needs ${field}, which point ${String(index)} of the points file lacks.`,
        'Add it to every point.',
      );
    }
    return value;
  });
}

/** Lanes that the points file calls otherwise. */
const POINT_FIELDS: Readonly<Record<string, string>> = {
  'part.id': 'part',
  'part.centre': 'partCentre',
};

/** What a point lacks, by the names of the points file. */
function fieldWords(name: LaneName, kinds: ReadonlyMap<string, string>): string {
  const lane = parseLaneName(name);
  if (lane.of === 'map')
    return `“fields.${kinds.get(lane.field) ?? ''}” (or “fields.${lane.field}”)`;
  return `“${POINT_FIELDS[lane.of] ?? lane.of}”`;
}

function valueOf(point: PointRecord, name: LaneName): number | undefined {
  const lane = parseLaneName(name);
  if (lane.of === 'map') {
    const fields = point.fields ?? {};
    return lane.slope
      ? (own(fields, `${lane.field}.d${lane.slope}`) ?? 0)
      : own(fields, lane.field);
  }
  if (lane.slope) return 0;
  switch (lane.of) {
    case 'part.id':
      return point.part;
    case 'part.centre':
      return point.partCentre?.[AXES.indexOf(lane.component)];
    case 'attribute':
      return point.attributes
        ? (own(point.attributes, lane.name)?.['xyzw'.indexOf(lane.component)] ?? 0)
        : 0;
    case 'footprint':
      return undefined;
    case 'faceNormal':
    case 'view':
      return (point[lane.of] ?? point.normal)?.[AXES.indexOf(lane.component)];
    default:
      return point[lane.of]?.[AXES.indexOf(lane.component)];
  }
}

function evaluatePoints(
  compiled: CompiledNetwork,
  document: NetworkDocument,
  { points, model }: PointsFile,
): readonly Float32Array[] {
  const runner = new WasmRunner(compiled.program);
  const uniforms = uniformsFor(compiled, document, {
    ...(model ?? DEFAULT_MODEL),
    attributes: attributesOf(points),
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
      isRead(compiled, name) ? lane(withKinds(points, byField), name, byField) : undefined,
    ]),
  );
  const outputs = compiled.program.outputs.map(() => new Float32Array(points.length));
  runner.run((name) => lanes.get(name), points.length, outputs);
  return outputs;
}

/** The attributes the points bring, as wide as the widest. */
function attributesOf(points: readonly PointRecord[]): readonly { name: string; width: number }[] {
  const widths = new Map<string, number>();
  for (const { attributes = {} } of points)
    for (const [name, values] of Object.entries(attributes))
      widths.set(name, Math.max(widths.get(name) ?? 0, values.length));
  return [...widths].map(([name, width]) => ({ name, width }));
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

import { AppError, errorMessage } from '@/core/base/diagnostic';
import type { LaneName } from '@/core/base/ids';
import { AXES, parseLaneName } from '@/core/base/lane-name';
import { own } from '@/core/base/own';
import Joi from 'joi';
import { readText } from './read-document';

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

export interface PointRecord {
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

export interface PointsFile {
  readonly model?: {
    size: number;
    minimum: [number, number, number];
    extent: [number, number, number];
  };
  readonly points: readonly PointRecord[];
}

/** Reads a points file. @throws AppError with what is wrong with it */
export async function readPoints(file: string): Promise<PointsFile> {
  let raw: unknown;
  try {
    raw = JSON.parse(await readText(file));
  } catch (cause) {
    if (cause instanceof AppError) throw cause;
    throw new AppError('points.not-json', `${file} is not JSON: ${errorMessage(cause)}.`, '', {
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
export function gatherLane(
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

/** The attributes the points bring, as wide as the widest. */
export function listAttributes(
  points: readonly PointRecord[],
): readonly { name: string; width: number }[] {
  const widths = new Map<string, number>();
  for (const { attributes = {} } of points)
    for (const [name, values] of Object.entries(attributes))
      widths.set(name, Math.max(widths.get(name) ?? 0, values.length));
  return [...widths].map(([name, width]) => ({ name, width }));
}

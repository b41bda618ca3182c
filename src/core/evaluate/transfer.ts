import type { NodeId, ResultKey } from '../base/ids';
import { structureKey } from '../compile/structure';
import { findNode } from '../compile/uniforms';
import { STAND_IN_LANE, chainBetween, replaceOutput } from '../explain/replaced-output';
import type { NetworkDocument } from '../graph/document';
import { parseResultKey } from '../graph/result-key';
import { pickPoints } from '../mesh/sample-points';
import type { SamplePoints } from '../mesh/sample-points';
import type { LoadedModel } from './loaded-model';
import { EvaluationSession } from './session';
import type { MapSource } from './session';
import { describeValues, histogram } from './statistics';
import { titlesAlong } from '../compile/told-apart';

/** A stretch of what arrives over which nothing changes what comes out. */
export interface FlatStretch {
  readonly from: number;
  readonly to: number;
  /** The share of the surface whose values lie there, 0–1. */
  readonly share: number;
  /** The first node of the chain that makes it flat. */
  readonly node: { readonly path: readonly NodeId[]; readonly title: string } | null;
}
/** y = f(x) from one output to another, with all other inputs as they are on the surface. */
export interface Transfer {
  readonly x: readonly number[];
  /** For each channel of what comes out: at the point in the middle of the band, and its ends. */
  readonly channels: readonly {
    readonly middle: readonly number[];
    readonly low: readonly number[];
    readonly high: readonly number[];
  }[];
  /** How often what arrives lies between one x and the next, all together 1. */
  readonly arriving: readonly number[];
  readonly flats: readonly FlatStretch[];
}

/** Values of x, and points of the surface for the band. */
const STEPS = 129;
const POINTS = 16;
/** Points by which what arrives is described. */
const ARRIVING = 1024;
/** Shorter flat stretches are rounding, as a share of the range of x. */
const SHORTEST = 0.02;
/** What changes by less over a step is flat, as a share of what comes out. */
const FLAT = 1e-6;

interface Compiled {
  readonly key: string;
  readonly chain: readonly ResultKey[];
  readonly source: EvaluationSession;
  readonly replaced: EvaluationSession;
}

/** Measures how one output of a board depends on another; compiles once while values change. */
export class TransferMeter {
  private compiled: Compiled | null = null;
  private spread: {
    readonly of: LoadedModel;
    readonly few: SamplePoints;
    many: SamplePoints;
  } | null = null;

  /**
   * @param from an output, as a result key; `to` another on the same board that depends on it
   * @returns null where `to` does not depend on `from`
   * @throws CompileError when the document has errors
   */
  measure(
    model: LoadedModel,
    document: NetworkDocument,
    from: ResultKey,
    to: ResultKey,
    maps: MapSource = model.maps,
  ): Transfer | null {
    const { chain, source, replaced } = this.prepare(document, from, to);
    if (chain.length === 0) return null;
    const { few, many } = this.points(model);
    const [arrives = new Float32Array(0)] = source.evaluate(document, model.mesh, many, maps, {
      isExact: true,
    });
    const x = rangeOf(arrives);
    const lane = new Float32Array(few.count);
    for (let k = 0; k < few.count; k++) lane[k] = x[k % STEPS] ?? 0;
    const stand = replaceOutput(document, from);
    const lanes = replaced.evaluate(stand, model.mesh, few, maps, {
      attributes: new Map([[STAND_IN_LANE, lane]]),
      isExact: true,
    });
    const { slots } = replaced.prepare(stand);
    const of = (key: ResultKey): readonly Float32Array[] => {
      const slot = slots.find((each) => each.key === key);
      return slot ? lanes.slice(slot.first, slot.first + slot.lanes) : [];
    };
    const arriving = [...histogram(arrives, STEPS - 1, x[0] ?? 0, x.at(-1) ?? 1)].map(
      (count) => count / Math.max(1, arrives.length),
    );
    return {
      x,
      channels: of(to).map(bandOf),
      arriving,
      flats: flatsOf(document, x, arriving, chain, of),
    };
  }

  private prepare(document: NetworkDocument, from: ResultKey, to: ResultKey): Compiled {
    const key = `${structureKey(document)} ${from} ${to}`;
    if (this.compiled?.key !== key) {
      const chain = chainBetween(document, from, to);
      this.compiled = {
        key,
        chain,
        source: new EvaluationSession({ surface: false, taps: [from] }),
        replaced: new EvaluationSession({ surface: false, taps: chain }),
      };
    }
    return this.compiled;
  }

  /** A few points, each as often as there are values of x; and many. */
  private points(model: LoadedModel): { few: SamplePoints; many: SamplePoints } {
    if (this.spread?.of !== model) {
      const { uniform } = model;
      const every = (count: number): number[] =>
        Array.from({ length: count }, (_, k) => Math.floor((k * uniform.count) / count));
      const repeated = every(POINTS).flatMap((place) => Array.from({ length: STEPS }, () => place));
      this.spread = {
        of: model,
        few: pickPoints(model.mesh, uniform, repeated),
        many: pickPoints(model.mesh, uniform, every(ARRIVING)),
      };
    }
    return this.spread;
  }
}

/** The values of x: those that arrive, and 0 to 1 where they lie about there. */
function rangeOf(arrives: Float32Array): readonly number[] {
  const { minimum, maximum } = describeValues([arrives]);
  const [least, most] = Number.isFinite(minimum) ? [minimum, maximum] : [0, 1];
  const isAbout01 = least >= -0.5 && most <= 1.5;
  const [low, high] = isAbout01 ? [Math.min(0, least), Math.max(1, most)] : [least, most];
  const width = high > low ? high - low : 1;
  return Array.from({ length: STEPS }, (_, k) => low + (width * k) / (STEPS - 1));
}

/** Least, middle and most of what comes out for each x, over the points. */
function bandOf(lane: Float32Array): Transfer['channels'][number] {
  const [middle, low, high]: number[][] = [[], [], []];
  for (let step = 0; step < STEPS; step++) {
    const values = Array.from({ length: POINTS }, (_, point) => lane[point * STEPS + step] ?? NaN)
      .filter((value) => Number.isFinite(value))
      .sort((a, b) => a - b);
    low?.push(values[0] ?? NaN);
    middle?.push(values[values.length >> 1] ?? NaN);
    high?.push(values.at(-1) ?? NaN);
  }
  return { middle: middle ?? [], low: low ?? [], high: high ?? [] };
}

/** Between which steps nothing changes, at any point and in any channel. */
function flatSteps(lanes: readonly Float32Array[]): readonly boolean[] {
  const { minimum, maximum } = describeValues(lanes);
  const small = FLAT * Math.max(1e-6, maximum - minimum);
  return Array.from({ length: STEPS - 1 }, (_, step) =>
    lanes.every((lane) => {
      for (let point = 0; point < POINTS; point++) {
        const at = point * STEPS + step;
        if (Math.abs((lane[at + 1] ?? 0) - (lane[at] ?? 0)) > small) return false;
      }
      return true;
    }),
  );
}

function flatsOf(
  document: NetworkDocument,
  x: readonly number[],
  arriving: readonly number[],
  chain: readonly ResultKey[],
  of: (key: ResultKey) => readonly Float32Array[],
): readonly FlatStretch[] {
  const flat = new Map(chain.map((key) => [key, flatSteps(of(key))]));
  const end = flat.get(chain.at(-1) ?? '') ?? [];
  const flats: FlatStretch[] = [];
  for (let step = 0; step < end.length; step++) {
    if (!end[step]) continue;
    let last = step;
    while (end[last + 1]) last++;
    if (last + 1 - step >= SHORTEST * (STEPS - 1)) {
      const isFlat = (key: ResultKey): boolean =>
        flat
          .get(key)
          ?.slice(step, last + 1)
          .every(Boolean) ?? false;
      const first = chain.find(isFlat);
      flats.push({
        from: x[step] ?? 0,
        to: x[last + 1] ?? 0,
        share: arriving.slice(step, last + 1).reduce((sum, share) => sum + share, 0),
        node: first === undefined ? null : placeOf(document, first),
      });
    }
    step = last;
  }
  return flats;
}

function placeOf(document: NetworkDocument, key: ResultKey): FlatStretch['node'] {
  const { path } = parseResultKey(key);
  const title = findNode(document, path) && titlesAlong(document, path).at(-1);
  return title === undefined ? null : { path, title };
}

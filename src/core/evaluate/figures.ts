import type { ResultKey } from '../base/ids';
import { structureKey } from '../compile/structure';
import { CHANNELS } from '../explain/explain-points';
import type { NetworkDocument, ValueKind } from '../graph/document';
import { PLAIN_SURFACE } from '../nodes/surface-parameters';
import type { LoadedModel } from './loaded-model';
import { EvaluationSession } from './session';
import { describeValues, histogram } from './statistics';
import type { Statistics } from './statistics';

const BINS = 64;

/** What is known of one channel of an output over the surface (4,096 points). */
export interface ChannelFigures extends Omit<Statistics, 'constant'> {
  /** Its name, such as `r`; empty for a plain number. */
  readonly channel: string;
  /** The standard deviation. */
  readonly deviation: number;
  /** The share of the surface strictly between 0 and 1, where a mask covers in part. */
  readonly between: number;
  /** Shares of the surface in equal bins from `low` to `high`. */
  readonly bins: readonly number[];
  readonly low: number;
  readonly high: number;
}
/** The figures of an output, channel by channel; of a surface those that say something. */
export interface OutputFigures {
  readonly key: ResultKey;
  readonly kind: ValueKind;
  readonly channels: readonly ChannelFigures[];
}

/** The ends of a histogram: 0 and 1, farther where values lie beyond. */
const ends = (minimum: number, maximum: number): readonly [number, number] =>
  Number.isFinite(minimum) ? [Math.min(0, minimum), Math.max(1, maximum)] : [0, 1];

/** Figures of one lane of values. */
export function describeChannel(channel: string, lane: Float32Array): ChannelFigures {
  const { constant: _constant, ...statistics } = describeValues([lane]);
  const { minimum, maximum, mean } = statistics;
  let [squares, good, between] = [0, 0, 0];
  for (const value of lane) {
    if (!Number.isFinite(value)) continue;
    good++;
    squares += (value - mean) ** 2;
    if (value > 0 && value < 1) between++;
  }
  const [low, high] = ends(minimum, maximum);
  const count = Math.max(1, lane.length);
  return {
    channel,
    ...statistics,
    deviation: good > 0 ? Math.sqrt(squares / good) : NaN,
    between: between / count,
    bins: [...histogram(lane, BINS, low, high)].map((each) => each / count),
    low,
    high,
  };
}

/** Describes outputs over the whole surface; the program is kept while only values change. */
export class FigureReader {
  private kept: { readonly key: string; readonly session: EvaluationSession } | null = null;

  /** @throws CompileError when the document has errors */
  describe(
    model: LoadedModel,
    document: NetworkDocument,
    keys: readonly ResultKey[],
  ): readonly OutputFigures[] {
    const key = `${structureKey(document)} ${keys.join(' ')}`;
    if (this.kept?.key !== key)
      this.kept = { key, session: new EvaluationSession({ surface: false, taps: keys }) };
    const { session } = this.kept;
    const lanes = session.evaluate(document, model.mesh, model.uniform, model.maps, {
      isExact: true,
    });
    return session.prepare(document).slots.map(({ key: output, kind, first, lanes: width }) => {
      const names = CHANNELS[kind];
      const channels = lanes
        .slice(first, first + width)
        .map((lane, k) => describeChannel(names[k] ?? '', lane));
      return {
        key: output,
        kind,
        channels:
          kind === 'surface'
            ? channels.filter(
                ({ minimum, maximum }, k) =>
                  k < 3 || minimum !== maximum || minimum !== PLAIN_SURFACE[k],
              )
            : channels,
      };
    });
  }
}

import { percent } from '../nodes/advice';
import type { Advice, LaneRange, ValueRange } from '../nodes/advice';
import type { CutEnds } from '../nodes/define';

/** @param isLimited whether the value is a share, which means nothing more outside 0–1 */
export function generalAdvice(range: ValueRange, isLimited: boolean): readonly Advice[] {
  const limit = { cure: { title: 'Limit to 0–1', limit: true } } as const;
  const found: Advice[] = [];
  if (range.notANumber > 0)
    found.push({
      code: 'value.not-a-number',
      mark: '∅',
      message: `${percent(range.notANumber)} of the surface is not a number`,
    });
  if (isLimited && range.below > 0)
    found.push({
      code: 'value.below',
      mark: '<0',
      message: `${percent(range.below)} of the surface lies below 0`,
      ...limit,
    });
  if (isLimited && range.above > 0)
    found.push({
      code: 'value.above',
      mark: '>1',
      message: `${percent(range.above)} of the surface lies above 1`,
      ...limit,
    });
  if (range.constant)
    found.push({
      code: 'value.constant',
      mark: '=',
      message: 'The same value over the whole surface',
    });
  return found;
}

const CHANNELS: Readonly<Record<string, readonly string[]>> = {
  colour: ['red', 'green', 'blue'],
  vector: ['x', 'y', 'z'],
};
/** Values this far beyond an end are rounding. */
const ROUNDING = 1e-5;
const number = (value: number): string => String(Number(value.toPrecision(3)));

/** “red above 1 on 12 % (to 1.4)”: what one channel loses at one end; null where nothing. */
function lossAt(
  { minimum, maximum, below, above }: LaneRange,
  channel: string,
  end: 'low' | 'high',
  at: number,
): string | null {
  const isLow = end === 'low';
  const reached = isLow ? minimum : maximum;
  if (!(isLow ? reached < at - ROUNDING : reached > at + ROUNDING)) return null;
  // Shares are known beyond 0 and beyond 1 only.
  const isCounted = isLow ? at === 0 : at === 1;
  const share = isCounted ? ` on ${percent(isLow ? below : above)} of the surface` : '';
  const side = isLow ? 'below' : 'above';
  return `${channel}${side} ${number(at)}${share} (${isLow ? 'down' : 'up'} to ${number(reached)})`;
}

/**
 * What is lost where values are kept between two ends, channel by channel: what lies beyond them
 * becomes the end, and nothing after it can bring the differences back.
 */
export function cutAdvice(
  { kind = 'scalar', constant, lanes = [] }: ValueRange,
  { lowest, highest, isMeant = false, by }: CutEnds & { readonly by: string },
): readonly Advice[] {
  if (constant) return [];
  const names = CHANNELS[kind];
  const losses = lanes.flatMap((lane, k) => {
    const channel = lanes.length > 1 && names ? `${names[k] ?? ''} ` : '';
    return [lossAt(lane, channel, 'low', lowest), lossAt(lane, channel, 'high', highest)].filter(
      (loss) => loss !== null,
    );
  });
  if (losses.length === 0) return [];
  const mark = isMeant ? '' : 'cuts';
  return [{ code: 'value.cut', tone: 'fact', mark, message: `${by} cuts ${losses.join(', ')}.` }];
}

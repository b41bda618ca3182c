/** A revision of a material, as far as thinning out needs to know it. */
export interface HistoryMark {
  readonly number: number;
  readonly savedAt: Date;
  /** Named by a state, published, packaged from, taken, or open with somebody: it always stays. */
  readonly isHeld: boolean;
}

const HOUR_MS = 3_600_000,
  DAY_MS = 24 * HOUR_MS;
/** All revisions stay for so long; then one an hour; then one a day. */
export const ALL_KEPT_MS = 2 * DAY_MS,
  HOURLY_KEPT_MS = 30 * DAY_MS;

const dayOf = (moment: Date): number => Math.floor(moment.getTime() / DAY_MS);
const hourOf = (moment: Date): number => Math.floor(moment.getTime() / HOUR_MS);

/**
 * The revisions of a material that may go: every pause of a day's work saves one, and after a while
 * nobody looks for a pause. What is held, the first, the newest and the first of each day (in UTC)
 * always stay; of the rest all of the last two days, then the last of each hour, after thirty days
 * none. What is left is thinned no further at the same moment, and what stays at a later moment
 * stays at an earlier one, too.
 * @param history in any order
 */
export function revisionsToThin(history: readonly HistoryMark[], now: Date): readonly number[] {
  const inOrder = history.toSorted((a, b) => a.number - b.number);
  const stays = new Set(inOrder.filter(({ isHeld }) => isHeld).map(({ number }) => number));
  const [first, newest] = [inOrder[0], inOrder.at(-1)];
  for (const end of [first, newest]) if (end) stays.add(end.number);
  const days = new Set<number>();
  const lastOfHours = new Map<number, number>();
  for (const { number, savedAt } of inOrder) {
    const age = now.getTime() - savedAt.getTime();
    if (age < ALL_KEPT_MS) stays.add(number);
    if (!days.has(dayOf(savedAt))) stays.add(number);
    days.add(dayOf(savedAt));
    if (age < HOURLY_KEPT_MS) lastOfHours.set(hourOf(savedAt), number);
  }
  for (const number of lastOfHours.values()) stays.add(number);
  return inOrder.map(({ number }) => number).filter((number) => !stays.has(number));
}

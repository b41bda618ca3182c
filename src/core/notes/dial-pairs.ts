import type { Dial } from '../graph/document';
import type { GroupNote } from './group-note';
import { furthest } from './group-trial';
import type { GroupTrial, Looked } from './group-trial';

/** How far a dial is moved from home, as a share of its slider. */
const MOVE = 1 / 16;
/** How alike two changes must be to count as one, as the cosine between them. */
const ALIKE = 0.9999;
/** A change that is the same everywhere tells nothing of what makes it, below this spread. */
const SPREAD = 1e-3;

/**
 * What moving a dial changes, point by point, as one row of numbers of length 1; null where it is
 * nothing, or the same at every point.
 */
function changeOf(moved: Looked, home: Looked): Float64Array | null {
  const change = Float64Array.from(
    moved.values.flatMap((lanes, model) =>
      lanes.flatMap((lane, l) => {
        const still = home.values[model]?.[l];
        return Array.from(lane, (value, k) => value - (still?.[k] ?? 0));
      }),
    ),
  );
  if (change.some((value) => !Number.isFinite(value))) return null;
  const length = Math.sqrt(change.reduce((sum, value) => sum + value * value, 0));
  const mean = change.reduce((sum, value) => sum + value, 0) / Math.max(1, change.length);
  const spread = Math.sqrt(
    change.reduce((sum, value) => sum + (value - mean) ** 2, 0) / Math.max(1, change.length),
  );
  if (length === 0 || spread < SPREAD * Math.abs(mean)) return null;
  return change.map((value) => value / length);
}

interface Moved {
  readonly dial: Dial;
  readonly change: Float64Array;
}

/** What each slider changes on a small way from home; those that need other maps are left out. */
function movedDials(trial: GroupTrial): readonly Moved[] {
  const home = trial.at({});
  return trial.group.dials.flatMap((dial): Moved[] => {
    const [low, high] = dial.soft;
    if (dial.kind !== 'scalar' || typeof dial.home !== 'number') return [];
    if (trial.asksForMaps([{ [dial.id]: low }, { [dial.id]: high }])) return [];
    const room = (high - low) * MOVE;
    const isUp = dial.home + room <= high;
    const look = trial.at({ [dial.id]: dial.home + (isUp ? room : -room) });
    if (furthest(look, home) === 0) return [];
    const change = changeOf(look, home);
    return change ? [{ dial, change: isUp ? change : change.map((value) => -value) }] : [];
  });
}

/** Pairs of dials that work against each other: one takes back what the other does. */
export function measureOpposites(trial: GroupTrial): readonly GroupNote[] {
  const moved = movedDials(trial);
  return moved.flatMap(({ dial: first, change: one }, k) =>
    moved.slice(k + 1).flatMap(({ dial: second, change: other }): GroupNote[] => {
      const cosine = one.reduce((sum, value, place) => sum + value * (other[place] ?? 0), 0);
      return cosine > -ALIKE
        ? []
        : [
            {
              code: 'dial-pair',
              tone: 'fault',
              message:
                `“${first.name}” and “${second.name}” undo each other: what one adds the other ` +
                'takes away, in the same places. One of them would do.',
              dial: second.id,
            },
          ];
    }),
  );
}

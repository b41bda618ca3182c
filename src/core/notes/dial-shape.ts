import type { Dial } from '../graph/document';
import type { GroupNote } from './group-note';
import { apart, differing } from './group-trial';
import type { Looked } from './group-trial';

/** Settings tried between each end of the slider and home. */
export const STEPS = 4;
/** How often the place where a dial stops working is halved. */
const HALVINGS = 7;
/** A slider may idle over so much of its way. */
const IDLE = 0.01;
/** A dial that does so much of all it does in one step of its slider is steep there. */
const STEEP = 0.85;

/** Three digits, as notes write numbers. */
export const digits = (value: number): string => String(Number(value.toPrecision(3)));

/** Settings from home to an end of the slider, home first, and what goes out at each. */
export interface Side {
  readonly settings: readonly number[];
  readonly looks: readonly Looked[];
}
/** What goes out at a setting of a dial. */
export type At = (setting: number) => Looked;
type Span = readonly [number, number];

/** Whether a dial steps by whole numbers. */
export const isWhole = ({ step }: Dial): boolean => Number.isInteger(step) && step > 0;

/** How far towards an end a dial still changes something; the end where it does to the last. */
function reachOf({ settings, looks }: Side, at: At, dial: Dial): number {
  const end = looks.at(-1) as Looked;
  let last = settings.length - 1;
  while (last > 0 && differing(looks[last - 1] as Looked, end) === 0) last--;
  if (last === settings.length - 1 || last === 0 || isWhole(dial)) return settings[last] ?? 0;
  let [works, idles] = [settings[last - 1] ?? 0, settings[last] ?? 0];
  for (let k = 0; k < HALVINGS; k++) {
    const middle = (works + idles) / 2;
    if (differing(at(middle), end) === 0) idles = middle;
    else works = middle;
  }
  return Number(idles.toPrecision(3));
}

/** An offer to let the slider go over a part of where it goes. */
const sliderNote = (
  code: 'dial-flat' | 'dial-steep',
  dial: Dial,
  message: string,
  soft: Span,
): GroupNote => ({
  code,
  tone: 'fault',
  message,
  dial: dial.id,
  cure: {
    act: 'slider',
    title: `Let its slider go from ${digits(soft[0])} to ${digits(soft[1])}`,
    dial: dial.id,
    soft,
  },
});

/** Settings over the whole slider, ascending, and what goes out at each. */
function wholeWay([below, above]: readonly [Side, Side]): Side {
  return {
    settings: [...below.settings.slice(1).reverse(), ...above.settings],
    looks: [...below.looks.slice(1).reverse(), ...above.looks],
  };
}

/**
 * Where a dial does nothing, at an end of its slider or between two settings that it tells apart,
 * and where it does nearly all it does in one step.
 */
export function shapeNotes(dial: Dial, sides: readonly [Side, Side], at: At): GroupNote[] {
  const [below, above] = sides;
  const [low, high] = dial.soft;
  const reach: Span = [reachOf(below, at, dial), reachOf(above, at, dial)];
  const idles = reach[0] - low + high - reach[1];
  const isFlat = idles >= IDLE * (high - low) && reach[0] < reach[1];
  if (!isFlat) return [...gapNotes(dial, wholeWay(sides)), ...steepNotes(dial, wholeWay(sides))];
  const where = [
    ...(reach[0] !== low ? [`below ${digits(reach[0])}`] : []),
    ...(reach[1] !== high ? [`above ${digits(reach[1])}`] : []),
  ].join(' and ');
  const flat = sliderNote('dial-flat', dial, `“${dial.name}” does nothing more ${where}.`, reach);
  // Within the part that works it may still be a jump.
  return [flat, ...(isWhole(dial) ? [] : steepNotes(dial, stepsOver(reach, at)))];
}

function stepsOver([low, high]: Span, at: At): Side {
  const settings = Array.from(
    { length: 2 * STEPS + 1 },
    (_, k) => low + ((high - low) * k) / (2 * STEPS),
  );
  return { settings, looks: settings.map(at) };
}

/** Settings in the middle of the slider between which nothing changes, though it does around. */
function gapNotes(dial: Dial, { settings, looks }: Side): GroupNote[] {
  if (isWhole(dial)) return [];
  const changes = looks.slice(1).map((look, k) => differing(look, looks[k] as Looked) > 0);
  const from = changes.findIndex((changed, k) => !changed && changes.slice(0, k).some(Boolean));
  const length = changes.slice(Math.max(0, from)).findIndex(Boolean);
  if (from < 0 || length < 0) return [];
  const [start = 0, end = 0] = [settings[from], settings[from + length]];
  return [
    {
      code: 'dial-flat',
      tone: 'fault',
      message: `“${dial.name}” does nothing between ${digits(start)} and ${digits(end)}.`,
      dial: dial.id,
    },
  ];
}

/** Says where a dial does nearly all it does in one step of its slider. */
function steepNotes(dial: Dial, { settings, looks }: Side): GroupNote[] {
  const changes = looks.slice(1).map((look, k) => apart(look, looks[k] as Looked));
  const all = changes.reduce((sum, change) => sum + change, 0);
  const steepest = changes.indexOf(Math.max(...changes));
  const [from = 0, to = 0] = [settings[steepest], settings[steepest + 1]];
  const [low = 0, high = 0] = [settings[0], settings.at(-1)];
  const width = (high - low) / (2 * STEPS);
  // A side that is short has small steps: what happens there is not hidden in one of them.
  if (all === 0 || (changes[steepest] ?? 0) < STEEP * all || to - from < width / 2) return [];
  const margin = (to - from) / 4;
  const home = dial.home as number;
  const soft: Span = [
    Number(Math.max(low, Math.min(home, from - margin)).toPrecision(3)),
    Number(Math.min(high, Math.max(home, to + margin)).toPrecision(3)),
  ];
  const share = Math.round(((changes[steepest] ?? 0) / all) * 100);
  return [
    sliderNote(
      'dial-steep',
      dial,
      `“${dial.name}” does ${String(share)} % of what it does between ${digits(from)} and ` +
        `${digits(to)}, a small part of its slider.`,
      soft,
    ),
  ];
}

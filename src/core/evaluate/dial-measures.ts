import { getInputValue } from '../compile/uniforms';
import { dialStates } from '../edit/sheet-plan';
import { isSameValue } from '../edit/variants';
import { isTriple } from '../graph/document';
import type { Dial, InputValue, Triple } from '../graph/document';
import type { GroupNote } from './group-note';
import { apart, differing, faultBeyond, limitsOf } from './group-trial';
import type { GroupTrial, Limits, Looked } from './group-trial';

/** Settings tried between each end of the slider and home. */
const STEPS = 4;
/** How often the place where a dial stops working is halved. */
const HALVINGS = 7;
/** A slider may idle over so much of its way. */
const IDLE = 0.01;
/** A dial that does so much of all it does in one step of its slider is steep there. */
const STEEP = 0.85;

const number = (value: number): string => String(Number(value.toPrecision(3)));

/** Settings from home to an end of the slider, home first, and what goes out at each. */
interface Side {
  readonly settings: readonly number[];
  readonly looks: readonly Looked[];
}
type At = (setting: number) => Looked;

const isWhole = ({ step }: Dial): boolean => Number.isInteger(step) && step > 0;

/** Settings from home to an end, home first; whole ones where the dial steps by whole numbers. */
function towards(dial: Dial, end: number, steps: number): readonly number[] {
  const home = dial.home as number;
  const settings = Array.from({ length: steps + 1 }, (_, k) =>
    k === steps ? end : home + ((end - home) * k) / steps,
  );
  return isWhole(dial) ? [...new Set(settings.map(Math.round))] : settings;
}

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

/** Whether another note says why a dial changes nothing: it drives only 0, or what is off. */
function isExplained({ group }: GroupTrial, { drives }: Dial): boolean {
  return (
    drives.length > 0 &&
    drives.every(({ node: id, input, law }) => {
      const node = group.network.nodes.find((each) => each.id === id);
      return node?.off === true || (law === 'times' && node && getInputValue(node, input) === 0);
    })
  );
}

const deadNote = (trial: GroupTrial, dial: Dial): readonly GroupNote[] =>
  isExplained(trial, dial)
    ? []
    : [
        {
          code: 'dial-dead',
          tone: 'fault',
          message: `“${dial.name}” changes nothing on any model, wherever it is set.`,
          dial: dial.id,
        },
      ];

/** Settings that show whether a dial does anything that is no number. */
function otherSettings(dial: Dial): readonly InputValue[] {
  const { home, soft } = dial;
  if (dial.kind !== 'vector' || !isTriple(home)) return dialStates(dial).map(({ value }) => value);
  // Each part by itself, half-way too: what is turned by a half circle may look the same.
  return home.flatMap((now, part) =>
    soft
      .flatMap((end) => [end, (end + now) / 2])
      .map(
        (value): InputValue => home.map((x, k) => (k === part ? value : x)) as unknown as Triple,
      ),
  );
}

/** Whether a dial that is no number changes anything, at its other choices or colours. */
function deadNotes(trial: GroupTrial, dial: Dial): readonly GroupNote[] {
  const settings = otherSettings(dial).filter((value) => !isSameValue(value, dial.home));
  if (settings.length === 0) return [];
  const home = trial.at({});
  const isDead = settings.every((value) => differing(trial.at({ [dial.id]: value }), home) === 0);
  return isDead ? deadNote(trial, dial) : [];
}

/** What is found of one dial by trying it over its slider on every model. */
export function measureDial(trial: GroupTrial, dialId: string): readonly GroupNote[] {
  const dial = trial.group.dials.find(({ id }) => id === dialId);
  if (!dial) return [];
  if (dial.kind !== 'scalar' || typeof dial.home !== 'number') return deadNotes(trial, dial);
  const at: At = (setting) => trial.at({ [dialId]: setting });
  const [low, high] = dial.soft;
  // Each other map takes long to measure: the ends must do.
  const isSlow = trial.asksForMaps([{ [dialId]: low }, {}, { [dialId]: high }]);
  const sides = [low, high].map((end): Side => {
    const settings = towards(dial, end, isSlow ? 1 : STEPS);
    return { settings, looks: settings.map(at) };
  });
  const home = at(dial.home);
  const looks = sides.flatMap((side) => side.looks);
  if (looks.every((look) => differing(look, home) === 0)) return deadNote(trial, dial);
  const beyond = beyondNotes(dial, sides, limitsOf(home));
  if (isSlow) return beyond;
  const flat = flatNotes(dial, sides, at);
  return [...flat, ...(flat.length > 0 ? [] : steepNotes(dial, sides)), ...beyond];
}

/** An offer to let the slider go over a part of where it goes. */
const sliderNote = (
  code: 'dial-flat' | 'dial-steep',
  dial: Dial,
  message: string,
  soft: readonly [number, number],
): GroupNote => ({
  code,
  tone: 'fault',
  message,
  dial: dial.id,
  cure: {
    act: 'slider',
    title: `Let its slider go from ${number(soft[0])} to ${number(soft[1])}`,
    dial: dial.id,
    soft,
  },
});

function flatNotes(dial: Dial, [below, above]: readonly Side[], at: At): GroupNote[] {
  if (!below || !above) return [];
  const soft: readonly [number, number] = [reachOf(below, at, dial), reachOf(above, at, dial)];
  const [low, high] = dial.soft;
  const idles = soft[0] - low + high - soft[1];
  if (idles < IDLE * (high - low) || soft[0] >= soft[1]) return [];
  const idle = soft[0] !== low ? `below ${number(soft[0])}` : `above ${number(soft[1])}`;
  return [sliderNote('dial-flat', dial, `“${dial.name}” does nothing more ${idle}.`, soft)];
}

/** Says where a dial does nearly all it does in one step of its slider. */
function steepNotes(dial: Dial, [below, above]: readonly Side[]): GroupNote[] {
  if (!below || !above) return [];
  const settings = [...below.settings.slice(1).reverse(), ...above.settings];
  const looks = [...below.looks.slice(1).reverse(), ...above.looks];
  const changes = looks.slice(1).map((look, k) => apart(look, looks[k] as Looked));
  const all = changes.reduce((sum, change) => sum + change, 0);
  const steepest = changes.indexOf(Math.max(...changes));
  const [from = 0, to = 0] = [settings[steepest], settings[steepest + 1]];
  const width = (dial.soft[1] - dial.soft[0]) / (2 * STEPS);
  // A side that is short has small steps: what happens there is not hidden in one of them.
  if (all === 0 || (changes[steepest] ?? 0) < STEEP * all || to - from < width / 2) return [];
  const margin = (to - from) / 4;
  const home = dial.home as number;
  const soft: readonly [number, number] = [
    Number(Math.max(dial.soft[0], Math.min(home, from - margin)).toPrecision(3)),
    Number(Math.min(dial.soft[1], Math.max(home, to + margin)).toPrecision(3)),
  ];
  const share = Math.round(((changes[steepest] ?? 0) / all) * 100);
  return [
    sliderNote(
      'dial-steep',
      dial,
      `“${dial.name}” does ${String(share)} % of what it does between ${number(from)} and ` +
        `${number(to)}, a small part of its slider.`,
      soft,
    ),
  ];
}

function beyondNotes(dial: Dial, sides: readonly Side[], home: Limits): GroupNote[] {
  for (const { settings, looks } of sides)
    for (const [k, look] of looks.entries()) {
      const what = faultBeyond(look, home);
      if (what)
        return [
          {
            code: 'dial-beyond',
            tone: 'fault',
            message: `At “${dial.name}” ${number(settings[k] ?? 0)} values that go out ${what}.`,
            dial: dial.id,
          },
        ];
    }
  return [];
}

import { getInputValue } from '../compile/uniforms';
import { dialStates } from '../edit/sheet-plan';
import { isSameValue } from '../edit/variants';
import { isTriple } from '../graph/document';
import type { Dial, InputValue, Triple } from '../graph/document';
import type { GroupNote } from './group-note';
import { STEPS, digits, isWhole, shapeNotes } from './dial-shape';
import type { At, Side } from './dial-shape';
import { differing, faultBeyond, furthest, limitsOf } from './group-trial';
import type { GroupTrial, Limits } from './group-trial';

/** What changes by less than this nobody sees. */
const UNSEEN = 1e-3;

/** Settings from home to an end, home first; whole ones where the dial steps by whole numbers. */
function towards(dial: Dial, end: number, steps: number): readonly number[] {
  const home = dial.home as number;
  const settings = Array.from({ length: steps + 1 }, (_, k) =>
    k === steps ? end : home + ((end - home) * k) / steps,
  );
  return isWhole(dial) ? [...new Set(settings.map(Math.round))] : settings;
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

/** Settings of one part of a vector, half-way too: half a circle may look like none. */
const partSettings = (home: Triple, soft: Dial['soft'], part: number): readonly InputValue[] =>
  soft
    .flatMap((end) => [end, (end + (home[part] ?? 0)) / 2])
    .map((value): InputValue => home.map((x, k) => (k === part ? value : x)) as unknown as Triple);

/** Whether a dial that is no number changes anything, at its other choices, colours or parts. */
function deadNotes(trial: GroupTrial, dial: Dial): readonly GroupNote[] {
  const { home, soft } = dial;
  const looked = trial.at({});
  const isDead = (settings: readonly InputValue[]): boolean =>
    settings
      .filter((value) => !isSameValue(value, home))
      .every((value) => differing(trial.at({ [dial.id]: value }), looked) === 0);
  if (dial.kind === 'vector' && isTriple(home)) {
    const idle = ['x', 'y', 'z'].filter((_, part) => isDead(partSettings(home, soft, part)));
    if (idle.length === 3) return deadNote(trial, dial);
    return idle.length === 0 ? [] : [partNote(dial, idle)];
  }
  const settings = dialStates(dial).map(({ value }) => value);
  const others = settings.filter((value) => !isSameValue(value, home));
  return others.length > 0 && isDead(others) ? deadNote(trial, dial) : [];
}

const partNote = (dial: Dial, idle: readonly string[]): GroupNote => ({
  code: 'dial-part',
  tone: 'fault',
  message:
    `Of “${dial.name}” ${idle.join(' and ')} ${idle.length > 1 ? 'change' : 'changes'} ` +
    'nothing on any model: a number would do.',
  dial: dial.id,
});

/** What is found of one dial by trying it over its slider on every model. */
export function measureDial(trial: GroupTrial, dialId: string): readonly GroupNote[] {
  const dial = trial.group.dials.find(({ id }) => id === dialId);
  if (!dial) return [];
  if (dial.kind !== 'scalar' || typeof dial.home !== 'number') return deadNotes(trial, dial);
  const at: At = (setting) => trial.at({ [dialId]: setting });
  const [low, high] = dial.soft;
  // Each other map takes long to measure: the ends must do.
  const isSlow = trial.asksForMaps([{ [dialId]: low }, {}, { [dialId]: high }]);
  const sideTo = (end: number): Side => {
    const settings = towards(dial, end, isSlow ? 1 : STEPS);
    return { settings, looks: settings.map(at) };
  };
  const sides = [sideTo(low), sideTo(high)] as const;
  const home = at(dial.home);
  const looks = sides.flatMap((side) => side.looks);
  if (looks.every((look) => differing(look, home) === 0)) return deadNote(trial, dial);
  const beyond = beyondNotes(dial, sides, limitsOf(home));
  if (isSlow) return beyond;
  const most = Math.max(...looks.map((look) => furthest(look, home)));
  if (most < UNSEEN) return [weakNote(dial), ...beyond];
  return [...shapeNotes(dial, sides, at), ...beyond];
}

const weakNote = (dial: Dial): GroupNote => ({
  code: 'dial-weak',
  tone: 'fault',
  message:
    `“${dial.name}” changes what goes out by less than a thousandth over its whole slider: ` +
    'nobody will see it.',
  dial: dial.id,
});

function beyondNotes(dial: Dial, sides: readonly Side[], home: Limits): GroupNote[] {
  for (const { settings, looks } of sides)
    for (const [k, look] of looks.entries()) {
      const what = faultBeyond(look, home);
      if (what)
        return [
          {
            code: 'dial-beyond',
            tone: 'fault',
            message: `At “${dial.name}” ${digits(settings[k] ?? 0)} values that go out ${what}.`,
            dial: dial.id,
          },
        ];
    }
  return [];
}

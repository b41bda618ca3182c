import { own } from '../base/own';
import type { NodeId } from '../base/ids';
import { describePorts, findGroupDefinition, getNodeTitle } from '../compile/catalogue';
import { findNode, getInputValue } from '../compile/uniforms';
import { boardAt } from '../edit/board';
import { setValue } from '../edit/nodes';
import { isFlowing } from '../graph/document';
import type { BoardId, Dial, GroupDefinition, NetworkDocument } from '../graph/document';
import { outputKey } from '../graph/result-key';
import { uniformPoints } from '../mesh/sample-points';
import type { SamplePoints } from '../mesh/sample-points';
import type { GroupNote } from './group-notes';
import type { ProofModel } from './proof';
import { EvaluationSession } from './session';

/** Points per model at which a dial is tried. */
const POINTS = 1024;
/** Settings tried between each end of the slider and home. */
const STEPS = 4;
/** A value that differs by less counts as the same. */
const SAME = 1e-6;
/** How far an inner value is moved to see its influence, as a share of its slider. */
const NUDGE = 0.05;
/** How many inner values are named. */
const MOST_NAMED = 3;

/** A group's card on the board it stands on, and models it is tried on. */
export interface TriedGroup {
  readonly document: NetworkDocument;
  /** The nodes that lead to the card, it included. */
  readonly path: readonly NodeId[];
  readonly models: readonly ProofModel[];
}

type Lanes = readonly Float32Array[];
interface Looked {
  readonly values: readonly Lanes[];
}

/** Evaluates all that goes out of a group; values may be changed without compiling anew. */
class Trial {
  readonly group: GroupDefinition;
  private readonly session: EvaluationSession;
  private readonly prepared: readonly (ProofModel & { readonly points: SamplePoints })[];
  private readonly outer: BoardId;
  private readonly card: NodeId;

  constructor(private readonly tried: TriedGroup) {
    const { document, path, models } = tried;
    const node = findNode(document, path);
    const group = node && findGroupDefinition(document, node);
    if (!node || !group) throw new Error('Invariant broken: there is no group at the path');
    this.group = group;
    this.card = node.id;
    this.outer = boardAt(document, path.slice(0, -1));
    this.session = new EvaluationSession({
      surface: false,
      taps: group.outputs
        .filter(({ kind }) => kind !== 'surface')
        .map(({ id }) => outputKey([...path], id)),
    });
    this.prepared = models.map((model) => ({
      ...model,
      points: uniformPoints(model.analysis.mesh, POINTS),
    }));
  }

  /** With every dial home but those given. */
  at(settings: ReadonlyMap<string, number>): Looked {
    return this.look(this.homed(settings));
  }

  private homed(settings: ReadonlyMap<string, number>): NetworkDocument {
    return this.group.dials
      .filter(isFlowing)
      .reduce(
        (changed, { id }) => setValue(changed, this.outer, this.card, id, settings.get(id)),
        this.tried.document,
      );
  }

  /** With one value inside changed, all dials home. */
  nudged(node: NodeId, input: string, value: number): Looked {
    return this.look(setValue(this.homed(new Map()), this.group.id, node, input, value));
  }

  private look(document: NetworkDocument): Looked {
    return {
      values: this.prepared.map(({ analysis, maps, points }) =>
        this.session.evaluate(document, analysis.mesh, points, maps),
      ),
    };
  }
}

/** The share of points at which two looks differ, on all models together. */
export function differing(a: Looked, b: Looked): number {
  let differ = 0,
    points = 0;
  a.values.forEach((lanes, model) => {
    const others = b.values[model] ?? [];
    const count = lanes[0]?.length ?? 0;
    points += count;
    for (let k = 0; k < count; k++)
      if (lanes.some((lane, l) => !(Math.abs((lane[k] ?? 0) - (others[l]?.[k] ?? 0)) <= SAME)))
        differ++;
  });
  return points > 0 ? differ / points : 0;
}

/** The mean over all points and lanes of how far two looks are apart. */
function apart(a: Looked, b: Looked): number {
  let sum = 0,
    count = 0;
  a.values.forEach((lanes, model) => {
    lanes.forEach((lane, l) => {
      const other = b.values[model]?.[l];
      for (let k = 0; k < lane.length; k++) {
        const distance = Math.abs((lane[k] ?? 0) - (other?.[k] ?? 0));
        if (Number.isFinite(distance)) sum += distance;
        count++;
      }
    });
  });
  return count > 0 ? sum / count : 0;
}

interface Limits {
  readonly hasNaN: boolean;
  readonly isBeyond: boolean;
}
function limitsOf({ values }: Looked): Limits {
  let hasNaN = false,
    isBeyond = false;
  for (const lanes of values)
    for (const lane of lanes)
      for (const value of lane) {
        if (!Number.isFinite(value)) hasNaN = true;
        else if (value < -SAME || value > 1 + SAME) isBeyond = true;
      }
  return { hasNaN, isBeyond };
}

const number = (value: number): string => String(Number(value.toPrecision(3)));

/** Settings from home to an end of the slider, home first, and what goes out at each. */
interface Side {
  readonly settings: readonly number[];
  readonly looks: readonly Looked[];
}

/** Settings from home to an end, home first. */
const towards = (home: number, end: number): readonly number[] =>
  Array.from({ length: STEPS + 1 }, (_, k) => home + ((end - home) * k) / STEPS);

/** How often the place where a dial stops working is halved. */
const HALVINGS = 7;

/** How far towards an end a dial still changes something; the end where it does to the last. */
function reachOf({ settings, looks }: Side, at: (setting: number) => Looked): number {
  const end = looks.at(-1) as Looked;
  let last = settings.length - 1;
  while (last > 0 && differing(looks[last - 1] as Looked, end) === 0) last--;
  if (last === settings.length - 1 || last === 0) return settings[last] ?? 0;
  let [works, idles] = [settings[last - 1] ?? 0, settings[last] ?? 0];
  for (let k = 0; k < HALVINGS; k++) {
    const middle = (works + idles) / 2;
    if (differing(at(middle), end) === 0) idles = middle;
    else works = middle;
  }
  return Number(idles.toPrecision(3));
}

/** What is found of one dial by trying it over its slider on every model. */
export function measureDial(tried: TriedGroup, dialId: string): readonly GroupNote[] {
  const trial = new Trial(tried);
  const dial = trial.group.dials.find(({ id }) => id === dialId);
  if (dial?.kind !== 'scalar' || typeof dial.home !== 'number') return [];
  const at = (setting: number): Looked => trial.at(new Map([[dialId, setting]]));
  const [low, high] = dial.soft;
  const sides = [low, high].map((end) => {
    const settings = towards(dial.home as number, end);
    return { settings, looks: settings.map(at) };
  });
  const home = at(dial.home);
  const looks = sides.flatMap((side) => side.looks);
  if (looks.every((look) => differing(look, home) === 0))
    return [
      {
        code: 'dial-dead',
        tone: 'fault',
        message: `“${dial.name}” changes nothing on any model, over its whole slider.`,
        dial: dialId,
      },
    ];
  return [...flatNotes(dial, sides, at), ...beyondNotes(dial, sides, limitsOf(home))];
}

function flatNotes(
  dial: Dial,
  [below, above]: readonly Side[],
  at: (setting: number) => Looked,
): GroupNote[] {
  if (!below || !above) return [];
  const soft: readonly [number, number] = [reachOf(below, at), reachOf(above, at)];
  const [low, high] = dial.soft;
  if (soft[0] === low && soft[1] === high) return [];
  const idle = soft[0] !== low ? `below ${number(soft[0])}` : `above ${number(soft[1])}`;
  return soft[0] >= soft[1]
    ? []
    : [
        {
          code: 'dial-flat',
          tone: 'fault',
          message: `“${dial.name}” does nothing more ${idle}.`,
          dial: dial.id,
          cure: {
            act: 'slider',
            title: `Let its slider go from ${number(soft[0])} to ${number(soft[1])}`,
            dial: dial.id,
            soft,
          },
        },
      ];
}

function beyondNotes(dial: Dial, sides: readonly Side[], home: Limits): GroupNote[] {
  for (const { settings, looks } of sides)
    for (const [k, look] of looks.entries()) {
      const found = limitsOf(look);
      const what =
        found.hasNaN && !home.hasNaN
          ? 'stop being numbers'
          : found.isBeyond && !home.isBeyond
            ? 'leave 0–1'
            : null;
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

/** A number inside a group that no dial drives and no strand brings, with its influence. */
export interface InnerInfluence {
  readonly node: NodeId;
  readonly input: string;
  readonly title: string;
  /** The mean change of what goes out for a twentieth of the value's slider. */
  readonly influence: number;
}

/** The numbers inside that are neither driven nor wired, those of most influence first. */
export function rankInfluence(tried: TriedGroup): readonly InnerInfluence[] {
  const trial = new Trial(tried);
  const { group } = trial;
  const home = trial.at(new Map());
  const isTaken = (node: string, input: string): boolean =>
    group.network.strands.some(({ to }) => to.node === node && to.input === input) ||
    group.dials.some(({ drives }) =>
      drives.some((drive) => drive.node === node && drive.input === input),
    );
  return group.network.nodes
    .flatMap((node) =>
      (describePorts(tried.document, node)?.inputs ?? []).flatMap(({ id, title, port, dial }) => {
        const value = getInputValue(node, id) ?? dial?.home;
        const soft = port?.soft ?? dial?.soft;
        if (typeof value !== 'number' || !soft || isTaken(node.id, id)) return [];
        if (own(node.values, id) === undefined && !dial && port?.counts === 'seed') return [];
        const step = (soft[1] - soft[0]) * NUDGE;
        const influence = apart(trial.nudged(node.id, id, value + step), home);
        const name = `${title} of “${getNodeTitle(tried.document, node)}”`;
        return [{ node: node.id, input: id, title: name, influence }];
      }),
    )
    .filter(({ influence }) => influence > 0)
    .sort((a, b) => b.influence - a.influence);
}

const RANKS = ['the most', 'the second most', 'the third most'];

/** The inner values with most influence that are no dials, as notes. */
export const influenceNotes = (ranked: readonly InnerInfluence[]): readonly GroupNote[] =>
  ranked.slice(0, MOST_NAMED).map(({ node, input, title }, k) => ({
    code: 'influence',
    tone: 'fact',
    message: `${title} is no dial and has ${RANKS[k] ?? 'much'} influence.`,
    node,
    input,
  }));

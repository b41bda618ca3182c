import { own } from '../base/own';
import type { NodeId } from '../base/ids';
import { feedingOut } from '../advice/feeding-out';
import { describePorts, findNodeDefinition, neutralValue } from '../compile/catalogue';
import { getInputValue } from '../compile/uniforms';
import type { Dial, GroupDefinition, NodeInstance } from '../graph/document';
import type { InputPort } from '../nodes/define';
import { isShare } from '../nodes/quantities';
import { measureOpposites } from './dial-pairs';
import type { GroupNote } from './group-note';
import { apart, faultBeyond, limitsOf } from './group-trial';
import type { GroupTrial } from './group-trial';
import { titleInList } from '../compile/told-apart';

/** How far an inner value is moved to see its influence, as a share of its slider. */
const NUDGE = 0.05;
/** The same, as a share of a value that is not 0. */
const TENTH = 0.1;
/** How many inner values are named. */
const MOST_NAMED = 3;

const number = (value: number): string => String(Number(value.toPrecision(3)));

/** Dials two of which may meet at their ends. */
const sliders = (trial: GroupTrial): readonly Dial[] =>
  trial.group.dials.filter(
    ({ kind, soft, id }) =>
      kind === 'scalar' && !trial.asksForMaps([{ [id]: soft[0] }, { [id]: soft[1] }]),
  );

/**
 * Where two dials at their ends together make values leave 0–1 or stop being numbers, though
 * neither does so alone; each pair is named once.
 */
function pairsBeyond(trial: GroupTrial): readonly GroupNote[] {
  const home = limitsOf(trial.at({}));
  const isFine = (values: Readonly<Record<string, number>>): boolean =>
    faultBeyond(trial.at(values), home) === null;
  const ends = sliders(trial).map((dial) => ({
    dial,
    fine: dial.soft.filter((end) => isFine({ [dial.id]: end })),
  }));
  return ends.flatMap(({ dial: first, fine: firstEnds }, k) =>
    ends.slice(k + 1).flatMap(({ dial: second, fine: secondEnds }): GroupNote[] => {
      for (const a of firstEnds)
        for (const b of secondEnds) {
          const what = faultBeyond(trial.at({ [first.id]: a, [second.id]: b }), home);
          if (what)
            return [
              {
                code: 'pair-beyond',
                tone: 'fault',
                message:
                  `At “${first.name}” ${number(a)} and “${second.name}” ${number(b)} together ` +
                  `values that go out ${what}.`,
                dial: first.id,
              },
            ];
        }
      return [];
    }),
  );
}

/** What two dials do to each other, pair by pair. */
export const measurePairs = (trial: GroupTrial): readonly GroupNote[] => [
  ...pairsBeyond(trial),
  ...measureOpposites(trial),
];

/** What happens when each wired input is unplugged in turn. */
export function measureUnplugging(trial: GroupTrial): readonly GroupNote[] {
  const home = limitsOf(trial.at({}));
  return trial.wiredInputs().flatMap((input): GroupNote[] => {
    const what = faultBeyond(trial.unplugged(input), home);
    const name = trial.group.inputs.find(({ id }) => id === input)?.name ?? input;
    return what
      ? [
          {
            code: 'unplugged',
            tone: 'fault',
            message: `With nothing wired to “${name}” values that go out ${what}.`,
            port: input,
          },
        ]
      : [];
  });
}

/** A number inside a group that no dial drives and no strand brings, with its influence. */
export interface InnerInfluence {
  readonly node: NodeId;
  readonly input: string;
  readonly title: string;
  /** The mean change of what is seen of what goes out, for a step that a hand would try. */
  readonly influence: number;
}

/** How far a value is moved to see its influence: a step that a hand would try. */
function stepOf(
  value: number,
  port: InputPort | null | undefined,
  soft: readonly [number, number],
): number {
  const [low, high] = soft;
  const share = (high - low) * NUDGE;
  if (port?.quantity !== undefined && isShare(port.quantity)) return NUDGE;
  // Of a strength, a size or an angle that is set, a tenth more is as much of a step as any.
  return value === 0 ? share : Math.min(share, Math.abs(value) * TENTH);
}

/**
 * Whether a number takes part: what it is multiplied by is not 0, and it is no 0 of a surface,
 * which means that there is none, nor a value that changes nothing and that nobody set.
 */
function isInUse(
  { network }: GroupDefinition,
  node: NodeInstance,
  id: string,
  port: InputPort | null | undefined,
): boolean {
  const value = getInputValue(node, id);
  if (value === 0 && findNodeDefinition(node)?.family === 'surface') return false;
  const isSet = own(node.values, id) !== undefined;
  if (!isSet && value !== undefined && value === (neutralValue(node, id) ?? port?.neutral))
    return false;
  const factor = port?.factor;
  if (factor === undefined) return true;
  const isWired = network.strands.some(({ to }) => to.node === node.id && to.input === factor);
  return isWired || getInputValue(node, factor) !== 0;
}

/** The numbers inside that are neither driven nor wired, those of most influence first. */
export function rankInfluence(trial: GroupTrial): readonly InnerInfluence[] {
  const { group, document } = trial;
  const home = trial.seen(trial.at({}));
  const needed = feedingOut(group.network);
  const isTaken = (node: string, input: string): boolean =>
    group.network.strands.some(({ to }) => to.node === node && to.input === input) ||
    group.dials.some(({ drives }) =>
      drives.some((drive) => drive.node === node && drive.input === input),
    );
  return group.network.nodes
    .filter((node) => needed.has(node.id) && !node.off)
    .flatMap((node) =>
      (describePorts(document, node)?.inputs ?? []).flatMap(({ id, title, port, dial }) => {
        const value = getInputValue(node, id) ?? dial?.home;
        const soft = port?.soft ?? dial?.soft;
        if (typeof value !== 'number' || !soft || isTaken(node.id, id)) return [];
        if (own(node.values, id) === undefined && !dial && port?.counts === 'seed') return [];
        if (!isInUse(group, node, id, port)) return [];
        const step = stepOf(value, port, soft);
        const influence = apart(trial.seen(trial.nudged(node.id, id, value + step)), home);
        const name = `${title} of “${titleInList(document, group.network, node)}”`;
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

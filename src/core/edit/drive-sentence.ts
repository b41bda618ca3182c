import { describePorts } from '../compile/catalogue';
import { settingOf } from '../compile/settings';
import { getInputValue } from '../compile/uniforms';
import type {
  Dial,
  Drive,
  GroupDefinition,
  NetworkDocument,
  NodeInstance,
} from '../graph/document';
import { drivenValue } from './dials';

/** One dial's part in a value: its drive, and where the dial stands. */
export interface DrivePart {
  readonly dial: Pick<Dial, 'home'>;
  readonly drive: Drive;
  readonly at: number;
}

/** What a strand brings, in a sentence. */
const ARRIVING = 'arriving';
const number = (value: number): string => String(Number(value.toPrecision(4)));
const homeOf = ({ dial: { home } }: DrivePart): number => (typeof home === 'number' ? home : 1);
const signed = (text: string): string => (text.startsWith('-') ? `(${text})` : text);

/**
 * How dials decide an inner value, as the sentence it is: `0.8 × 1.2 × 42 + (1.1 − 1) × 5`.
 * @param designed the value as designed; null where a strand brings it
 */
export function driveSentence(designed: number | null, parts: readonly DrivePart[]): string {
  const base = designed === null ? ARRIVING : number(designed);
  const alone = parts.find(({ drive }) => drive.law !== 'times' && drive.law !== 'lift');
  const start = alone ? aloneSentence(base, alone) : base;
  const times = parts.filter(({ drive }) => drive.law === 'times').map(({ at }) => number(at));
  const lifts = parts
    .filter(({ drive }) => drive.law === 'lift')
    .map(({ at, drive }) => ` + (${number(at)} − 1) × ${number(drive.reach ?? 0)}`);
  return `${[...times, signed(start)].join(' × ')}${lifts.join('')}`;
}

function aloneSentence(base: string, part: DrivePart): string {
  const { drive, at } = part;
  const [low, high] = [drive.low ?? 0, drive.high ?? 0];
  switch (drive.law) {
    case 'span':
      return `${base} + (${number(at)} − ${number(homeOf(part))}) × ${number(high - low)}`;
    case 'blend':
      return (
        `${drive.low === undefined ? base : number(low)} × ${number(1 - at)} + ` +
        `${number(high)} × ${number(at)}`
      );
    case 'power':
      return `${base} ^ ${number(at)}`;
    default:
      return number(at);
  }
}

/** The number that dials make of a designed one, in the order a program applies them. */
export function drivenNumber(designed: number, parts: readonly DrivePart[]): number {
  const order = (law: Drive['law']): number => (law === 'lift' ? 2 : law === 'times' ? 1 : 0);
  return [...parts]
    .sort((a, b) => order(a.drive.law) - order(b.drive.law))
    .reduce((value, part) => drivenValue(value, part.drive, part.at, homeOf(part)), designed);
}

/** The value a drive acts on: null where a strand brings it, undefined where it is no number. */
export function designedNumber(
  document: NetworkDocument,
  { network: { nodes, strands } }: GroupDefinition,
  { node: id, input }: Pick<Drive, 'node' | 'input'>,
): number | null | undefined {
  if (strands.some(({ to }) => to.node === id && to.input === input)) return null;
  const node = nodes.find((each) => each.id === id);
  const port = node && describePorts(document, node)?.inputs.find((each) => each.id === input);
  const typed = node && (getInputValue(node, input) ?? port?.dial?.home);
  return typeof typed === 'number' ? typed : undefined;
}

/**
 * What dials do to the values of a node inside a group, one line a drive: the dial's name, and with
 * the first drive of a number the sentence that decides it.
 * @param card the group's card whose settings count; homes without one
 */
export function driveLines(
  document: NetworkDocument,
  group: GroupDefinition,
  nodeId: string,
  card: NodeInstance | undefined,
): readonly string[] {
  const all = group.dials.flatMap((dial) =>
    dial.drives.filter(({ node }) => node === nodeId).map((drive) => ({ dial, drive })),
  );
  return all.map(({ dial, drive }) => {
    const ofValue = all.filter((each) => each.drive.input === drive.input);
    const designed = designedNumber(document, group, drive);
    const parts = ofValue.flatMap((each): DrivePart[] => {
      const at = card ? settingOf(card, each.dial) : each.dial.home;
      return typeof at === 'number' ? [{ ...each, at }] : [];
    });
    return ofValue[0]?.drive !== drive || designed === undefined || parts.length === 0
      ? dial.name
      : `${dial.name}: ${driveSentence(designed, parts)}`;
  });
}

import { own } from '../base/own';
import type {
  Dial,
  Drive,
  GroupDefinition,
  InputValue,
  Law,
  Network,
  NetworkDocument,
} from '../graph/document';
import { withGroup } from './board';
import { kindUnder, offerDial } from './dial-offers';
import { changeDial, drivenValue, makeDrive, rangesFor } from './dials';
import { designedNumber } from './drive-sentence';

type Place = Pick<Drive, 'node' | 'input'>;
type Settings = Readonly<Record<string, InputValue>>;

/** A dial by its law, and by another that it may have. */
interface LawChange {
  readonly dial: Dial;
  readonly changed: Dial;
  readonly drive: Drive;
  readonly made: Drive;
  /** Null where a strand brings it. */
  readonly designed: number | null | undefined;
}

/** The change to each law on offer; none where the place is not driven by the dial. */
function changesOf(
  document: NetworkDocument,
  groupId: string,
  dialId: string,
  { node, input }: Place,
): readonly LawChange[] {
  const group = own(document.groups, groupId);
  const dial = group?.dials.find(({ id }) => id === dialId);
  const drive = dial?.drives.find((each) => each.node === node && each.input === input);
  if (!group || !dial || !drive) return [];
  // What is offered is what would be if the dial did not drive the value yet.
  const others = dial.drives.filter((each) => each !== drive);
  const without = changeDial(document, groupId, dialId, { drives: others });
  const offer = offerDial(without, groupId, node, input);
  if (!offer) return [];
  const designed = designedNumber(document, group, drive);
  return offer.laws
    .filter((law) => kindUnder(law, offer.kind) === dial.kind)
    .map((law) => {
      const made = makeDrive(without, groupId, node, input, law);
      const drives = dial.drives.map((each) => (each === drive ? made : each));
      const ranges = rangesFor(without, groupId, made, offer);
      return { dial, drive, made, designed, changed: { ...dial, ...ranges, drives } };
    });
}

/** The setting at which a law gives a value; null where none does. */
function settingFor(value: number, designed: number, drive: Drive, home: number): number | null {
  const { low = designed, high = 0, reach = 0 } = drive;
  const inverse: Readonly<Record<Law, () => number>> = {
    times: () => value / designed,
    lift: () => 1 + (value - designed) / reach,
    span: () => home + (value - designed) / (high - low),
    blend: () => (value - low) / (high - low),
    power: () => Math.log(value) / Math.log(designed),
    'as is': () => value,
  };
  const setting = value === designed ? home : inverse[drive.law]();
  return Number.isFinite(setting) ? setting : null;
}

/** A setting by one law as the setting that gives the same by another; null where none does. */
function carried(setting: InputValue, change: LawChange): InputValue | null {
  const { dial, changed, drive, made, designed } = change;
  if (JSON.stringify(setting) === JSON.stringify(dial.home)) return changed.home;
  const { home } = dial;
  if (typeof setting !== 'number' || typeof home !== 'number') return null;
  if (typeof designed !== 'number' || typeof changed.home !== 'number') return null;
  const value = drivenValue(designed, drive, setting, home);
  const next = settingFor(value, designed, made, changed.home);
  const { hard } = changed;
  return next === null || (hard && (next < hard[0] || next > hard[1])) ? null : next;
}

const networksOf = ({ network, groups }: NetworkDocument): readonly Network[] => [
  network,
  ...Object.values(groups).map((group) => group.network),
];

/** What cards and variants of a group set a dial to. */
const settingsOf = (
  document: NetworkDocument,
  { id: groupId, variants = [] }: GroupDefinition,
  dialId: string,
): readonly InputValue[] =>
  [
    ...networksOf(document).flatMap(({ nodes }) => nodes.filter(({ group }) => group === groupId)),
    ...variants,
  ].flatMap(({ values }) => own<InputValue>(values, dialId) ?? []);

/** Whether a strand or a dial further out sets the dial on some card of the group. */
const isSetFromOutside = (document: NetworkDocument, groupId: string, dialId: string): boolean =>
  [null, ...Object.values(document.groups)].some((around) => {
    const { nodes, strands } = around?.network ?? document.network;
    const cards = new Set(nodes.filter(({ group }) => group === groupId).map(({ id }) => id));
    const isHere = (at: Place): boolean => cards.has(at.node) && at.input === dialId;
    return (
      strands.some(({ to }) => isHere(to)) ||
      (around?.dials ?? []).some(({ drives }) => drives.some(isHere))
    );
  });

function isPossible(document: NetworkDocument, groupId: string, change: LawChange): boolean {
  const { dial, changed, drive, made } = change;
  const group = own(document.groups, groupId);
  if (made.law === drive.law) return true;
  if (!group) return false;
  const isSameHome = JSON.stringify(dial.home) === JSON.stringify(changed.home);
  if (!isSameHome && isSetFromOutside(document, groupId, dial.id)) return false;
  const settings = settingsOf(document, group, dial.id);
  // Several values share one setting: it stays, and so do home and slider.
  if (dial.drives.length > 1)
    return (
      isSameHome &&
      JSON.stringify([dial.soft, dial.hard]) === JSON.stringify([changed.soft, changed.hard]) &&
      settings.every((setting) => JSON.stringify(setting) === JSON.stringify(dial.home))
    );
  return settings.every((setting) => carried(setting, change) !== null);
}

/**
 * The laws that a value driven by a dial may have, the one that it has among them: those by which
 * everything looks as it does now, at home and on every card and variant of the group.
 */
export function lawsOfDrive(
  document: NetworkDocument,
  groupId: string,
  dialId: string,
  place: Place,
): readonly Law[] {
  return changesOf(document, groupId, dialId, place)
    .filter((change) => isPossible(document, groupId, change))
    .map(({ made }) => made.law);
}

/**
 * Another law for a value that a dial drives. The dial keeps its name, its words and its place;
 * home and slider are those of the law, and what cards and variants set becomes the setting that
 * gives the same value. Unchanged where the value cannot have that law.
 */
export function changeLaw(
  document: NetworkDocument,
  groupId: string,
  dialId: string,
  place: Place,
  law: Law,
): NetworkDocument {
  const change = changesOf(document, groupId, dialId, place).find(({ made }) => made.law === law);
  if (!change || change.drive.law === law || !isPossible(document, groupId, change))
    return document;
  const carry = <Holder extends { readonly values: Settings }>(holder: Holder): Holder => {
    const setting = own<InputValue>(holder.values, dialId);
    const next = setting === undefined ? null : carried(setting, change);
    return next === null ? holder : { ...holder, values: { ...holder.values, [dialId]: next } };
  };
  const inNetwork = (network: Network): Network => ({
    ...network,
    nodes: network.nodes.map((node) => (node.group === groupId ? carry(node) : node)),
  });
  const groups = Object.fromEntries(
    Object.entries(document.groups).map(([id, group]) => [
      id,
      { ...group, network: inNetwork(group.network) },
    ]),
  );
  return withGroup(
    { ...document, network: inNetwork(document.network), groups },
    groupId,
    ({ variants, ...group }) => ({
      ...group,
      ...(variants ? { variants: variants.map(carry) } : {}),
      dials: group.dials.map((dial) => (dial.id === dialId ? change.changed : dial)),
    }),
  );
}

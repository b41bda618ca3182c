import { own } from '../base/own';
import type { NodeId } from '../base/ids';
import { chosenOptions, findGroupDefinition, findNodeDefinition } from '../compile/catalogue';
import type { ModelScale } from '../compile/model-scale';
import { getInputValue } from '../compile/uniforms';
import { isTriple } from '../graph/document';
import type {
  GroupDefinition,
  InputValue,
  Network,
  NetworkDocument,
  NodeInstance,
  Triple,
} from '../graph/document';
import { getNetwork } from './board';
import type { BoardId } from './board';
import { setValue } from './nodes';
import { titleInList } from '../compile/told-apart';

/** The type of the beacon node. */
export const BEACON = 'model.beacon';
/** The shape of a beacon, as its node's option names it. */
export type BeaconShape = 'sphere' | 'box' | 'cylinder' | 'half-space';
/** The inputs of a beacon that handles on the stage move. */
export type BeaconInput = 'place' | 'turn' | 'extent';
const BEACON_INPUTS = ['place', 'turn', 'extent'] as const;
/** A beacon as it stands on the stage: metres of object space, degrees about X, then Y, then Z. */
export interface PlacedBeacon {
  /** That of its node; of one inside groups, the path from the card on the board. */
  readonly id: string;
  /** The card on the board that is selected for it. */
  readonly card: NodeId;
  readonly title: string;
  readonly shape: BeaconShape;
  readonly place: Triple;
  readonly turn: Triple;
  readonly extent: Triple;
  /** What may be moved: neither wired nor driven by a dial, or a dial of the card itself. */
  readonly free: ReadonlySet<BeaconInput>;
  /** Whether where it stands is known: a wired place is not. */
  readonly isKnown: boolean;
}

const middleOf = ({ minimum, extent }: ModelScale): Triple =>
  [0, 1, 2].map((k) => (minimum[k] as number) + (extent[k] as number) / 2) as unknown as Triple;
const isRelative = (node: NodeInstance): boolean => {
  const definition = findNodeDefinition(node);
  return definition ? chosenOptions(definition, node)['measure'] === 'relative' : false;
};
const triple = (value: InputValue | undefined): Triple => (isTriple(value) ? value : [0, 0, 0]);
const tidy = (values: readonly number[]): Triple =>
  values.map((value) => Math.round(value * 1e4) / 1e4 + 0) as unknown as Triple;

/** Groups in groups are looked into so far. */
const MOST_DEEP = 8;

/** Where a value of a beacon is set on the board, and what it is now. */
interface Setting {
  readonly value: InputValue | undefined;
  /** The input of the card that sets it; null where nothing on the board does. */
  readonly input: string | null;
}
interface FoundBeacon {
  readonly id: string;
  readonly card: NodeId;
  readonly node: NodeInstance;
  readonly title: string;
  readonly settings: Readonly<Record<BeaconInput, Setting>>;
  readonly isKnown: boolean;
}

/** The inputs of a node that a strand brings. */
const wiredOf = ({ strands }: Network, node: NodeId): ReadonlySet<string> =>
  new Set(strands.filter(({ to }) => to.node === node).map(({ to }) => to.input));

/** Finds the beacons inside a card's group that its dials move, in groups inside it too. */
function beaconsInside(
  document: NetworkDocument,
  group: GroupDefinition,
  card: NodeId,
  path: readonly NodeId[],
  dials: ReadonlyMap<string, Setting>,
): readonly FoundBeacon[] {
  const outside = (node: NodeInstance, input: string): Setting => {
    const dial = group.dials.find(({ drives }) =>
      drives.some((drive) => drive.node === node.id && drive.input === input),
    );
    const isSame = dial?.drives.every(({ law }) => law === 'as is');
    return dial && isSame
      ? (dials.get(dial.id) ?? { value: dial.home, input: null })
      : { value: getInputValue(node, input), input: null };
  };
  return group.network.nodes.flatMap((node): readonly FoundBeacon[] => {
    const inside = [...path, node.id];
    const inner = findGroupDefinition(document, node);
    if (inner && inside.length < MOST_DEEP) {
      const passed = inner.dials.map(({ id, home }): [string, Setting] => {
        const setting = outside(node, id);
        return [
          id,
          setting.input === null ? { value: own(node.values, id) ?? home, input: null } : setting,
        ];
      });
      return beaconsInside(document, inner, card, inside, new Map(passed));
    }
    if (node.type !== BEACON) return [];
    const settings = {
      place: outside(node, 'place'),
      turn: outside(node, 'turn'),
      extent: outside(node, 'extent'),
    };
    if (BEACON_INPUTS.every((input) => settings[input].input === null)) return [];
    const isKnown = !wiredOf(group.network, node.id).has('place');
    const title = titleInList(document, group.network, node);
    return [{ id: inside.join('/'), card, node, title, settings, isKnown }];
  });
}

/** The beacons of a board, and those in its groups that dials of the cards move. */
function findBeacons(document: NetworkDocument, board: BoardId): readonly FoundBeacon[] {
  const network = getNetwork(document, board);
  const driven = (node: string, input: string): boolean =>
    board !== null &&
    (own(document.groups, board)?.dials.some((dial) =>
      dial.drives.some((drive) => drive.node === node && drive.input === input),
    ) ??
      false);
  return network.nodes.flatMap((node): readonly FoundBeacon[] => {
    const wired = wiredOf(network, node.id);
    const isFree = (input: string): boolean => !wired.has(input) && !driven(node.id, input);
    const group = findGroupDefinition(document, node);
    if (group) {
      const dials = group.dials.map(({ id, home }): [string, Setting] => [
        id,
        { value: own(node.values, id) ?? home, input: isFree(id) ? id : null },
      ]);
      return beaconsInside(document, group, node.id, [node.id], new Map(dials));
    }
    if (node.type !== BEACON) return [];
    const setting = (input: BeaconInput): Setting => ({
      value: getInputValue(node, input),
      input: isFree(input) ? input : null,
    });
    return [
      {
        id: node.id,
        card: node.id,
        node,
        title: titleInList(document, network, node),
        settings: { place: setting('place'), turn: setting('turn'), extent: setting('extent') },
        isKnown: !wired.has('place'),
      },
    ];
  });
}

/** How a beacon's values count: the length of their unit in metres, and from where. */
const unitsOf = (node: NodeInstance, scale: ModelScale): { unit: number; middle: Triple } => ({
  unit: isRelative(node) ? scale.size : 1,
  middle: isRelative(node) ? middleOf(scale) : [0, 0, 0],
});

/** The beacons of a board as they stand on a model; those in groups where dials move them. */
export function listBeacons(
  document: NetworkDocument,
  board: BoardId,
  scale: ModelScale,
): readonly PlacedBeacon[] {
  return findBeacons(document, board).map(({ id, card, node, title, settings, isKnown }) => {
    const { unit, middle } = unitsOf(node, scale);
    const place = triple(settings.place.value);
    return {
      id,
      card,
      title,
      shape: (node.options['shape'] ?? 'sphere') as BeaconShape,
      place: place.map((x, k) => middle[k as 0] + x * unit) as unknown as Triple,
      turn: triple(settings.turn.value),
      extent: triple(settings.extent.value).map((x) => Math.abs(x) * unit) as unknown as Triple,
      isKnown,
      free: new Set(BEACON_INPUTS.filter((input) => settings[input].input !== null)),
    };
  });
}

/** Puts a beacon where it was moved to on the stage; what is not free stays. */
export function moveBeacon(
  document: NetworkDocument,
  board: BoardId,
  id: string,
  to: Readonly<Record<BeaconInput, Triple>>,
  scale: ModelScale,
): NetworkDocument {
  const beacon = findBeacons(document, board).find((each) => each.id === id);
  if (!beacon) return document;
  const { unit, middle } = unitsOf(beacon.node, scale);
  const values: Record<BeaconInput, Triple> = {
    place: tidy(to.place.map((x, k) => (x - middle[k as 0]) / unit)),
    turn: tidy(to.turn),
    extent: tidy(to.extent.map((x) => Math.max(0, x / unit))),
  };
  return BEACON_INPUTS.reduce((current, each) => {
    const { value, input } = beacon.settings[each];
    return input === null || same(values[each], tidy(triple(value)))
      ? current
      : setValue(current, board, beacon.card, input, values[each]);
  }, document);
}
const same = (a: Triple, b: Triple): boolean => a.every((x, k) => x === b[k as 0]);

/**
 * A place of object space, metres, as a node's inputs count places: in object sizes from the middle
 * of the bounds, or as it is.
 */
export function placeAsCounted(node: NodeInstance, place: Triple, scale: ModelScale): Triple {
  const middle = middleOf(scale);
  return tidy(isRelative(node) ? place.map((x, k) => (x - middle[k as 0]) / scale.size) : place);
}

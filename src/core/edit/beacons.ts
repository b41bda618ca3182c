import { own } from '../base/own';
import { chosenOptions, findNodeDefinition } from '../compile/catalogue';
import type { ModelScale } from '../compile/model-scale';
import { getInputValue } from '../compile/uniforms';
import { isTriple } from '../graph/document';
import type { NetworkDocument, NodeInstance, Triple } from '../graph/document';
import { getNetwork } from './board';
import type { BoardId } from './board';
import { setValue } from './nodes';

/** The type of the beacon node. */
export const BEACON = 'model.beacon';
/** The shape of a beacon, as its node's option names it. */
export type BeaconShape = 'sphere' | 'box' | 'cylinder' | 'half-space';
/** The inputs of a beacon that handles on the stage move. */
export type BeaconInput = 'place' | 'turn' | 'extent';
/** A beacon as it stands on the stage: metres of object space, degrees about X, then Y, then Z. */
export interface PlacedBeacon {
  readonly id: string;
  readonly title: string;
  readonly shape: BeaconShape;
  readonly place: Triple;
  readonly turn: Triple;
  readonly extent: Triple;
  /** What may be moved: neither wired nor driven by a dial. */
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
const triple = (node: NodeInstance, input: BeaconInput): Triple => {
  const value = getInputValue(node, input);
  return isTriple(value) ? value : [0, 0, 0];
};
const tidy = (values: readonly number[]): Triple =>
  values.map((value) => Math.round(value * 1e4) / 1e4 + 0) as unknown as Triple;

/** The beacons of a board, as they stand on a model. */
export function listBeacons(
  document: NetworkDocument,
  board: BoardId,
  scale: ModelScale,
): readonly PlacedBeacon[] {
  const network = getNetwork(document, board);
  const driven = (node: string, input: string): boolean =>
    board !== null &&
    (own(document.groups, board)?.dials.some((dial) =>
      dial.drives.some((drive) => drive.node === node && drive.input === input),
    ) ??
      false);
  return network.nodes
    .filter((node) => node.type === BEACON)
    .map((node) => {
      const wired = new Set(
        network.strands.filter(({ to }) => to.node === node.id).map(({ to }) => to.input),
      );
      const unit = isRelative(node) ? scale.size : 1,
        middle = isRelative(node) ? middleOf(scale) : ([0, 0, 0] as const);
      return {
        id: node.id,
        title: node.name ?? 'Beacon',
        shape: (node.options['shape'] ?? 'sphere') as BeaconShape,
        place: triple(node, 'place').map((x, k) => middle[k as 0] + x * unit) as unknown as Triple,
        turn: triple(node, 'turn'),
        extent: triple(node, 'extent').map((x) => Math.abs(x) * unit) as unknown as Triple,
        isKnown: !wired.has('place'),
        free: new Set(
          (['place', 'turn', 'extent'] as const).filter(
            (input) => !wired.has(input) && !driven(node.id, input),
          ),
        ),
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
  const beacon = listBeacons(document, board, scale).find((each) => each.id === id);
  const node = getNetwork(document, board).nodes.find((each) => each.id === id);
  if (!beacon || !node) return document;
  const unit = isRelative(node) ? scale.size : 1,
    middle = isRelative(node) ? middleOf(scale) : ([0, 0, 0] as const);
  const values: Record<BeaconInput, Triple> = {
    place: tidy(to.place.map((x, k) => (x - middle[k as 0]) / unit)),
    turn: tidy(to.turn),
    extent: tidy(to.extent.map((x) => Math.max(0, x / unit))),
  };
  return [...beacon.free].reduce(
    (current, input) =>
      same(values[input], tidy(triple(node, input)))
        ? current
        : setValue(current, board, id, input, values[input]),
    document,
  );
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

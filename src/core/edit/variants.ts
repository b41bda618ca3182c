import { own } from '../base/own';
import type { GroupId, NodeId, PortId } from '../base/ids';
import { settingOf } from '../compile/settings';
import { findGroupDefinition } from '../compile/catalogue';
import { isTriple } from '../graph/document';
import type {
  BoardId,
  GroupDefinition,
  InputValue,
  NetworkDocument,
  NodeInstance,
  Triple,
  Variant,
} from '../graph/document';
import { changeNode, freshId, getNetwork, withGroup } from './board';

/** The values of a group's dials, by the ids of the dials. */
export type DialValues = Readonly<Record<PortId, InputValue>>;

/** Whether two values are the same, member by member. */
export const isSameValue = (a: InputValue | undefined, b: InputValue | undefined): boolean =>
  JSON.stringify(a) === JSON.stringify(b);

/** The dials of a card that are not home, with their values. */
export function movedDials(group: GroupDefinition, card: NodeInstance): DialValues {
  return Object.fromEntries(
    group.dials.flatMap((dial) => {
      const value = settingOf(card, dial);
      return isSameValue(value, dial.home) ? [] : [[dial.id, value]];
    }),
  );
}

/** The value of every dial in a set of values: home where the set is silent. */
export const fullValues = (group: GroupDefinition, values: DialValues): DialValues =>
  Object.fromEntries(group.dials.map(({ id, home }) => [id, own(values, id) ?? home]));

/** Sets all dials of a card at once; those that are not named go home, wired ones stay wired. */
export function setDials(
  document: NetworkDocument,
  board: BoardId,
  card: NodeId,
  values: DialValues,
): NetworkDocument {
  const node = getNetwork(document, board).nodes.find(({ id }) => id === card);
  const group = node && findGroupDefinition(document, node);
  if (!group) return document;
  const dials = new Set<string>(group.dials.map(({ id }) => id));
  return changeNode(document, board, card, (each) => ({
    ...each,
    values: {
      ...Object.fromEntries(Object.entries(each.values).filter(([id]) => !dials.has(id))),
      ...Object.fromEntries(
        group.dials.flatMap(({ id, home }) => {
          const value = own(values, id);
          return value === undefined || isSameValue(value, home) ? [] : [[id, value]];
        }),
      ),
    },
  }));
}

const withVariants = (
  document: NetworkDocument,
  groupId: GroupId,
  change: (variants: readonly Variant[], group: GroupDefinition) => readonly Variant[],
): NetworkDocument =>
  withGroup(document, groupId, (group) => {
    const { variants = [], ...rest } = group;
    const next = change(variants, group);
    return next.length > 0 ? { ...rest, variants: next } : rest;
  });

/** Keeps the dial values of a card under a name; one of that name is replaced. */
export function keepVariant(
  document: NetworkDocument,
  groupId: GroupId,
  card: NodeInstance,
  name: string,
): NetworkDocument {
  return withVariants(document, groupId, (variants, group) => {
    const values = movedDials(group, card);
    if (variants.some((each) => each.name === name))
      return variants.map((each) => (each.name === name ? { ...each, values } : each));
    const id = freshId('v', new Set(variants.map((each) => each.id)));
    return [...variants, { id, name, values }];
  });
}

/** Gives a variant another name. */
export const renameVariant = (
  document: NetworkDocument,
  groupId: GroupId,
  id: string,
  name: string,
): NetworkDocument =>
  withVariants(document, groupId, (variants) =>
    variants.map((each) => (each.id === id ? { ...each, name } : each)),
  );

/** Puts a variant at a place in the order; further than the end is the end. */
export const moveVariant = (
  document: NetworkDocument,
  groupId: GroupId,
  id: string,
  to: number,
): NetworkDocument =>
  withVariants(document, groupId, (variants) => {
    const moved = variants.filter((each) => each.id === id);
    const rest = variants.filter((each) => each.id !== id);
    return [...rest.slice(0, to), ...moved, ...rest.slice(to)];
  });

/** Forgets a variant; cards keep their values. */
export const removeVariant = (
  document: NetworkDocument,
  groupId: GroupId,
  id: string,
): NetworkDocument =>
  withVariants(document, groupId, (variants) => variants.filter((each) => each.id !== id));

/** The variant a card shows just now, where it shows one. */
export function shownVariant(group: GroupDefinition, card: NodeInstance): Variant | undefined {
  const now = fullValues(group, movedDials(group, card));
  return group.variants?.find(({ values }) => {
    const full = fullValues(group, values);
    return group.dials.every(({ id }) => isSameValue(full[id], now[id]));
  });
}

const mixed = (a: number, b: number, share: number): number =>
  share <= 0 ? a : share >= 1 ? b : a * (1 - share) + b * share;

/**
 * The dial values between two sets: numbers, vectors and colours on the straight way, whole numbers
 * where the dial steps by whole numbers; what cannot be mixed changes half-way.
 * @param share 0 for the first set, 1 for the second
 */
export function blendValues(
  group: GroupDefinition,
  first: DialValues,
  second: DialValues,
  share: number,
): DialValues {
  const [from, to] = [fullValues(group, first), fullValues(group, second)];
  return Object.fromEntries(
    group.dials.map(({ id, home, step }) => {
      const [a, b] = [from[id] ?? home, to[id] ?? home];
      const isWhole = Number.isInteger(step) && step > 0;
      if (typeof a === 'number' && typeof b === 'number') {
        const value = mixed(a, b, share);
        return [id, isWhole ? Math.round(value) : value];
      }
      if (isTriple(a) && isTriple(b))
        return [id, a.map((x, k) => mixed(x, b[k as 0], share)) as unknown as Triple];
      return [id, share < 0.5 ? a : b];
    }),
  );
}

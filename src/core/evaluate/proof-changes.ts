import { own } from '../base/own';
import type { GroupDefinition, InputValue, NetworkDocument, NodeInstance } from '../graph/document';

/** Something of a packaged group that is not as in its source, and how much depends on it. */
export interface ChangedValue {
  readonly node: string;
  readonly what: string;
  readonly before: string;
  readonly after: string;
  /** The largest difference that is left when this alone is put back. */
  readonly largestWithout: number;
}

/** A change, with the group as it would be without it. */
interface Change extends Omit<ChangedValue, 'largestWithout'> {
  readonly restored: GroupDefinition;
}

/** Each change costs a comparison of its own. */
const MOST_CHANGES = 24;

const show = (value: unknown): string => (value === undefined ? 'default' : JSON.stringify(value));

const keysOf = (...records: readonly object[]): ReadonlySet<string> =>
  new Set(records.flatMap((record) => Object.keys(record)));

/** A record with one member as in another: left out where it is not there. */
function putBack<T>(
  record: Readonly<Record<string, T>>,
  key: string,
  value: T | undefined,
): Readonly<Record<string, T>> {
  const rest = Object.entries(record).filter(([each]) => each !== key);
  return Object.fromEntries(value === undefined ? rest : [...rest, [key, value]]);
}

/** What of one node is not as in its original. */
function nodeChanges(
  original: NodeInstance,
  now: NodeInstance,
  withNode: (node: NodeInstance) => GroupDefinition,
): Change[] {
  const change = (what: string, before: unknown, after: unknown, node: NodeInstance): Change => ({
    node: now.id,
    what,
    before: show(before),
    after: show(after),
    restored: withNode(node),
  });
  const values = [...keysOf(original.values, now.values)].flatMap((key) => {
    const [before, after] = [own<InputValue>(original.values, key), own(now.values, key)];
    if (show(before) === show(after)) return [];
    return [change(key, before, after, { ...now, values: putBack(now.values, key, before) })];
  });
  const options = [...keysOf(original.options, now.options)].flatMap((key) => {
    const [before, after] = [own(original.options, key), own(now.options, key)];
    if (before === after) return [];
    return [change(key, before, after, { ...now, options: putBack(now.options, key, before) })];
  });
  const [was, is] = [original.limited ?? false, now.limited ?? false];
  const limited = was === is ? [] : [change('limited', was, is, { ...now, limited: was })];
  const [wasOff, isOff] = [original.off ?? false, now.off ?? false];
  const { off: _off, ...on } = now;
  const off =
    wasOff === isOff ? [] : [change('off', wasOff, isOff, wasOff ? { ...on, off: true } : on)];
  return [...values, ...options, ...limited, ...off];
}

function dialChanges(inside: GroupDefinition): Change[] {
  return inside.dials.map((dial) => ({
    node: dial.name,
    what: 'dial home',
    before: 'not driven',
    after: show(dial.home),
    restored: {
      ...inside,
      dials: inside.dials.map((each) => (each.id === dial.id ? { ...each, drives: [] } : each)),
    },
  }));
}

/**
 * Everything that differs between the packaged nodes and their originals; each is put back in turn
 * to see how much it accounts for. The one that explains most comes first.
 * @param id of the group in the trial
 * @param compare gives the largest difference from the source; null for none
 */
export function findChanges(
  source: NetworkDocument,
  trial: NetworkDocument,
  id: string,
  compare: (document: NetworkDocument) => { readonly largest: number } | null,
): ChangedValue[] {
  const inside = own(trial.groups, id);
  if (!inside) return [];
  const withNode = (node: NodeInstance): GroupDefinition => ({
    ...inside,
    network: {
      ...inside.network,
      nodes: inside.network.nodes.map((each) => (each.id === node.id ? node : each)),
    },
  });
  const changes = inside.network.nodes.flatMap((now) => {
    const original = source.network.nodes.find(
      (node) => node.id === now.id && node.type === now.type,
    );
    return original ? nodeChanges(original, now, withNode) : [];
  });
  return [...changes, ...dialChanges(inside)]
    .slice(0, MOST_CHANGES)
    .map(({ restored, ...change }) => {
      const without = compare({ ...trial, groups: { ...trial.groups, [id]: restored } });
      return { ...change, largestWithout: without?.largest ?? 0 };
    })
    .sort((a, b) => a.largestWithout - b.largestWithout);
}

import type { PortId } from '../base/ids';
import { getNetwork, withNetwork } from '../edit/board';
import { listUses } from '../edit/group-uses';
import type { GroupDefinition, NetworkDocument } from '../graph/document';
import { placedFrom } from './outlook';
import type { PlacedRelease } from './release-groups';
import { takeRelease } from './take-release';
import type { LostSetting, TakenRelease } from './take-release';

interface Port {
  readonly id: PortId;
  readonly name: string;
  readonly kind: string;
}

const isAlike = (a: Port, b: Port): boolean =>
  a.kind === b.kind && a.name.trim().toLowerCase() === b.name.trim().toLowerCase();

/** The new id of each old port: the same where it means the same, else that of the same name. */
function pairPorts(before: readonly Port[], now: readonly Port[]): readonly [PortId, PortId][] {
  const free = new Set(now.map(({ id }) => id));
  const pairs: [PortId, PortId][] = [];
  const pair = (port: Port, other: Port | undefined): boolean => {
    if (!other) return false;
    free.delete(other.id);
    pairs.push([port.id, other.id]);
    return true;
  };
  // A copy of an entry keeps its ids; between others an id means nothing, but a name does.
  const rest = before.filter(
    (port) =>
      !pair(
        port,
        now.find((each) => each.id === port.id && isAlike(each, port)),
      ),
  );
  for (const port of rest)
    pair(
      port,
      now.find((each) => free.has(each.id) && isAlike(each, port)),
    );
  return pairs;
}

/** What a port is called that the other group has none for; no port of it is called so. */
const GONE = 'gone ';

/** The group's ports, and all that leads to them on its cards, called as in another group. */
function withPortsOf(
  document: NetworkDocument,
  group: GroupDefinition,
  now: GroupDefinition,
): NetworkDocument {
  const inputs = new Map([
    ...pairPorts(group.inputs, now.inputs),
    ...pairPorts(group.dials, now.dials),
  ]);
  const outputs = new Map(pairPorts(group.outputs, now.outputs));
  const input = <T extends string>(id: T): T => (inputs.get(id) ?? `${GONE}${id}`) as T;
  const output = <T extends string>(id: T): T => (outputs.get(id) ?? `${GONE}${id}`) as T;
  const called: GroupDefinition = {
    ...group,
    inputs: group.inputs.map((port) => ({ ...port, id: input(port.id) })),
    outputs: group.outputs.map((port) => ({ ...port, id: output(port.id) })),
    dials: group.dials.map((dial) => ({ ...dial, id: input(dial.id) })),
  };
  let next: NetworkDocument = { ...document, groups: { ...document.groups, [group.id]: called } };
  for (const board of new Set(listUses(document, group.id).map((use) => use.board))) {
    const network = getNetwork(next, board);
    const cards = new Set(network.nodes.filter((n) => n.group === group.id).map(({ id }) => id));
    next = withNetwork(next, board, {
      ...network,
      nodes: network.nodes.map((node) =>
        cards.has(node.id)
          ? {
              ...node,
              values: Object.fromEntries(
                Object.entries(node.values).map(([id, value]) => [input(id), value]),
              ),
            }
          : node,
      ),
      strands: network.strands.map(({ from, to, ...strand }) => ({
        ...strand,
        from: cards.has(from.node) ? { ...from, output: output(from.output) } : from,
        to: cards.has(to.node) ? { ...to, input: input(to.input) } : to,
      })),
    });
    const outer = board === null ? undefined : next.groups[board];
    if (!outer) continue;
    const dials = outer.dials.map((dial) => ({
      ...dial,
      drives: dial.drives.map((drive) =>
        cards.has(drive.node) ? { ...drive, input: input(drive.input) } : drive,
      ),
    }));
    next = { ...next, groups: { ...next.groups, [outer.id]: { ...outer, dials } } };
  }
  return next;
}

/**
 * Puts a release of another entry in the place of every group from an entry. Values and strands
 * stay where ports and dials are of the same name and kind; what has no place is listed.
 */
export function takeSuccessor(
  document: NetworkDocument,
  entryId: string,
  placed: PlacedRelease,
): TakenRelease {
  const now = placed.groups.definitions[placed.groups.root];
  if (!now) return { document, lost: [] };
  const lost: LostSetting[] = [];
  let next = document;
  for (const groupId of placedFrom(document, entryId)) {
    const group = next.groups[groupId as GroupDefinition['id']];
    if (!group) continue;
    const taken = takeRelease(withPortsOf(next, group, now), groupId, placed);
    next = taken.document;
    lost.push(...taken.lost);
  }
  return { document: next, lost };
}

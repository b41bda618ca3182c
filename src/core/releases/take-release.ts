import { own } from '../base/own';
import type { PortId } from '../base/ids';
import { getNetwork, withNetwork } from '../edit/board';
import { listUses } from '../edit/group-uses';
import type { BoardId } from '../edit/board';
import { isChoice } from '../graph/document';
import type {
  Dial,
  GroupDefinition,
  InputValue,
  NetworkDocument,
  NodeInstance,
  Strand,
} from '../graph/document';
import { putInPlace } from './release-groups';
import type { PlacedRelease } from './release-groups';

/** Something of a card that a release has no place for. */
export interface LostSetting {
  readonly board: BoardId;
  readonly node: string;
  /** The dial or port, as it was called. */
  readonly title: string;
  readonly what: 'value' | 'strand' | 'drive';
  /** Why it could not be kept, in words. */
  readonly reason: string;
}
/** A document that has taken a release, and what of its own it could not keep. */
export interface TakenRelease {
  readonly document: NetworkDocument;
  readonly lost: readonly LostSetting[];
}

type Ports = Pick<GroupDefinition, 'inputs' | 'outputs' | 'dials'>;

/** Why a dial cannot hold a value that was set by hand; null where it can. */
function unfit(value: InputValue, before: Dial | undefined, now: Dial | undefined): string | null {
  if (!now) return 'the release has no such dial';
  if (before && before.kind !== now.kind) return `the dial holds a ${now.kind} now`;
  if (isChoice(value) && now.choices && !now.choices.some((each) => each.value === value.choice))
    return `“${value.choice}” is not offered any more`;
  if (typeof value === 'number' && (value < now.hard[0] || value > now.hard[1]))
    return `it goes from ${String(now.hard[0])} to ${String(now.hard[1])} now`;
  return null;
}

const takesStrand = ({ inputs, dials }: Ports, input: string): boolean =>
  inputs.some(({ id }) => id === input) || dials.some(({ id }) => id === input);

/** A card's own values, as far as the release has places for them. */
function keepValues(
  card: NodeInstance,
  before: Ports,
  now: Ports,
  board: BoardId,
): { readonly card: NodeInstance; readonly lost: readonly LostSetting[] } {
  const lost: LostSetting[] = [];
  const values = Object.entries(card.values).filter(([id, value]) => {
    if (now.inputs.some((port) => port.id === id)) return true;
    const dial = before.dials.find((each) => each.id === id);
    const reason = unfit(
      value,
      dial,
      now.dials.find((each) => each.id === id),
    );
    if (reason === null) return true;
    lost.push({ board, node: card.id, title: dial?.name ?? id, what: 'value', reason });
    return false;
  });
  return { card: { ...card, values: Object.fromEntries(values) }, lost };
}

const titleOf = ({ inputs, outputs, dials }: Ports, id: string): string =>
  [...inputs, ...outputs, ...dials].find((each) => each.id === id)?.name ?? id;

/** Strands of a board whose ends the release still has. */
function keepStrands(
  strands: readonly Strand[],
  cards: ReadonlySet<string>,
  before: Ports,
  now: Ports,
  board: BoardId,
): { readonly strands: readonly Strand[]; readonly lost: readonly LostSetting[] } {
  const lost: LostSetting[] = [];
  const kept = strands.filter(({ from, to }) => {
    const gone =
      cards.has(to.node) && !takesStrand(now, to.input)
        ? { node: to.node, port: to.input }
        : cards.has(from.node) && !now.outputs.some(({ id }) => id === from.output)
          ? { node: from.node, port: from.output }
          : null;
    if (gone)
      lost.push({
        board,
        node: gone.node,
        title: titleOf(before, gone.port),
        what: 'strand',
        reason: 'the release has no such port',
      });
    return gone === null;
  });
  return { strands: kept, lost };
}

/** Drives of an outer group's dials that lead to dials which are gone. */
function keepDrives(
  document: NetworkDocument,
  board: BoardId,
  cards: ReadonlySet<string>,
  now: Ports,
): { readonly document: NetworkDocument; readonly lost: readonly LostSetting[] } {
  const outer = board === null ? undefined : own(document.groups, board);
  if (!outer) return { document, lost: [] };
  const lost: LostSetting[] = [];
  const dials = outer.dials.map((dial) => ({
    ...dial,
    drives: dial.drives.filter(({ node, input }) => {
      if (!cards.has(node) || takesStrand(now, input)) return true;
      const reason = 'the release has no such dial';
      lost.push({ board, node, title: dial.name, what: 'drive', reason });
      return false;
    }),
  }));
  if (lost.length === 0) return { document, lost };
  return {
    document: { ...document, groups: { ...document.groups, [outer.id]: { ...outer, dials } } },
    lost,
  };
}

/**
 * Puts another release in the place of a group. Every card keeps its own dial values by id and its
 * strands; what the release has no place for is listed. What is home follows the release's home.
 * @param earlier the document of before the release in use was taken: what was lost then comes
 *   back where the release has a place for it
 */
export function takeRelease(
  document: NetworkDocument,
  groupId: string,
  placed: PlacedRelease,
  earlier?: NetworkDocument,
): TakenRelease {
  const before = own(document.groups, groupId);
  if (!before) return { document, lost: [] };
  const lost: LostSetting[] = [];
  let next = putInPlace(document, groupId, placed);
  const now = own(next.groups, groupId) ?? before;
  const boards = new Set(listUses(next, before.id).map(({ board }) => board));
  for (const board of boards) {
    const network = getNetwork(next, board);
    const cards = new Set(network.nodes.filter(({ group }) => group === groupId).map((n) => n.id));
    const nodes = network.nodes.map((node) => {
      if (!cards.has(node.id)) return node;
      const kept = keepValues(node, before, now, board);
      lost.push(...kept.lost);
      return kept.card;
    });
    const kept = keepStrands(network.strands, cards, before, now, board);
    lost.push(...kept.lost);
    next = withNetwork(next, board, { ...network, nodes, strands: kept.strands });
    const driven = keepDrives(next, board, cards, now);
    lost.push(...driven.lost);
    next = driven.document;
  }
  return { document: earlier ? giveBack(next, groupId, before, earlier) : next, lost };
}

/** What an earlier document had of dials and ports that the release in between did not have. */
function giveBack(
  document: NetworkDocument,
  groupId: string,
  between: Ports,
  earlier: NetworkDocument,
): NetworkDocument {
  const now = own(document.groups, groupId);
  if (!now) return document;
  const known = (id: string): boolean =>
    takesStrand(between, id) || between.outputs.some((port) => port.id === id);
  let next = document;
  for (const board of new Set(listUses(next, now.id).map((use) => use.board))) {
    const network = getNetwork(next, board);
    const past = getNetwork(earlier, board);
    const isCard = (id: string): boolean =>
      network.nodes.some((node) => node.id === id && node.group === groupId);
    const nodes = network.nodes.map((node) => {
      const old = node.group === groupId && past.nodes.find(({ id }) => id === node.id);
      if (!old) return node;
      const back = Object.entries(old.values).filter(
        ([id]) =>
          !known(id) && takesStrand(now, id) && own(node.values, id as PortId) === undefined,
      );
      return { ...node, values: { ...node.values, ...Object.fromEntries(back) } };
    });
    const ids = new Set([...network.nodes.map(({ id }) => id), '@in', '@out']);
    const back = past.strands.filter(
      ({ id, from, to }) =>
        ids.has(from.node) &&
        ids.has(to.node) &&
        ((isCard(to.node) && !known(to.input) && takesStrand(now, to.input)) ||
          (isCard(from.node) && !known(from.output))) &&
        !network.strands.some((each) => each.id === id || sameInput(each, to)),
    );
    next = withNetwork(next, board, { ...network, nodes, strands: [...network.strands, ...back] });
  }
  return next;
}

const sameInput = (strand: Strand, to: Strand['to']): boolean =>
  strand.to.node === to.node && strand.to.input === to.input;

/** Says that a group stays at its release, and why; without a reason it does not any more. */
export function pinRelease(
  document: NetworkDocument,
  groupId: string,
  reason: string,
): NetworkDocument {
  const group = own(document.groups, groupId);
  if (!group?.release) return document;
  const { entryId, version } = group.release;
  const release = reason.trim()
    ? { entryId, version, pinned: reason.trim() }
    : { entryId, version };
  return { ...document, groups: { ...document.groups, [groupId]: { ...group, release } } };
}

/** The releases a document uses, each entry and version once. */
export function releasesUsed(document: NetworkDocument): readonly {
  readonly entryId: string;
  readonly version: string;
  readonly pinned: string | null;
}[] {
  const used = new Map<string, { entryId: string; version: string; pinned: string | null }>();
  for (const { release } of Object.values(document.groups))
    if (release)
      used.set(`${release.entryId} ${release.version}`, {
        entryId: release.entryId,
        version: release.version,
        pinned: release.pinned ?? null,
      });
  return [...used.values()];
}

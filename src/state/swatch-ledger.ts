import type { NodeId } from '../core/base/ids';
import { getNetwork } from '../core/edit/board';
import { indexNetwork } from '../core/edit/network-index';
import type { NetworkIndex } from '../core/edit/network-index';
import { RESULT_MEMBERS } from '../core/graph/result-members';
import type { BoardId, NetworkDocument, NodeInstance, Strand } from '../core/graph/document';

/** Whether two states of a node give the same results from the same input. */
const isAlike = (a: NodeInstance, b: NodeInstance): boolean =>
  a === b || RESULT_MEMBERS.every((member) => a[member] === b[member]);

const withoutBends = ({ bends: _bends, ...strand }: Strand): string => JSON.stringify(strand);

/** The nodes at which strands came, went or changed. */
function rewiredEnds(before: readonly Strand[], after: readonly Strand[]): NodeId[] {
  if (before === after) return [];
  const old = new Map(before.map((strand) => [strand.id, strand]));
  const ends: NodeId[] = [];
  for (const strand of after) {
    const known = old.get(strand.id);
    old.delete(strand.id);
    if (known === strand || (known && withoutBends(known) === withoutBends(strand))) continue;
    ends.push(strand.to.node);
    if (known) ends.push(known.to.node);
  }
  for (const gone of old.values()) ends.push(gone.to.node);
  return ends;
}

let lastIndex: NetworkIndex | undefined;

/**
 * The nodes of a board whose results may differ between two states of a document: those edited, and
 * all that is downstream of them. null: any may.
 */
export function affectedNodes(
  before: NetworkDocument,
  after: NetworkDocument,
  board: BoardId,
): ReadonlySet<NodeId> | null {
  if (before.lights !== after.lights || before.surroundings !== after.surroundings) return null;
  const [old, now] = [before, after].map((each) => getNetwork(each, board));
  if (!old || !now) return null;
  // Inside a group, what is outside decides what comes in.
  if (board !== null && before.network !== after.network) return null;
  const changedGroups = new Set(
    Object.values(after.groups)
      .filter((group) => before.groups[group.id] !== group)
      .map(({ id }) => id),
  );
  // A group may stand inside another that did not change itself.
  const isNested = changedGroups.size > (board !== null && changedGroups.has(board) ? 1 : 0);
  if (isNested && board !== null) return null;
  const { nodes, leaving } = (lastIndex = indexNetwork(now, lastIndex));
  const known = new Map(old.nodes.map((node) => [node.id, node]));
  const affected = new Set(rewiredEnds(old.strands, now.strands).filter((id) => nodes.has(id)));
  for (const node of now.nodes) {
    const was = known.get(node.id);
    if (!was || !isAlike(was, node) || (node.group !== undefined && changedGroups.size > 0))
      affected.add(node.id);
  }
  for (const id of affected)
    for (const { to } of leaving.get(id) ?? []) if (nodes.has(to.node)) affected.add(to.node);
  return affected;
}

/** Which cards of the open board show less than the newest state, or too small a picture. */
export class SwatchLedger {
  private of: NetworkDocument | null = null;
  private board: BoardId | undefined;
  /** The side in which the picture of a card is as it should be; none where it is old. */
  private readonly fresh = new Map<NodeId, number>();

  /** Raised when everything is to be made again: what was asked before then comes too late. */
  private renewals = 0;

  get generation(): number {
    return this.renewals;
  }

  /** Everything is to be made again. */
  renew(): void {
    this.renewals++;
    this.fresh.clear();
  }

  /** One card is to be made again. */
  forget(id: NodeId): void {
    this.fresh.delete(id);
  }

  /** Takes note of the newest state of the board that is open. */
  follow(document: NetworkDocument, board: BoardId): void {
    if (this.of === document && this.board === board) return;
    const affected =
      this.of && this.board === board ? affectedNodes(this.of, document, board) : null;
    if (affected === null) this.fresh.clear();
    else for (const id of affected) this.fresh.delete(id);
    [this.of, this.board] = [document, board];
  }

  isFresh(id: NodeId, side: number): boolean {
    return (this.fresh.get(id) ?? 0) >= side;
  }

  /**
   * Pictures came that show a state. Where it is not the newest, or everything was to be made again
   * since they were asked for, they are one behind.
   * @param generation the ledger's when they were asked for
   * @returns whether they show what there is
   */
  made(
    ids: readonly NodeId[],
    side: number,
    { document, generation }: { readonly document: NetworkDocument; readonly generation: number },
  ): boolean {
    if (document !== this.of || generation !== this.renewals) return false;
    for (const id of ids) this.fresh.set(id, side);
    return true;
  }
}

import { own } from '@/core/base/own';
import { describeNode, findGroupDefinition } from '@/core/compile/catalogue';
import { getNetwork } from '@/core/edit/board';
import type { BoardId } from '@/core/edit/board';
import { markId } from '@/core/edit/marks';
import { INPUT_EDGE, OUTPUT_EDGE } from '@/core/graph/document';
import type { Network, NetworkDocument, NodeInstance, Strand } from '@/core/graph/document';
import type { BendNode, NoteNode, RegionNode } from './BoardMarks';
import type { CardNode } from './NodeCard';
import type { SelvedgeNode } from './Selvedge';
import { SteadyElements } from './steady';
import { indexBoard } from '@/state/use-card';
import type { CardView } from '@/state/use-card';
import { CARD_WIDTH, cardHandles, cardHeight, cardLines } from './card-geometry';
import { cardPorts } from './card-ports';
import type { CardDetail } from '@/state/card-detail';

export type BoardNode = CardNode | SelvedgeNode | NoteNode | RegionNode | BendNode;
/** Width of a bend's mark. */
export const BEND = 11;
export type Measured = ReadonlyMap<string, { width: number; height: number }>;

interface Selvedges {
  readonly in: readonly [number, number];
  readonly out: readonly [number, number];
}
type NodeElements = SteadyElements<BoardNode>;
type Gather = Parameters<Parameters<NodeElements['round']>[0]>[0];

/** What the elements of a board are made of. */
export interface BoardFacts {
  readonly document: NetworkDocument;
  readonly board: BoardId;
  readonly selection: ReadonlySet<string>;
  /** Sizes of what is not a card, as they were drawn. */
  readonly measured: Measured;
  readonly detail: CardDetail;
}
const NO_STRANDS: readonly Strand[] = [];

/** What the drawing library is given for a board; what did not change are the same objects. */
export function boardNodes(elements: NodeElements, facts: BoardFacts): readonly BoardNode[] {
  const { document, board, selection, measured } = facts;
  const network = getNetwork(document, board);
  const card = cardGatherer(facts);
  return elements.round((element) => {
    const drawn: Drawn = (id, from, make) => {
      const isSelected = selection.has(id),
        size = measured.get(id);
      element(id, [...from, isSelected, size], () => ({
        ...make(),
        selected: isSelected,
        ...(size ? { measured: size } : {}),
      }));
    };
    gatherRegions(network, drawn);
    gatherNotes(network, drawn);
    for (const node of network.nodes) card(element, node);
    gatherBends(network, drawn);
  });
}

/** How a node's card is added to the elements. */
function cardGatherer(facts: BoardFacts): (element: Gather, node: NodeInstance) => void {
  const { document, board, selection, detail } = facts;
  const { arriving, leaving } = indexBoard(document, board);
  const dials = countDials(document, board);
  const isDistant = detail === 'distant';
  return (element, node) => {
    const group = findGroupDefinition(document, node) ?? null;
    const isSelected = selection.has(node.id);
    const card = {
      node,
      group,
      arriving: arriving.get(node.id) ?? NO_STRANDS,
      leaving: leaving.get(node.id) ?? NO_STRANDS,
    };
    const driven = dials.get(node.id) ?? 0;
    // Empty cards have no ports in the page; those given here count again when they come back.
    element(
      node.id,
      [node, group, card.arriving, card.leaving, driven, isSelected, isDistant],
      () => makeCard(card, { dials: driven, isSelected, isDistant }),
      // A value that is dragged changes no place.
      (a, b) => JSON.stringify(a) === JSON.stringify(b),
    );
  };
}

/** The elements of the open board; after an edit of values only the cards edited are looked at. */
export class SteadyCards {
  private readonly elements: NodeElements = new SteadyElements();
  private last: BoardFacts | null = null;
  private cards: readonly BoardNode[] = [];

  of(facts: BoardFacts): readonly BoardNode[] {
    const changed = this.last && changedNodes(this.last, facts);
    this.last = facts;
    if (changed?.length === 0) return this.cards;
    const card = changed && cardGatherer(facts);
    this.cards = card
      ? this.elements.amend((element) => {
          for (const node of changed) card(element, node);
        })
      : boardNodes(this.elements, facts);
    return this.cards;
  }
}

/** The nodes that differ, where nothing else on the board does; null where something does. */
function changedNodes(before: BoardFacts, after: BoardFacts): readonly NodeInstance[] | null {
  const [old, now] = [before, after].map((facts) => getNetwork(facts.document, facts.board));
  const isAlike =
    before.document.groups === after.document.groups &&
    before.board === after.board &&
    before.selection === after.selection &&
    before.measured === after.measured &&
    before.detail === after.detail &&
    old?.strands === now?.strands &&
    old?.regions === now?.regions &&
    old?.notes === now?.notes &&
    old?.nodes.length === now?.nodes.length;
  if (!old || !now || !isAlike) return null;
  const changed = now.nodes.filter((node, k) => node !== old.nodes[k]);
  const isInPlace = now.nodes.every(({ id }, k) => id === old.nodes[k]?.id);
  return isInPlace ? changed : null;
}

function countDials(document: NetworkDocument, board: BoardId): ReadonlyMap<string, number> {
  const counts = new Map<string, number>();
  const group = board === null ? undefined : own(document.groups, board);
  for (const { drives } of group?.dials ?? [])
    for (const { node } of drives) counts.set(node, (counts.get(node) ?? 0) + 1);
  return counts;
}

interface CardState {
  readonly dials: number;
  readonly isSelected: boolean;
  readonly isDistant: boolean;
}

function makeCard(
  card: CardView & { readonly node: NodeInstance },
  { dials, isSelected, isDistant }: CardState,
): CardNode {
  const { node, group } = card;
  const described = describeNode(node, group);
  const ports = cardPorts(card, node, described);
  const height = cardHeight(node, cardLines(node, described), dials, ports);
  return {
    id: node.id,
    type: 'card',
    position: { x: node.at[0], y: node.at[1] },
    data: { nodeId: node.id, isDistant, output: described?.outputs[0]?.id ?? null },
    selected: isSelected,
    width: CARD_WIDTH,
    height,
    measured: { width: CARD_WIDTH, height },
    handles: cardHandles(ports, node.folded),
  };
}

/** Adds an element, which is also made of whether it is chosen and how large it was drawn. */
type Drawn = (id: string, from: readonly unknown[], make: () => BoardNode) => void;

function gatherRegions({ regions }: Network, drawn: Drawn): void {
  for (const region of regions)
    drawn(markId.region(region.id), [region], () => ({
      id: markId.region(region.id),
      type: 'region',
      position: { x: region.at[0], y: region.at[1] },
      data: { title: region.title },
      width: region.size[0],
      height: region.size[1],
      zIndex: -1,
    }));
}

function gatherNotes({ notes }: Network, drawn: Drawn): void {
  for (const note of notes)
    drawn(markId.note(note.id), [note], () => ({
      id: markId.note(note.id),
      type: 'note',
      position: { x: note.at[0], y: note.at[1] },
      data: { text: note.text },
    }));
}

function gatherBends({ strands }: Network, drawn: Drawn): void {
  for (const strand of strands)
    (strand.bends ?? []).forEach((at, k) => {
      const id = markId.bend(strand.id, k);
      drawn(id, [at], () => ({
        id,
        type: 'bend',
        position: { x: at[0] - BEND / 2, y: at[1] - BEND / 2 },
        data: {},
        zIndex: 2,
      }));
    });
}

const FIXED = {
  draggable: false,
  selectable: false,
  deletable: false,
  focusable: false,
  selected: false,
} as const;
/** The edges of a board; a material's own board has only the one where it goes out. */
export function selvedgeNodes(
  elements: NodeElements,
  isGroup: boolean,
  edges: Selvedges,
  measured: Measured,
): readonly BoardNode[] {
  return elements.round((element) => {
    addSelvedge(element, OUTPUT_EDGE, 'out', edges.out, measured);
    if (isGroup) addSelvedge(element, INPUT_EDGE, 'in', edges.in, measured);
  });
}

function addSelvedge(
  element: Gather,
  id: string,
  side: 'in' | 'out',
  [x, y]: readonly [number, number],
  measured: Measured,
): void {
  const size = measured.get(id);
  element(id, [x, y, size], () => ({
    id,
    type: 'selvedge',
    position: { x, y },
    data: { side },
    ...FIXED,
    ...(size ? { measured: size } : {}),
  }));
}

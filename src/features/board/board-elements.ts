import { own } from '@/core/base/own';
import { defaultConversion } from '@/core/compile/convert';
import { quantityNote } from '@/core/compile/quantities';
import { getNetwork } from '@/core/edit/board';
import type { BoardId } from '@/core/edit/board';
import { markId } from '@/core/edit/marks';
import { inputKind, outputKind } from '@/core/edit/strands';
import { INPUT_EDGE, OUTPUT_EDGE } from '@/core/graph/document';
import type {
  GroupDefinition,
  Network,
  NetworkDocument,
  NodeInstance,
  Strand,
  ValueKind,
} from '@/core/graph/document';
import type { PlacedFinding } from '@/state/findings-state';
import type { BendNode, NoteNode, RegionNode } from './BoardMarks';
import type { CardNode } from './NodeCard';
import type { SelvedgeNode } from './Selvedge';
import type { StrandEdgeType } from './StrandEdge';
import { keyOnBoard } from '@/state/editing';
import type { SteadyElements } from '@/features/board/steady';
import { indexBoard } from '@/state/use-card';

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

/** What the drawing library is given for a board; what did not change are the same objects. */
export function boardNodes(
  elements: NodeElements,
  network: Network,
  selection: ReadonlySet<string>,
  measured: Measured,
): readonly BoardNode[] {
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
    for (const { id, at } of network.nodes)
      drawn(id, [at], () => ({
        id,
        type: 'card',
        position: { x: at[0], y: at[1] },
        data: { nodeId: id },
      }));
    gatherBends(network, drawn);
  });
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

function kindOf(
  document: NetworkDocument,
  board: BoardId,
  path: readonly string[],
  kinds: ReadonlyMap<string, ValueKind>,
  { from }: Strand,
): ValueKind {
  const known =
    from.node === INPUT_EDGE ? undefined : kinds.get(keyOnBoard(path, from.node, from.output));
  const declared = outputKind(document, board, from);
  return (
    known ??
    (declared === 'vector' || declared === 'colour' || declared === 'surface' ? declared : 'scalar')
  );
}

const METHOD: Record<string, string> = {
  luminance: 'luminance',
  length: 'length',
  average: 'average',
  largest: 'largest',
  first: 'first',
  second: 'second',
  third: 'third',
};

/**
 * What a strand says of itself: how it becomes a number, as what it arrives, or that its ends do
 * not go together.
 */
function chipOf(
  document: NetworkDocument,
  board: BoardId,
  strand: Strand,
  method: string | null,
): { chip: string | null; warns: boolean } {
  const note = quantityNote(
    document,
    getNetwork(document, board),
    board === null ? null : (own(document.groups, board) ?? null),
    strand,
  );
  if (!note) return { chip: method, warns: false };
  return note.formula === null
    ? { chip: `${note.from} is not ${note.to}`, warns: true }
    : { chip: `${note.from} → ${note.to}`, warns: false };
}

/** What a board's strands are made of besides their own ends. */
export interface StrandFacts {
  readonly document: NetworkDocument;
  readonly board: BoardId;
  readonly path: readonly string[];
  readonly kinds: ReadonlyMap<string, ValueKind>;
  readonly chosen: string | null;
  readonly faults: readonly PlacedFinding[];
}

/** The strands of a board; those whose ends, kind and fault did not change are the same objects. */
export function boardEdges(
  elements: SteadyElements<StrandEdgeType>,
  facts: StrandFacts,
): readonly StrandEdgeType[] {
  const { document, board, path, kinds, chosen, faults } = facts;
  const { nodes } = indexBoard(document, board);
  // Of ends that do not go together the chip says which they are.
  const faulty = new Map(
    faults.flatMap((fault) =>
      fault.code !== 'strand.quantity' && fault.place.strand !== undefined
        ? [[fault.place.strand, fault] as const]
        : [],
    ),
  );
  const group = board === null ? undefined : own(document.groups, board);
  return elements.round((element) => {
    for (const strand of getNetwork(document, board).strands) {
      const [from, to] = [nodes.get(strand.from.node), nodes.get(strand.to.node)];
      const carried = kinds.get(keyOnBoard(path, strand.from.node, strand.from.output));
      const fault = faulty.get(strand.id);
      element(
        strand.id,
        [
          strand,
          from,
          to,
          carried,
          fault,
          strand.id === chosen,
          group,
          ...opened(document, from, to),
        ],
        () => makeEdge(facts, strand, fault),
      );
    }
  });
}

/** The groups that the ends of a strand stand for: their ports may change. */
const opened = (
  { groups }: NetworkDocument,
  ...ends: readonly (NodeInstance | undefined)[]
): readonly (GroupDefinition | undefined)[] =>
  ends.map((end) => (end?.group === undefined ? undefined : own(groups, end.group)));

function makeEdge(
  { document, board, path, kinds, chosen }: StrandFacts,
  strand: Strand,
  fault: PlacedFinding | undefined,
): StrandEdgeType {
  const kind = kindOf(document, board, path, kinds, strand);
  const target = inputKind(document, board, strand.to);
  const conversion = target ? (strand.conversion ?? defaultConversion(kind, target)) : null;
  return {
    id: strand.id,
    type: 'strand',
    source: strand.from.node,
    sourceHandle: strand.from.output,
    target: strand.to.node,
    targetHandle: strand.to.input,
    data: {
      kind,
      bends: strand.bends ?? [],
      ...(fault
        ? { chip: '✕', warns: true, fault: fault.message }
        : chipOf(document, board, strand, conversion ? (METHOD[conversion] ?? null) : null)),
      chosen: strand.id === chosen,
    },
  };
}

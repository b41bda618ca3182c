import { own } from '@/core/base/own';
import type { Node } from '@xyflow/react';
import { defaultConversion } from '@/core/compile/convert';
import { quantityNote } from '@/core/compile/quantities';
import { getNetwork } from '@/core/edit/board';
import type { BoardId } from '@/core/edit/board';
import { markId } from '@/core/edit/marks';
import { inputKind, outputKind } from '@/core/edit/strands';
import { INPUT_EDGE, OUTPUT_EDGE } from '@/core/graph/document';
import type { Network, NetworkDocument, Strand, ValueKind } from '@/core/graph/document';
import type { PlacedFinding } from '@/state/findings-state';
import type { BendNode, NoteNode, RegionNode } from './BoardMarks';
import type { CardNode } from './NodeCard';
import type { SelvedgeNode } from './Selvedge';
import type { StrandEdgeType } from './StrandEdge';
import { keyOnBoard } from '@/state/editing';

export type BoardNode = CardNode | SelvedgeNode | NoteNode | RegionNode | BendNode;
/** Width of a bend's mark. */
export const BEND = 11;
export type Measured = ReadonlyMap<string, { width: number; height: number }>;

interface Selvedges {
  readonly in: readonly [number, number];
  readonly out: readonly [number, number];
}
/** What an element of the board is besides its kind: chosen or not, and how large it was drawn. */
type Drawn = (id: string) => Pick<Node, 'measured' | 'selected'>;

/** What the drawing library is given for a board. */
export function boardNodes(
  document: NetworkDocument,
  board: BoardId,
  selection: readonly string[],
  measured: Measured,
  edges: Selvedges,
): BoardNode[] {
  const network = getNetwork(document, board);
  const drawn: Drawn = (id) => {
    const known = measured.get(id);
    return { selected: selection.includes(id), ...(known ? { measured: known } : {}) };
  };
  const cards = network.nodes.map((node): CardNode => ({
    id: node.id,
    type: 'card',
    position: { x: node.at[0], y: node.at[1] },
    data: { nodeId: node.id },
    ...drawn(node.id),
  }));
  return [
    ...regionNodes(network, drawn),
    ...noteNodes(network, drawn),
    ...cards,
    ...bendNodes(network, drawn),
    ...selvedgeNodes(board !== null, edges, drawn),
  ];
}

const regionNodes = ({ regions }: Network, drawn: Drawn): readonly RegionNode[] =>
  regions.map((region) => ({
    id: markId.region(region.id),
    type: 'region',
    position: { x: region.at[0], y: region.at[1] },
    data: { title: region.title },
    width: region.size[0],
    height: region.size[1],
    zIndex: -1,
    ...drawn(markId.region(region.id)),
  }));

const noteNodes = ({ notes }: Network, drawn: Drawn): readonly NoteNode[] =>
  notes.map((note) => ({
    id: markId.note(note.id),
    type: 'note',
    position: { x: note.at[0], y: note.at[1] },
    data: { text: note.text },
    ...drawn(markId.note(note.id)),
  }));

const bendNodes = ({ strands }: Network, drawn: Drawn): readonly BendNode[] =>
  strands.flatMap((strand) =>
    (strand.bends ?? []).map((at, k): BendNode => {
      const id = markId.bend(strand.id, k);
      return {
        id,
        type: 'bend',
        position: { x: at[0] - BEND / 2, y: at[1] - BEND / 2 },
        data: {},
        zIndex: 2,
        ...drawn(id),
      };
    }),
  );

const FIXED = { draggable: false, selectable: false, deletable: false, focusable: false } as const;
/** The edges of a board; a material's own board has only the one where it goes out. */
function selvedgeNodes(isGroup: boolean, edges: Selvedges, drawn: Drawn): SelvedgeNode[] {
  const selvedge = (id: string, side: 'in' | 'out'): SelvedgeNode => ({
    id,
    type: 'selvedge',
    position: { x: edges[side][0], y: edges[side][1] },
    data: { side },
    ...drawn(id),
    ...FIXED,
    selected: false,
  });
  return [selvedge(OUTPUT_EDGE, 'out'), ...(isGroup ? [selvedge(INPUT_EDGE, 'in')] : [])];
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

export function boardEdges(
  document: NetworkDocument,
  board: BoardId,
  path: readonly string[],
  kinds: ReadonlyMap<string, ValueKind>,
  chosen: string | null,
  faults: readonly PlacedFinding[],
): StrandEdgeType[] {
  return getNetwork(document, board).strands.map((strand) => {
    const kind = kindOf(document, board, path, kinds, strand);
    const target = inputKind(document, board, strand.to);
    // Of ends that do not go together the chip says which they are.
    const fault = faults.find(
      ({ place, code }) => place.strand === strand.id && code !== 'strand.quantity',
    );
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
  });
}

import { own } from '@/core/base/own';
import { structureKey } from '@/core/compile/structure';
import { defaultConversion } from '@/core/compile/convert';
import { quantityNote } from '@/core/compile/quantities';
import { getNetwork } from '@/core/edit/board';
import type { BoardId } from '@/core/edit/board';
import { inputKind, outputKind } from '@/core/edit/strands';
import { INPUT_EDGE } from '@/core/graph/document';
import type {
  GroupDefinition,
  NetworkDocument,
  NodeInstance,
  Strand,
  ValueKind,
} from '@/core/graph/document';
import { keyOnBoard } from '@/state/editing';
import type { PlacedFinding } from '@/state/findings-state';
import { indexBoard } from '@/state/use-card';
import { SteadyElements } from './steady';
import type { StrandEdgeType } from './StrandEdge';

const carriedKeys = new WeakMap<Strand, { readonly path: readonly string[]; key: string }>();
/** The result a strand carries, by its key; made once for each strand. */
function carriedKey(path: readonly string[], strand: Strand): string {
  const known = carriedKeys.get(strand);
  if (known?.path === path) return known.key;
  const key = keyOnBoard(path, strand.from.node, strand.from.output);
  carriedKeys.set(strand, { path, key });
  return key;
}

function kindOf(
  document: NetworkDocument,
  board: BoardId,
  path: readonly string[],
  kinds: ReadonlyMap<string, ValueKind>,
  strand: Strand,
): ValueKind {
  const { from } = strand;
  const known = from.node === INPUT_EDGE ? undefined : kinds.get(carriedKey(path, strand));
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
      const carried = kinds.get(carriedKey(path, strand));
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

/** The strands of the open board; a document that differs in values or places only has the same. */
export class SteadyEdges {
  private readonly elements = new SteadyElements<StrandEdgeType>();
  private made: { readonly of: readonly unknown[]; readonly edges: StrandEdgeType[] } | null = null;

  of(facts: StrandFacts): StrandEdgeType[] {
    const { document, board, path, kinds, chosen, faults } = facts;
    const { strands } = getNetwork(document, board);
    const of = [
      structureKey(document),
      strands,
      document.groups,
      board,
      path,
      kinds,
      chosen,
      faults,
    ];
    if (!this.made || of.some((each, k) => each !== this.made?.of[k]))
      this.made = { of, edges: [...boardEdges(this.elements, facts)] };
    return this.made.edges;
  }
}

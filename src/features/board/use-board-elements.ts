'use client';
import type { NodeChange, Viewport } from '@xyflow/react';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { getNetwork } from '@/core/edit/board';
import { isMark, moveMarks } from '@/core/edit/marks';
import { INPUT_EDGE, OUTPUT_EDGE } from '@/core/graph/document';
import { moveNodes } from '@/core/edit/nodes';
import { commit, currentBoard, select } from '@/state/editing';
import type { PlacedFinding } from '@/state/findings-state';
import { detailAt } from '@/state/card-detail';
import { stores } from '@/state/stores';
import { useBoardFindings } from '@/state/use-findings';
import { useBoardId } from '@/state/use-card';
import { useDocument, useResults, useView } from '@/state/use-stores';
import { SteadyEdges } from './board-edges';
import { SteadyCards, selvedgeNodes } from './board-elements';
import type { BoardNode, Measured } from './board-elements';
import { SteadyElements } from './steady';
import type { StrandEdgeType } from './StrandEdge';
import { placeOf } from './board-strands';
import { SELVEDGE_WIDTH } from './Selvedge';
import { useCrowd } from './use-crowd';
import { useInView } from './use-in-view';
import { useLaidStrands } from './use-laid-strands';
import { useOverview } from './use-overview';

const isOfStrand = ({ place }: PlacedFinding): boolean => place.strand !== undefined;

/** How large the board is drawn, pixels. */
function useSize(host: React.RefObject<HTMLDivElement | null>) {
  const [size, setSize] = useState({ width: 800, height: 400 });
  useEffect(() => {
    const element = host.current;
    if (!element) return;
    const observer = new ResizeObserver(() => {
      setSize({ width: element.clientWidth, height: element.clientHeight });
    });
    observer.observe(element);
    return () => {
      observer.disconnect();
    };
  }, [host]);
  return size;
}

const makeElements = () => ({
  cards: new SteadyCards(),
  edges: new SteadyElements<BoardNode>(),
  strands: new SteadyEdges(),
});

/** What the drawing library is given for the board shown, and takes back as edits. */
export function useBoardElements(host: React.RefObject<HTMLDivElement | null>) {
  const path = useView((state) => state.path);
  const board = useBoardId();
  const detail = useView((state) => state.detail);
  const selection = useView((state) => state.selection);
  const chosenStrand = useView((state) => state.chosenStrand);
  const kinds = useResults((state) => state.kinds);
  const faults = useBoardFindings(isOfStrand);
  const [measured, setMeasured] = useState<Measured>(new Map());
  const [viewport, setViewport] = useState<Viewport>({ x: 0, y: 0, zoom: 1 });
  const size = useSize(host);
  const selvedges = useMemo(() => {
    const y = (size.height * 0.32 - viewport.y) / viewport.zoom;
    return {
      in: [-viewport.x / viewport.zoom, y] as const,
      out: [(size.width - SELVEDGE_WIDTH - viewport.x) / viewport.zoom, y] as const,
    };
  }, [size, viewport]);
  const [elements] = useState(makeElements);
  const chosen = useMemo(() => new Set(selection), [selection]);
  // Most edits of a value leave all of them as they are; then nothing here is drawn again.
  const cards = useDocument(({ document }) =>
    elements.cards.of({ document, board, selection: chosen, measured, detail }),
  );
  const edges = useDocument(({ document }) =>
    elements.strands.of({ document, board, path, kinds, chosen: chosenStrand, faults }),
  );
  const { given, onSelectionEnd } = useCrowd(host, cards, viewport, detail === 'distant');
  // Moving the view moves these two, and makes nothing else again.
  const nodes = useMemo(
    () => [...given, ...selvedgeNodes(elements.edges, board !== null, selvedges, measured)],
    [elements, given, board, selvedges, measured],
  );
  const change = useCallback((changes: NodeChange<BoardNode>[]) => {
    setMeasured((old) => withSizes(old, changes));
    moveChanged(changes);
    selectChanged(changes);
  }, []);
  const follow = useCallback(
    (next: Viewport) => {
      showZoom(host.current, next.zoom);
      setViewport(next);
    },
    [host],
  );
  useInView(cards, viewport, size);
  useLaidStrands(cards, detail === 'distant' ? NO_EDGES : edges);
  // Far out, one picture shows all strands.
  return {
    nodes,
    edges: detail === 'distant' ? NO_EDGES : edges,
    overview: useOverview(detail === 'distant', cards, edges),
    viewport,
    size,
    onSelectionEnd,
    change,
    setViewport: follow,
  };
}

/** Names of cards keep a size that can be read; the drawing itself is not made again for that. */
function showZoom(board: HTMLElement | null, zoom: number): void {
  board?.style.setProperty('--board-zoom', String(zoom));
  const now = stores.view.getState().detail;
  const wanted = detailAt(zoom, now);
  board?.toggleAttribute('data-far', wanted !== 'near');
  if (wanted !== now) stores.view.setState({ detail: wanted });
}

const NO_EDGES: StrandEdgeType[] = [];

/** Cards are as large as `card-geometry` says; what else there is is measured. */
const isCard = (id: string): boolean => !isMark(id) && id !== INPUT_EDGE && id !== OUTPUT_EDGE;

function withSizes(old: Measured, changes: readonly NodeChange<BoardNode>[]): Measured {
  const sizes = changes.flatMap((each) =>
    each.type === 'dimensions' && each.dimensions && !isCard(each.id)
      ? [[each.id, each.dimensions] as const]
      : [],
  );
  return sizes.length > 0 ? new Map([...old, ...sizes]) : old;
}

function moveChanged(changes: readonly NodeChange<BoardNode>[]): void {
  const moved = changes.flatMap((each) =>
    each.type === 'position' && each.position
      ? [[each.id, placeOf(each.id, each.position)] as const]
      : [],
  );
  if (moved.length === 0) return;
  const places = new Map([...moved, ...followersOf(moved)]);
  commit('Moved', (current, at) => moveMarks(moveNodes(current, at, places), at, places), 'move');
}

type Moved = readonly (readonly [string, readonly [number, number]])[];

/** Cards that are chosen with one that is moved, but are no elements: they go as far as it. */
function followersOf(moved: Moved): Moved {
  const { selection } = stores.view.getState();
  const chosen = new Set(selection);
  const [[id, to] = ['', null]] = moved;
  const ids = new Set(moved.map(([each]) => each));
  if (to === null || !chosen.has(id) || selection.every((each) => ids.has(each))) return [];
  const { nodes } = getNetwork(stores.document.getState().document, currentBoard());
  const from = nodes.find((node) => node.id === id)?.at;
  if (!from) return [];
  const [right, down] = [to[0] - from[0], to[1] - from[1]];
  return nodes.flatMap(({ id: other, at }) =>
    chosen.has(other) && !ids.has(other)
      ? [[other, [at[0] + right, at[1] + down] as const] as const]
      : [],
  );
}

function selectChanged(changes: readonly NodeChange<BoardNode>[]): void {
  const chosen = changes.filter((each) => each.type === 'select');
  if (chosen.length === 0) return;
  const next = new Set(stores.view.getState().selection);
  for (const { id, selected } of chosen) {
    if (selected) next.add(id);
    else next.delete(id);
  }
  select([...next]);
}

'use client';
import { getViewportForBounds, useReactFlow, useStore } from '@xyflow/react';
import type { Rect } from '@xyflow/react';
import { useEffect, useRef } from 'react';
import { getNetwork } from '@/core/edit/board';
import { currentBoard } from '@/state/editing';
import { stores } from '@/state/stores';
import type { BoardRequest, BoardView } from '@/state/stores';
import { useView } from '@/state/use-stores';
import type { BoardNode } from './board-elements';
import { CARD_WIDTH } from './card-geometry';

/** The zoom below which a card that is gone to cannot be read. */
const READABLE = 0.6;
const MOST = 1.1;
const LEAST = 0.03;
const LARGEST_OF_SOME = 1.4;
/** How long the window may go on changing after something was asked, milliseconds. */
const SETTLING = 700;
/** Room for the selvedges there are, and a little on the other sides. */
const paddingOf = (isGroup: boolean) =>
  ({ left: isGroup ? '104px' : '16px', right: '104px', top: '12px', bottom: '20px' }) as const;

/** What was framed last, and how. */
interface Framed {
  readonly asked: BoardRequest;
  readonly at: number;
  readonly width: number;
  readonly view: BoardView | null;
}
const isSame = (a: BoardView | null, b: BoardView): boolean =>
  a !== null && a.zoom === b.zoom && a.x === b.x && a.y === b.y;

/** The box around the cards of the open board; of those named, where some are. */
function boxOf(heightOf: (id: string) => number, ids: readonly string[] | null): Rect | null {
  const { nodes } = getNetwork(stores.document.getState().document, currentBoard());
  const meant = ids === null ? nodes : nodes.filter(({ id }) => ids.includes(id));
  if (meant.length === 0) return null;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { id, at } of meant) {
    left = Math.min(left, at[0]);
    top = Math.min(top, at[1]);
    right = Math.max(right, at[0] + CARD_WIDTH);
    bottom = Math.max(bottom, at[1] + heightOf(id));
  }
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/**
 * Shows what the board is asked to show, as soon as it has a size: the places of cards are known
 * before they are drawn, so a busy machine frames the same.
 */
export function useFraming(): void {
  const flow = useReactFlow<BoardNode>();
  const asked = useView((state) => state.asked);
  const width = useStore((state) => state.width);
  const height = useStore((state) => state.height);
  const done = useRef<Framed | null>(null);
  useEffect(() => {
    if (width === 0 || height === 0) return;
    // A board that is only made larger or smaller keeps its place, unless that belongs to what was
    // asked, as when the bench closes, or it stands as framed and a sheet takes its room.
    const last = done.current?.asked === asked ? done.current : null;
    const isUntouched = last && last.width !== width && isSame(last.view, flow.getViewport());
    if (last && performance.now() - last.at > SETTLING && !isUntouched) return;
    const heightOf = (id: string): number => flow.getInternalNode(id)?.measured.height ?? 190;
    const fit = (ids: readonly string[] | null, most: number): BoardView | null => {
      const box = boxOf(heightOf, ids);
      const padding = paddingOf(currentBoard() !== null);
      return box && getViewportForBounds(box, width, height, LEAST, most, padding);
    };
    const near = (ids: readonly string[]): BoardView | null => {
      const box = boxOf(heightOf, ids);
      if (!box) return null;
      const zoom = Math.max(READABLE, flow.getZoom());
      const x = width / 2 - (box.x + box.width / 2) * zoom;
      return { x, y: height / 2 - (box.y + box.height / 2) * zoom, zoom };
    };
    const wanted =
      asked.show === 'view'
        ? asked.view
        : asked.show === 'all'
          ? fit(null, MOST)
          : asked.show === 'cards'
            ? fit(asked.ids, LARGEST_OF_SOME)
            : near(asked.ids);
    done.current = { asked, at: last?.at ?? performance.now(), width, view: wanted };
    if (wanted) void flow.setViewport(wanted);
  }, [asked, width, height, flow]);
  useKeptInView(height);
  useNewSeen(width, height);
}

/** Room around a card that is brought into sight, pixels. */
const MARGIN = 16;
/** By how much a stretch must move to lie inside a length; its start counts where it is longer. */
function inwards(from: number, to: number, length: number): number {
  if (from < MARGIN || to - from > length - 2 * MARGIN) return MARGIN - from;
  return Math.min(0, length - MARGIN - to);
}

/** A card just made and chosen is brought into sight where it stands beyond the edge. */
function useNewSeen(width: number, height: number): void {
  const flow = useReactFlow<BoardNode>();
  const selection = useView((state) => state.selection);
  const path = useView((state) => state.path);
  const known = useRef<{ path: unknown; ids: ReadonlySet<string> }>({ path: null, ids: new Set() });
  useEffect(() => {
    const { nodes } = getNetwork(stores.document.getState().document, currentBoard());
    const before = known.current;
    known.current = { path, ids: new Set(nodes.map(({ id }) => id)) };
    if (before.path !== path || width === 0) return;
    const made = selection.filter((id) => known.current.ids.has(id) && !before.ids.has(id));
    const box =
      made.length > 0
        ? boxOf((id) => flow.getInternalNode(id)?.measured.height ?? 190, made)
        : null;
    if (!box) return;
    const { x, y, zoom } = flow.getViewport();
    const dx = inwards(box.x * zoom + x, (box.x + box.width) * zoom + x, width);
    const dy = inwards(box.y * zoom + y, (box.y + box.height) * zoom + y, height);
    if (dx !== 0 || dy !== 0) void flow.setViewport({ x: x + dx, y: y + dy, zoom });
  }, [selection, path, flow, width, height]);
}

/** A board that becomes lower, as the bench opens, moves up until the chosen card is seen. */
function useKeptInView(height: number): void {
  const flow = useReactFlow<BoardNode>();
  const before = useRef(height);
  useEffect(() => {
    const isLower = height < before.current;
    before.current = height;
    const [only, ...more] = stores.view.getState().selection;
    if (!isLower || only === undefined || more.length > 0) return;
    const box = boxOf((id) => flow.getInternalNode(id)?.measured.height ?? 190, [only]);
    const { x, y, zoom } = flow.getViewport();
    const below = box ? (box.y + box.height) * zoom + y - (height - 8) : 0;
    if (below > 0) void flow.setViewport({ x, y: y - below, zoom });
  }, [height, flow]);
}

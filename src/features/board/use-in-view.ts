import type { Viewport } from '@xyflow/react';
import { useEffect } from 'react';
import { pictureSide } from '@/state/card-detail';
import { stores } from '@/state/stores';
import type { BoardNode } from './board-elements';
import { CARD_WIDTH, PICTURE } from './card-geometry';

interface Size {
  readonly width: number;
  readonly height: number;
}
/** How long the view rests before it is told, milliseconds: panning asks for no pictures. */
const REST = 120;

/** Ids of the cards that are seen, those nearest the middle first. */
export function cardsInView(
  elements: readonly BoardNode[],
  { x, y, zoom }: Viewport,
  { width, height }: Size,
): readonly string[] {
  const seen: { readonly id: string; readonly away: number }[] = [];
  for (const { id, type, position, measured } of elements) {
    if (type !== 'card') continue;
    const left = position.x * zoom + x,
      top = position.y * zoom + y;
    const right = left + CARD_WIDTH * zoom,
      bottom = top + (measured?.height ?? 0) * zoom;
    if (right < 0 || bottom < 0 || left > width || top > height) continue;
    const away = Math.hypot((left + right - width) / 2, (top + bottom - height) / 2);
    seen.push({ id, away });
  }
  return seen.sort((a, b) => a.away - b.away).map(({ id }) => id);
}

/** Tells those who make the pictures of cards which are seen, and how large. */
export function useInView(elements: readonly BoardNode[], viewport: Viewport, size: Size): void {
  useEffect(() => {
    const timer = setTimeout(() => {
      const before = stores.view.getState();
      const inView = cardsInView(elements, viewport, size);
      const side = pictureSide(PICTURE * viewport.zoom * Math.min(2, window.devicePixelRatio));
      const isSame =
        side === before.pictureSide &&
        inView.length === before.inView?.length &&
        inView.every((id, k) => id === before.inView?.[k]);
      if (!isSame) stores.view.setState({ inView, pictureSide: side });
      if (viewport !== before.boardView) stores.view.setState({ boardView: viewport });
    }, REST);
    return () => {
      clearTimeout(timer);
    };
  }, [elements, viewport, size]);
}

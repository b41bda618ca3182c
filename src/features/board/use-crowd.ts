'use client';
import type { Viewport } from '@xyflow/react';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { MouseEvent, RefObject } from 'react';
import { flushSync } from 'react-dom';
import { select } from '@/state/editing';
import type { BoardNode } from './board-elements';
import { CARD_WIDTH } from './card-geometry';

/** With more cards than this, those seen from afar are elements only while they are at hand. */
const MOST = 600;
/** So many of the chosen cards are elements at the most; the others follow them. */
const MOST_CHOSEN = 200;

interface Place {
  readonly x: number;
  readonly y: number;
}
interface Box {
  readonly from: Place;
  readonly to: Place;
}

const bottomOf = ({ position, measured }: BoardNode): number =>
  position.y + (measured?.height ?? 0);

/** The card at a place of the board; the last drawn of several. */
export function cardAt(cards: readonly BoardNode[], { x, y }: Place): string | null {
  const found = cards.findLast(
    (card) =>
      card.type === 'card' &&
      x >= card.position.x &&
      x <= card.position.x + CARD_WIDTH &&
      y >= card.position.y &&
      y <= bottomOf(card),
  );
  return found?.id ?? null;
}

/** The cards that lie within a box, whichever corners it was drawn between. */
export function cardsWithin(cards: readonly BoardNode[], { from, to }: Box): readonly string[] {
  const [left, right] = [Math.min(from.x, to.x), Math.max(from.x, to.x)];
  const [top, bottom] = [Math.min(from.y, to.y), Math.max(from.y, to.y)];
  return cards.flatMap((card) => {
    const { x, y } = card.position;
    const isIn = x >= left && x + CARD_WIDTH <= right && y >= top && bottomOf(card) <= bottom;
    return card.type === 'card' && isIn ? [card.id] : [];
  });
}

/** Which elements a board far out needs: thousands of empty ones would take seconds to make. */
export function atHand(cards: readonly BoardNode[], under: string | null): readonly BoardNode[] {
  let chosen = 0;
  return cards.filter(
    (card) =>
      card.type !== 'card' ||
      card.id === under ||
      (card.selected === true && chosen++ < MOST_CHOSEN),
  );
}

/**
 * A board of very many cards, seen from afar: the drawing library is given the cards that are
 * chosen and the one under the pointer, and boxes are drawn around all.
 */
export function useCrowd(
  host: RefObject<HTMLDivElement | null>,
  cards: readonly BoardNode[],
  viewport: Viewport,
  isDistant: boolean,
) {
  const isCrowded = isDistant && cards.length > MOST;
  const [under, setUnder] = useState<string | null>(null);
  const now = useRef({ cards, viewport });
  useEffect(() => {
    now.current = { cards, viewport };
  }, [cards, viewport]);
  /** Where the pointer was pressed: a box is told of only when it has grown. */
  const pressed = useRef<Place | null>(null);
  useEffect(() => {
    const board = host.current;
    if (!board || !isCrowded) return;
    const follow = (event: PointerEvent): void => {
      if (event.buttons !== 0) return;
      const card = cardAt(now.current.cards, placeOn(board, event, now.current.viewport));
      // Before what follows the move: a press on the card must find its element.
      flushSync(() => {
        setUnder(card);
      });
    };
    const press = (event: PointerEvent): void => {
      pressed.current = placeOn(board, event, now.current.viewport);
    };
    board.addEventListener('pointermove', follow, { capture: true });
    board.addEventListener('pointerdown', press, { capture: true });
    return () => {
      pressed.current = null;
      board.removeEventListener('pointermove', follow, { capture: true });
      board.removeEventListener('pointerdown', press, { capture: true });
    };
  }, [host, isCrowded]);
  const given = useMemo(
    () => (isCrowded ? atHand(cards, under) : cards),
    [cards, under, isCrowded],
  );
  return {
    given,
    onSelectionEnd: (event: MouseEvent) => {
      const [board, from] = [host.current, pressed.current];
      if (!board || !from || !isCrowded) return;
      select(cardsWithin(cards, { from, to: placeOn(board, event, viewport) }));
    },
  };
}

/** Where on the board a pointer is, in the units of its cards. */
function placeOn(
  board: HTMLElement,
  { clientX, clientY }: { readonly clientX: number; readonly clientY: number },
  { x, y, zoom }: Viewport,
): Place {
  const { left, top } = board.getBoundingClientRect();
  return { x: (clientX - left - x) / zoom, y: (clientY - top - y) / zoom };
}

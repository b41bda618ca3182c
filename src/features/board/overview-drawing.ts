import type { Viewport } from '@xyflow/react';
import type { Picture } from '@/core/evaluate/picture';
import { CARD_WIDTH, PICTURE } from './card-geometry';

type Point = readonly [number, number];
/** A strand between two places of the board; an end without one lies on a selvedge. */
export interface OverviewStrand {
  readonly from: Point | { readonly selvedge: 'in'; readonly port: number };
  readonly to: Point | { readonly selvedge: 'out'; readonly port: number };
  readonly tone: 'plain' | 'chosen' | 'faulty';
}
export interface OverviewCard {
  readonly at: Point;
  readonly height: number;
  readonly picture: Picture | null;
  readonly isFaulty: boolean;
}
/** A board as the picture of all of it needs it. */
export interface OverviewDrawing {
  readonly cards: readonly OverviewCard[];
  readonly strands: readonly OverviewStrand[];
}

interface OverviewView {
  readonly viewport: Viewport;
  /** Pixels. */
  readonly width: number;
  readonly height: number;
  /** A colour of the theme by its name. */
  readonly colour: (name: string) => string;
  readonly bitmap: (picture: Picture) => ImageBitmap | null;
}

/** The part of the canvas's context that is drawn with. */
export type OverviewContext = Pick<
  CanvasRenderingContext2D,
  | 'beginPath'
  | 'moveTo'
  | 'bezierCurveTo'
  | 'stroke'
  | 'fillRect'
  | 'clearRect'
  | 'strokeRect'
  | 'drawImage'
  | 'strokeStyle'
  | 'fillStyle'
  | 'lineWidth'
  | 'globalAlpha'
>;

const TONES = { plain: '--thread', faulty: '--madder', chosen: '--weld' } as const;
/** Where the ports of a selvedge are, pixels of the screen. */
const SELVEDGE = { top: 0.32, first: 33, next: 25, width: 92 };

function selvedgePlace(side: 'in' | 'out', port: number, { width, height }: OverviewView): Point {
  const y = height * SELVEDGE.top + SELVEDGE.first + port * SELVEDGE.next;
  return [side === 'in' ? SELVEDGE.width : width - SELVEDGE.width, y];
}

/** Draws strands, then cards, those outside the view left out. */
export function drawOverview(
  context: OverviewContext,
  { cards, strands }: OverviewDrawing,
  view: OverviewView,
): void {
  const { viewport, width, height } = view;
  context.clearRect(0, 0, width, height);
  drawStrands(context, strands, view);
  context.fillStyle = view.colour('--panel');
  const side = PICTURE * viewport.zoom,
    margin = 4 * viewport.zoom;
  for (const { at, height: cardHeight, picture, isFaulty } of cards) {
    const x = at[0] * viewport.zoom + viewport.x,
      y = at[1] * viewport.zoom + viewport.y;
    const [w, h] = [CARD_WIDTH * viewport.zoom, cardHeight * viewport.zoom];
    if (x > width || y > height || x + w < 0 || y + h < 0) continue;
    context.fillRect(x, y, w, h);
    const bitmap = picture && view.bitmap(picture);
    if (bitmap) context.drawImage(bitmap, x + margin, y + margin, side, side);
    if (!isFaulty) continue;
    context.strokeStyle = view.colour('--madder');
    context.lineWidth = 2;
    context.strokeRect(x, y, w, h);
  }
}

function drawStrands(
  context: OverviewContext,
  strands: readonly OverviewStrand[],
  view: OverviewView,
): void {
  const { x, y, zoom } = view.viewport;
  const onScreen = (end: OverviewStrand['from'] | OverviewStrand['to']): Point =>
    'selvedge' in end
      ? selvedgePlace(end.selvedge, end.port, view)
      : [end[0] * zoom + x, end[1] * zoom + y];
  for (const tone of ['plain', 'faulty', 'chosen'] as const) {
    context.beginPath();
    for (const strand of strands) {
      if (strand.tone !== tone) continue;
      const [x1, y1] = onScreen(strand.from),
        [x2, y2] = onScreen(strand.to);
      if (Math.max(x1, x2) < 0 || Math.min(x1, x2) > view.width) continue;
      if (Math.max(y1, y2) < 0 || Math.min(y1, y2) > view.height) continue;
      const pull = Math.max(28 * zoom, Math.min(160 * zoom, Math.abs(x2 - x1) / 2));
      context.moveTo(x1, y1);
      context.bezierCurveTo(x1 + pull, y1, x2 - pull, y2, x2, y2);
    }
    context.strokeStyle = view.colour(TONES[tone]);
    context.lineWidth = tone === 'plain' ? Math.max(0.5, 2.4 * zoom) : 2;
    context.globalAlpha = tone === 'plain' ? 0.55 : 1;
    context.stroke();
    context.globalAlpha = 1;
  }
}

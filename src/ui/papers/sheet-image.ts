import type { ProofSheet } from '@/core/evaluate/proof-sheet';
import { shareText, shownOn } from './SheetLines';

/** Draws the picture of a number at a place. */
export type DrawInto = (
  context: OffscreenCanvasRenderingContext2D,
  index: number,
  x: number,
  y: number,
) => void;

const [MARGIN, GAP, LINE, CAPTION] = [24, 8, 16, 32];
/** Wider than this, a line goes on below. */
const MOST_ACROSS = 12;

interface Placed {
  readonly text?: string;
  readonly picture?: number;
  readonly x: number;
  readonly y: number;
  readonly isTitle?: boolean;
}

/** Where everything stands on the one picture of a sheet. */
function layOut(title: string, sheet: ProofSheet) {
  const step = sheet.size + GAP;
  const placed: Placed[] = [{ text: title, x: MARGIN, y: MARGIN + LINE, isTitle: true }];
  let y = MARGIN + LINE * 2;
  let width = 600;
  for (const line of sheet.lines) {
    y += LINE;
    placed.push({ text: line.title, x: MARGIN, y, isTitle: true });
    y += 4;
    let [column, top] = [0, y];
    line.models.forEach((model, m) => {
      if (column > 0 && column + line.cells.length > MOST_ACROSS) {
        column = 0;
        top += sheet.size + CAPTION + LINE * 2;
      }
      const name = [sheet.models[model], shownOn(sheet, line, m)].filter(Boolean).join(': ');
      placed.push({ text: name, x: MARGIN + column * step, y: top + LINE });
      line.cells.forEach((cell, c) => {
        if (column >= MOST_ACROSS) {
          column = 0;
          top += sheet.size + CAPTION + LINE * 2;
        }
        const index = line.first + m * line.cells.length + c;
        const [x, under] = [MARGIN + column * step, top + LINE + 6 + sheet.size];
        placed.push({ picture: index, x, y: top + LINE + 6 });
        placed.push({ text: cell.title, x, y: under + 13 });
        placed.push({ text: shareText(sheet.shares[index]), x, y: under + 26 });
        column++;
        width = Math.max(width, x + step + MARGIN);
      });
    });
    y = top + LINE + 6 + sheet.size + CAPTION;
  }
  return { placed, width, height: y + MARGIN };
}

/** A whole proof sheet as one PNG: titles, pictures, and the shares that change. */
export async function sheetImage(
  title: string,
  sheet: ProofSheet,
  drawInto: DrawInto,
): Promise<Blob> {
  const { placed, width, height } = layOut(title, sheet);
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d');
  if (!context) throw new Error('Invariant broken: this browser has no canvas');
  context.fillStyle = '#f4efe6';
  context.fillRect(0, 0, width, height);
  context.fillStyle = '#2b2622';
  for (const { text, picture, x, y, isTitle } of placed) {
    if (picture !== undefined) drawInto(context, picture, x, y);
    if (text === undefined) continue;
    context.font = `${isTitle ? '600 14px' : '11px'} "Instrument Sans Variable", sans-serif`;
    context.fillText(text, x, y, isTitle ? width : sheet.size);
  }
  return canvas.convertToBlob({ type: 'image/png' });
}

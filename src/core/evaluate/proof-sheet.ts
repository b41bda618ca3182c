import { planSheet } from '../edit/sheet-plan';
import type { SheetRow } from '../edit/sheet-plan';
import type { DialValues } from '../edit/variants';
import type { GroupDefinition } from '../graph/document';
import type { SharedPicture } from '../notes/group-painter';
import type { Picture } from './picture';

/** A row of a proof sheet with the places of its pictures. */
export interface SheetLine extends SheetRow {
  /** The models it is shown on, by their place among the sheet's: all, or the first. */
  readonly models: readonly number[];
  /** The number of its first picture; model by model, then cell by cell. */
  readonly first: number;
}
/** A proof sheet: what it shows, and of each picture the share that differs from home. */
export interface ProofSheet {
  /** Of a picture, pixels a side. */
  readonly size: number;
  readonly models: readonly string[];
  readonly lines: readonly SheetLine[];
  /** By the number of the picture; null while it is not painted. */
  readonly shares: readonly (number | null)[];
  /** The output that each picture shows; null while it is not painted. */
  readonly outputs: readonly (string | null)[];
}
/** The pictures of one line on one model, as they are painted in one go. */
export interface SheetTask {
  readonly line: number;
  /** Place among the sheet's models. */
  readonly model: number;
  readonly settings: readonly DialValues[];
  /** The number of its first picture. */
  readonly first: number;
}

/** A sheet without pictures yet; none for a group without dials and variants. */
export function beginSheet(
  group: GroupDefinition,
  models: readonly string[],
  size: number,
): ProofSheet {
  let count = 0;
  const lines = planSheet(group).map((row): SheetLine => {
    const shown = row.kind === 'seeds' ? models.slice(0, 1) : models;
    const line = { ...row, models: shown.map((_, k) => k), first: count };
    count += row.cells.length * shown.length;
    return line;
  });
  const none = Array.from({ length: count }, () => null);
  return { size, models, lines, shares: none, outputs: none };
}

/** What is to be painted, in the order of the page. */
export const sheetTasks = ({ lines }: ProofSheet): readonly SheetTask[] =>
  lines.flatMap(({ cells, models, first }, line) =>
    models.map((model, k) => ({
      line,
      model,
      settings: cells.map(({ values }) => values),
      first: first + k * cells.length,
    })),
  );

/** The sheet with what was painted for a task. */
export function withPainted(
  sheet: ProofSheet,
  { first }: SheetTask,
  painted: readonly SharedPicture[],
): ProofSheet {
  const [shares, outputs] = [[...sheet.shares], [...sheet.outputs]];
  painted.forEach(({ share, output }, k) => {
    shares[first + k] = share;
    outputs[first + k] = output;
  });
  return { ...sheet, shares, outputs };
}

/** How many pictures stand beside each other in the one picture of a sheet. */
export const SHEET_COLUMNS = 12;

/** Where a picture stands in the one picture of a sheet, pixels from its upper left. */
export const placeOnSheet = (index: number, size: number): { x: number; y: number } => ({
  x: (index % SHEET_COLUMNS) * size,
  y: Math.floor(index / SHEET_COLUMNS) * size,
});

/** All pictures of a sheet as one, transparent where there is none. */
export function joinPictures(pictures: readonly (Picture | undefined)[], size: number): Picture {
  const width = Math.max(1, Math.min(pictures.length, SHEET_COLUMNS)) * size;
  const height = Math.max(1, Math.ceil(pictures.length / SHEET_COLUMNS)) * size;
  const pixels = new Uint8ClampedArray(width * height * 4);
  pictures.forEach((picture, index) => {
    if (!picture) return;
    const { x, y } = placeOnSheet(index, size);
    const across = Math.min(size, picture.width) * 4;
    for (let row = 0; row < Math.min(size, picture.height); row++)
      pixels.set(
        picture.pixels.subarray(row * picture.width * 4, row * picture.width * 4 + across),
        ((y + row) * width + x) * 4,
      );
  });
  return { width, height, pixels };
}

import { sampleStrand } from './strand-path';

/** A place on the board, pixels. */
export type BoardPoint = readonly [number, number];
/** A card that strands are laid around. */
export interface Obstacle {
  readonly id: string;
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}
/** A strand between two cards, from where it leaves to where it arrives. */
export interface LooseStrand {
  readonly id: string;
  readonly source: string;
  readonly target: string;
  readonly from: BoardPoint;
  readonly to: BoardPoint;
}
/** How a strand is laid: its ends, and the places it goes through between them. */
export interface LaidStrand {
  readonly from: BoardPoint;
  readonly to: BoardPoint;
  readonly through: readonly BoardPoint[];
}

/** Between a strand and the card it passes, pixels. */
const CLEAR = 12;
/** Side of a cell by which cards near a place are found, pixels. */
const CELL = 256;
/** Strands shorter than this, or that run backwards, are left as they are. */
const SHORTEST = 80;
/** How often cards in the way of a detour are passed, too; how many levels are tried each time. */
const ROUNDS = 2,
  LEVELS = 8;
/** A strand behind more cards than this stays straight: a way around them would be no clearer. */
const MOST_CROSSED = 4;
/** Cells along one side of the widest board. */
const ROW = 65_536;
const cellAt = (x: number, y: number): number =>
  (Math.floor(x / CELL) + ROW / 2) * ROW + Math.floor(y / CELL) + ROW / 2;

/** Cards by the cells they touch. */
class CardGrid {
  private readonly cells = new Map<number, Obstacle[]>();

  constructor(cards: readonly Obstacle[]) {
    for (const card of cards)
      for (let x = Math.floor(card.left / CELL); x <= Math.floor(card.right / CELL); x++)
        for (let y = Math.floor(card.top / CELL); y <= Math.floor(card.bottom / CELL); y++) {
          const key = cellAt(x * CELL, y * CELL);
          const known = this.cells.get(key);
          if (known) known.push(card);
          else this.cells.set(key, [card]);
        }
  }

  /** The cards a path runs behind, but for those at its ends; no more than `most` and one. */
  crossed(
    { source, target }: LooseStrand,
    places: readonly BoardPoint[],
    most: number,
  ): Set<Obstacle> {
    const found = new Set<Obstacle>();
    for (const [x, y] of sampleStrand(places)) {
      if (found.size > most) break;
      for (const card of this.cells.get(cellAt(x, y)) ?? [])
        if (
          card.id !== source &&
          card.id !== target &&
          x > card.left &&
          x < card.right &&
          y > card.top &&
          y < card.bottom
        )
          found.add(card);
    }
    return found;
  }
}

/** Places above or below a run of cards, where a strand passes them. */
function passing(
  { from, to }: LooseStrand,
  cards: readonly Obstacle[],
  y: number,
): readonly BoardPoint[] {
  const left = Math.max(from[0] + CLEAR, Math.min(...cards.map((card) => card.left)) - CLEAR);
  const right = Math.min(to[0] - CLEAR, Math.max(...cards.map((card) => card.right)) + CLEAR);
  if (left >= right) return [[(from[0] + to[0]) / 2, y]];
  return [
    [left, y],
    [right, y],
  ];
}

/**
 * How a strand gets around the cards it would run behind: level above or below them, whichever
 * crosses fewest and is nearest. Empty where it runs free, or nothing is better.
 */
function detour(grid: CardGrid, strand: LooseStrand): readonly BoardPoint[] {
  const { from, to } = strand;
  if (to[0] - from[0] < SHORTEST) return [];
  const straight = grid.crossed(strand, [from, to], MOST_CROSSED);
  if (straight.size === 0 || straight.size > MOST_CROSSED) return [];
  let best: readonly BoardPoint[] = [],
    fewest = straight.size,
    nearest = Infinity;
  const inWay = new Set(straight);
  for (let round = 0; round < ROUNDS && fewest > 0; round++) {
    const cards = [...inWay];
    for (const { y, far } of levelsAround(strand, cards)) {
      const through = passing(strand, cards, y);
      const crossed = grid.crossed(strand, [from, ...through, to], straight.size);
      if (crossed.size < fewest || (crossed.size === fewest && far < nearest && best.length > 0)) {
        best = through;
        fewest = crossed.size;
        nearest = far;
      }
      for (const card of crossed) inWay.add(card);
    }
  }
  return best;
}

/** Levels above and below cards, those that lead least far off first. */
const levelsAround = ({ from, to }: LooseStrand, cards: readonly Obstacle[]) =>
  cards
    .flatMap(({ top, bottom }) => [top - CLEAR, bottom + CLEAR])
    .map((y) => ({ y, far: Math.abs(y - from[1]) + Math.abs(y - to[1]) }))
    .sort((a, b) => a.far - b.far)
    .slice(0, LEVELS);

/** Lays strands around cards one by one: null for one that runs straight. */
export function makeLayer(cards: readonly Obstacle[]): (strand: LooseStrand) => LaidStrand | null {
  const grid = new CardGrid(cards);
  return (strand) => {
    const through = detour(grid, strand);
    return through.length > 0 ? { from: strand.from, to: strand.to, through } : null;
  };
}

/** The strands that are laid around cards; all others run straight. */
export function layStrands(
  cards: readonly Obstacle[],
  strands: readonly LooseStrand[],
): ReadonlyMap<string, LaidStrand> {
  const lay = makeLayer(cards);
  return new Map(
    strands.flatMap((strand) => {
      const laid = lay(strand);
      return laid ? [[strand.id, laid] as const] : [];
    }),
  );
}

/** A part of a sheet in texture space: where its corner is, in sides, and how large it is shown. */
export interface SheetPart {
  readonly x: number;
  readonly y: number;
  readonly zoom: number;
}
/** Where the pointer is on what is shown, in sides of it. */
interface PartPlace {
  readonly x: number;
  readonly y: number;
}
export const WHOLE: SheetPart = { x: 0, y: 0, zoom: 1 };
const CLOSEST = 16;
/** How much a step of the wheel brings closer. */
const PER_STEP = 1.2;
/** So many cuts are drawn; those of a denser model would only cover the picture. */
const MOST_SEAMS = 60_000;

const within = ({ x, y, zoom }: SheetPart): SheetPart => {
  const most = 1 - 1 / zoom;
  return { zoom, x: Math.min(most, Math.max(0, x)), y: Math.min(most, Math.max(0, y)) };
};

/** A step closer or back; what is under the pointer stays there. */
export function closer(part: SheetPart, at: PartPlace, isCloser: boolean): SheetPart {
  const zoom = Math.min(CLOSEST, Math.max(1, part.zoom * (isCloser ? PER_STEP : 1 / PER_STEP)));
  const kept = (share: number, from: number): number => from + share / part.zoom - share / zoom;
  return within({ zoom, x: kept(at.x, part.x), y: kept(at.y, part.y) });
}

/** The part after a drag, in sides of what is shown. */
export const moved = (part: SheetPart, across: number, down: number): SheetPart =>
  within({ ...part, x: part.x - across / part.zoom, y: part.y - down / part.zoom });

/** The texel under the pointer: row × size + column. */
export function texelAt(part: SheetPart, at: PartPlace, size: number): number {
  const index = (share: number, from: number): number =>
    Math.min(size - 1, Math.max(0, Math.floor((from + share / part.zoom) * size)));
  return index(at.y, part.y) * size + index(at.x, part.x);
}

/** Cuts of the atlas (u, v of one end, u, v of the other) as one path. */
export function seamPath(seams: Float32Array): string {
  const pieces: string[] = [];
  for (let k = 0; k + 3 < seams.length && pieces.length < MOST_SEAMS; k += 4) {
    const [u = 0, v = 0, s = 0, t = 0] = seams.subarray(k, k + 4);
    pieces.push(`M${u.toFixed(5)} ${v.toFixed(5)}L${s.toFixed(5)} ${t.toFixed(5)}`);
  }
  return pieces.join('');
}

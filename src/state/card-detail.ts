/** How much of a card is drawn: all of it; its picture and name; or only its picture. */
export type CardDetail = 'near' | 'far' | 'distant';

/** Zooms below which figures of cards cannot be read, and cards are narrower than 56 pixels. */
const NEAR = 0.8;
const FAR = 56 / 132;
/** What is drawn stays for this much of the zoom, so that it does not change to and fro. */
const KEPT = 1.06;

/** @param before what is drawn now */
export function detailAt(zoom: number, before: CardDetail): CardDetail {
  const near = before === 'near' ? NEAR / KEPT : NEAR;
  const far = before === 'distant' ? FAR : FAR / KEPT;
  if (zoom >= near) return 'near';
  return zoom >= far ? 'far' : 'distant';
}

/** Sides in which pictures are made, pixels. */
const SIDES = [32, 64, 128, 192] as const;
/** The side of a picture that fills so many pixels of the screen. */
export const pictureSide = (pixels: number): number =>
  SIDES.find((side) => side >= pixels) ?? Math.max(...SIDES);

/** With more cards than this, those of a whole board are only pictures. */
const MANY = 600;
/** What is drawn of a board before it is framed. */
export const detailAtFirst = (cards: number): CardDetail => (cards > MANY ? 'distant' : 'near');

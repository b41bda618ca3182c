import type { NetworkDocument } from '../graph/document';

/** A finished network that a new material may begin from. */
export interface Starter {
  /** Also the name of its picture: `public/starters/<id>.png`. */
  readonly id: string;
  readonly title: string;
  /** What it shows, in a sentence. */
  readonly help: string;
  /** The demo model it was made on. */
  readonly model: string;
  /** Its network, made anew; the name is that of the starter. */
  readonly document: () => NetworkDocument;
}

/** States a starter. */
export const defineStarter = (starter: Starter): Starter => starter;

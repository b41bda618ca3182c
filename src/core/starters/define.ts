import type { NetworkDocument } from '../graph/document';

/** What is told of a starter before it is taken. */
export interface StarterText {
  /** Also the name of its picture: `public/starters/<id>.png`. */
  readonly id: string;
  readonly title: string;
  /** What it shows, in a sentence. */
  readonly help: string;
  /** The demo model it was made on. */
  readonly model: string;
}
/** A finished network that a new material may begin from. */
export interface Starter extends StarterText {
  /** Its network, made anew; the name is that of the starter. */
  readonly document: () => NetworkDocument;
}

/** States a starter. */
export const defineStarter = (starter: Starter): Starter => starter;

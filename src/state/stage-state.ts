import type { PictureAge } from './picture-age';
import type { ModelScale } from '../core/compile/model-scale';

/** What may be chosen of the model at hand, by name. */
export interface ModelFacts {
  readonly scale: ModelScale;
  readonly parts: readonly string[];
  readonly attributes: readonly string[];
  readonly sets: readonly string[];
}
/** How a model beside the current one is doing: why it cannot be shown, or nothing. */
export type CompanionState =
  | { readonly state: 'loading' }
  | { readonly state: 'ready' }
  | { readonly state: 'failed'; readonly message: string };
/** What stands on the stage. */
export interface StageState {
  /** What the current model brings; null until it is loaded. */
  readonly model: ModelFacts | null;
  /** How each model beside the current one is doing, by its id in the document. */
  readonly companionStates: ReadonlyMap<string, CompanionState>;
  /** How the picture stands to the material, and for how many seconds. */
  readonly pictureAge: PictureAge;
  readonly pictureSeconds: number;
  /** Whether a surface, or what is pinned, was drawn since the stage was there. */
  readonly hasDrawn: boolean;
}

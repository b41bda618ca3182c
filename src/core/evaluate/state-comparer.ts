import { AppError } from '../base/diagnostic';
import { ShareMeter } from '../compare/change-shares';
import { perceptualDifference } from '../compare/picture-difference';
import type { PictureDifference } from '../compare/picture-difference';
import { listStateChanges } from '../compare/state-changes';
import type { SeenState, StateChange } from '../compare/state-changes';
import { MaterialPainter } from './material-painter';
import type { PaintedModel } from './material-painter';
import type { Picture } from './picture';

/** A change as it is told: all but how it is put back. */
export type ToldChange = Omit<StateChange, 'undo'>;
/** Two states side by side. */
export interface ComparedStates {
  readonly pictures: readonly [Picture, Picture];
  /** `perceptual`: the mean distance to the eye, ΔEOK. */
  readonly difference: PictureDifference & { readonly perceptual: number };
  readonly changes: readonly ToldChange[];
}

/** Compares two states: what differs, as pictures and as a list, and what accounts for it. */
export class StateComparer {
  private readonly changes: readonly StateChange[];
  private readonly meters = new Map<number, ShareMeter<SeenState>>();

  /** @param modelOf a model by its id, @param nameOf what it is called */
  constructor(
    private readonly before: SeenState,
    private readonly after: SeenState,
    private readonly modelOf: (id: string) => PaintedModel,
    nameOf: (id: string) => string,
  ) {
    this.changes = listStateChanges(before, after, nameOf);
  }

  /**
   * Pictures and figures at a size, pixels a side; the same size is drawn once.
   * @throws CompileError when either state has errors
   */
  compare(size: number): ComparedStates {
    const { pictures, difference } = this.meter(size);
    return {
      pictures,
      difference: { ...difference, perceptual: perceptualDifference(...pictures) },
      changes: this.changes.map(({ undo: _undo, ...told }) => told),
    };
  }

  /**
   * How much of the difference the change at a place of the list accounts for, measured on
   * pictures of a size; null where it cannot be told.
   */
  share(place: number, size: number): number | null {
    const change = this.changes[place];
    return change ? this.meter(size).share(change) : null;
  }

  private meter(size: number): ShareMeter<SeenState> {
    const known = this.meters.get(size);
    if (known) return known;
    const made = new ShareMeter(this.before, this.after, ({ document, model, camera }) =>
      new MaterialPainter(this.modelOf(model), size, camera).paint(document),
    );
    this.meters.set(size, made);
    return made;
  }
}

/** What is answered when a comparison is asked about that this thread does not hold. */
export const noComparison = (): AppError =>
  new AppError(
    'comparison.gone',
    'The comparison was lost with the worker that made it.',
    'Choose the states again.',
    { kept: 'The states are kept.' },
  );

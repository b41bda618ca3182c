import type { Clock } from './clock';

/**
 * How the picture of the stage stands to the material: as it is now, of a state before, or of one
 * so long ago that its progress is worth a word.
 */
export type PictureAge = 'current' | 'old' | 'late';

/** Longer than this a picture may not pass for the newest, milliseconds. */
export const OLD_MS = 200;
/** After this long it is said for how long. */
const LATE_MS = 1000;
const LOOK_MS = 40;

/**
 * Follows whether what is drawn is of the newest state. A change makes the picture old at once; it
 * counts as such when it has been for a moment, so that what is quick does not flicker.
 */
export class PictureWatch {
  private since: number | null = null;
  private stop: (() => void) | null = null;
  private told = 'current 0';

  /**
   * @param isBusy whether anything of the newest picture is still to come
   * @param tell told of each change; `seconds` since the state that is drawn was the newest
   */
  constructor(
    private readonly clock: Clock,
    private readonly isBusy: () => boolean,
    private readonly tell: (age: PictureAge, seconds: number) => void,
  ) {}

  /** Something changed that is seen: another picture is to come. */
  changed(): void {
    this.since ??= this.clock.now();
    if (!this.stop) this.look();
  }

  close(): void {
    this.stop?.();
  }

  private look(): void {
    this.stop = this.clock.after(LOOK_MS, () => {
      this.stop = null;
      const { since } = this;
      if (since === null) return;
      if (!this.isBusy()) {
        this.since = null;
        this.report('current', 0);
        return;
      }
      const age = this.clock.now() - since;
      if (age >= OLD_MS) this.report(age >= LATE_MS ? 'late' : 'old', Math.floor(age / 1000));
      this.look();
    });
  }

  private report(age: PictureAge, seconds: number): void {
    const news = `${age} ${String(seconds)}`;
    // The first picture of all is told, too.
    if (news === this.told && age !== 'current') return;
    this.told = news;
    this.tell(age, seconds);
  }
}

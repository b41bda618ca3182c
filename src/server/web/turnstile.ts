/** Lets so many in at a time; the others wait their turn, in order, for so long. */
export class Turnstile {
  private inside = 0;
  private readonly waiting: (() => void)[] = [];

  constructor(
    private readonly most: number,
    private readonly mostWaiting: number,
    private readonly patienceMs: number,
  ) {}

  /** @returns what lets the next one in, to be called once; null where the wait was too long */
  async enter(): Promise<(() => void) | null> {
    if (this.inside < this.most) this.inside++;
    else if (!(await this.wait())) return null;
    let isInside = true;
    return () => {
      if (!isInside) return;
      isInside = false;
      // Whoever waits longest takes over the place; nobody slips in between.
      const next = this.waiting.shift();
      if (next) next();
      else this.inside--;
    };
  }

  private wait(): Promise<boolean> {
    if (this.waiting.length >= this.mostWaiting) return Promise.resolve(false);
    return new Promise((resolve) => {
      const called = (): void => {
        clearTimeout(late);
        resolve(true);
      };
      const late = setTimeout(() => {
        this.waiting.splice(this.waiting.indexOf(called), 1);
        resolve(false);
      }, this.patienceMs);
      this.waiting.push(called);
    });
  }
}

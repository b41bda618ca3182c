/** Time, as far as anything in the editor waits for it. */
export interface Clock {
  /** Milliseconds; only differences mean something. */
  now(): number;
  /** Runs something later. @returns how to call it off */
  after(ms: number, run: () => void): () => void;
}

export const systemClock: Clock = {
  now: () => performance.now(),
  after: (ms, run) => {
    const timer = setTimeout(run, ms);
    return () => {
      clearTimeout(timer);
    };
  },
};

/** Turns of the page, and how long one lasts in milliseconds: components answer within a frame. */
const CALM_TURNS = 4,
  TURN_MS = 16;

/** Resolves once something is idle, and stays so for some turns of the page. */
export async function untilCalm(isIdle: () => boolean, clock: Clock): Promise<void> {
  for (let calm = 0; calm < CALM_TURNS;) {
    await new Promise<void>((resolve) => {
      clock.after(TURN_MS, resolve);
    });
    calm = isIdle() ? calm + 1 : 0;
  }
}

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

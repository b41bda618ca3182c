import { stores } from './stores';
import type { WatchedInput } from './stores';

/** Reads what arrives at an input on the stage, until it is let go. @returns how to let go */
export function watchArriving(watched: WatchedInput): () => void {
  stores.probe.setState({ watched, level: null, reading: null });
  return () => {
    if (stores.probe.getState().watched === watched)
      stores.probe.setState({ watched: null, level: null, reading: null });
  };
}

/** Draws where on the model the watched value is so large. */
export const showLevel = (level: number): void => {
  stores.probe.setState({ level });
};
/** Draws no such line any more. */
export const clearLevel = (): void => {
  stores.probe.setState({ level: null });
};

import { QueryClient } from '@tanstack/react-query';
import { ApiFailure } from './api';

/** How often a read that did not come through is tried again, and the longest wait between, milliseconds. */
const MOST_TRIES = 4,
  LONGEST_WAIT = 8000;

/** Whether trying again may help: the server was away or busy. What it refused, it refuses again. */
export const isPassing = (error: unknown): boolean =>
  error instanceof ApiFailure && (error.requestStatus === 0 || error.requestStatus === 503);

/** Keeps what was read from the server, gives up late answers, and reads again what did not come through. */
export const makeQueryClient = (): QueryClient =>
  new QueryClient({
    defaultOptions: {
      queries: {
        networkMode: 'always',
        refetchOnWindowFocus: false,
        retry: (count, error) => count < MOST_TRIES && isPassing(error),
        retryDelay: (count) => Math.min(LONGEST_WAIT, 500 * 2 ** count),
      },
      mutations: { networkMode: 'always', retry: false },
    },
  });

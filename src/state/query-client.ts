import { QueryClient } from '@tanstack/react-query';
import type { Route } from '../contract/route';
import { ApiFailure, call } from './api';
import type { Call } from './api';

/**
 * How often a read that did not come through is tried again, and the longest wait between,
 * milliseconds.
 */
const MOST_TRIES = 4,
  LONGEST_WAIT = 8000;

/**
 * Whether trying again may help: the server was away or busy. What it refused, it refuses again.
 */
export const isPassing = (error: unknown): boolean =>
  error instanceof ApiFailure && (error.requestStatus === 0 || error.requestStatus === 503);

/**
 * Keeps what was read from the server, gives up late answers, and reads again what did not come
 * through.
 */
const makeQueryClient = (): QueryClient =>
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

let kept: QueryClient | undefined;
/**
 * The client of this page: components read through it by hooks, everything else by `read`. On the
 * server every page that is drawn has one of its own: what one person may see is not for the next.
 */
export const queryClient = (): QueryClient =>
  typeof window === 'undefined' ? makeQueryClient() : (kept ??= makeQueryClient());

/**
 * Reads once, now: equal reads under way are one, and what did not come through is tried again.
 * Nothing is kept.
 * @throws ApiFailure
 */
export const readOnce = <T>(
  key: readonly unknown[],
  work: (signal: AbortSignal) => Promise<T>,
): Promise<T> =>
  queryClient().fetchQuery({
    queryKey: ['once', ...key],
    queryFn: ({ signal }) => work(signal),
    staleTime: 0,
    gcTime: 0,
  });

/** As `readOnce`, of a route of the contract. */
export const read = <P, Q, A>(
  route: Route<P, Q, null, A>,
  given: Pick<Call<P, Q, null>, 'params' | 'query'> = {},
): Promise<A> =>
  readOnce([route.path, given.params ?? {}, given.query ?? {}], (signal) =>
    call(route, { ...given, signal }),
  );

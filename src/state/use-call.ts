import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import type { UseMutationResult, UseQueryResult } from '@tanstack/react-query';
import type { Route } from '../contract/route';
import { call } from './api';
import type { Call } from './api';

interface Reading {
  /** Whether it is read at all at the moment. */
  readonly enabled?: boolean;
  /** What was read for other parameters stays until the answer is there. */
  readonly keepsPrevious?: boolean;
}

/** The name under which an answer is kept. */
export const keyOfCall = (
  { path }: Pick<Route<unknown, unknown, unknown, unknown>, 'path'>,
  params: unknown = {},
  query: unknown = {},
): readonly unknown[] => [path, params, query];

/**
 * Reads from the server: cancelled when it is no longer wanted, tried again when it did not come
 * through.
 */
export function useCall<P, Q, A>(
  route: Route<P, Q, null, A>,
  given: Pick<Call<P, Q, null>, 'params' | 'query'> = {},
  { enabled = true, keepsPrevious = false }: Reading = {},
): UseQueryResult<A> {
  return useQuery<A>({
    queryKey: keyOfCall(route, given.params, given.query),
    queryFn: ({ signal }) => call(route, { ...given, signal }),
    enabled,
    ...(keepsPrevious ? { placeholderData: keepPreviousData } : {}),
  });
}

/** Changes something on the server. */
export function useChange<P, Q, B, A>(
  route: Route<P, Q, B, A>,
): UseMutationResult<A, Error, Call<P, Q, B>> {
  return useMutation({ mutationFn: (given: Call<P, Q, B>) => call(route, given) });
}

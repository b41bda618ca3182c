import type { UseQueryResult } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { countFacets, searchLibrary } from '../contract/library';
import type { LibraryAnswer, LibraryQuery } from '../contract/library';
import { useCall } from './use-call';

/** How long typing must rest before the library is asked, milliseconds. */
const REST = 60;

/** A text once it has rested for a moment. */
export function useRested(text: string): string {
  const [rested, setRested] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => {
      setRested(text);
    }, REST);
    return () => {
      clearTimeout(timer);
    };
  }, [text]);
  return rested;
}

const asked = (query: LibraryQuery): LibraryQuery =>
  Object.fromEntries(
    Object.entries({ ...query, query: query.query?.slice(0, 200) }).filter(
      ([, value]) => value !== undefined && value !== '',
    ),
  );

/**
 * What the library holds for a query, as it is typed; the answer of before stays until the next is
 * there.
 */
export function useLibrarySearch(
  query: LibraryQuery,
  enabled = true,
): UseQueryResult<LibraryAnswer> {
  const rested = useRested(query.query ?? '');
  return useCall(
    searchLibrary,
    { query: asked({ ...query, query: rested }) },
    { enabled, keepsPrevious: true },
  );
}

/** How often each facet stands among what a query finds. */
export function useFacets(query: LibraryQuery): UseQueryResult<{
  readonly facets: readonly {
    readonly facet: string;
    readonly title: string;
    readonly count: number;
  }[];
}> {
  const rested = useRested(query.query ?? '');
  const { sort: _sort, first: _first, ...given } = query;
  return useCall(
    countFacets,
    { query: asked({ ...given, query: rested }) },
    { keepsPrevious: true },
  );
}

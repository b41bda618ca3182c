import type { UseQueryResult } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { countFacets, searchLibrary } from '../contract/library';
import type { LibraryAnswer, LibraryQuery } from '../contract/library';
import { useCall } from './use-call';

/** While letters follow each other, the library is asked once in so long a time, milliseconds. */
const PACE = 120;
/** What is less urgent waits until typing has rested for so long, milliseconds. */
const REST = 250;

/** A text as it is typed: its first letter at once, then at a pace, the last one in any case. */
export function usePaced(text: string): string {
  const [paced, setPaced] = useState(text);
  const takenAt = useRef(-PACE);
  useEffect(() => {
    const timer = setTimeout(
      () => {
        takenAt.current = performance.now();
        setPaced(text);
      },
      Math.max(0, takenAt.current + PACE - performance.now()),
    );
    return () => {
      clearTimeout(timer);
    };
  }, [text]);
  return paced;
}

/** A text once it has rested for a moment. */
function useRested(text: string): string {
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
  const typed = usePaced(query.query ?? '');
  return useCall(
    searchLibrary,
    { query: asked({ ...query, query: typed }) },
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

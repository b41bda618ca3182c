import type { UseQueryResult } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { searchLibrary } from '@/contract/library';
import type { LibraryAnswer } from '@/contract/library';
import { useCall } from '@/state/use-call';

/** How long typing must rest before the library is asked, milliseconds. */
const REST = 150;

/**
 * What the library holds for a query, as it is typed; the answer of before stays until the next is
 * there.
 */
export function useLibrarySearch(
  query: string,
  rack = '',
  enabled = true,
): UseQueryResult<LibraryAnswer> {
  const [rested, setRested] = useState(query);
  useEffect(() => {
    const timer = setTimeout(() => {
      setRested(query);
    }, REST);
    return () => {
      clearTimeout(timer);
    };
  }, [query]);
  const given = { query: rested.slice(0, 200), ...(rack ? { rack } : {}) };
  return useCall(searchLibrary, { query: given }, { enabled, keepsPrevious: true });
}

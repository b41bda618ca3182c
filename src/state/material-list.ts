import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { MATERIAL_PAGE, findMaterials, listPlaces } from '../contract/materials';
import type {
  FoundMaterials,
  MaterialPlaces,
  MaterialQuery,
  MaterialSummary,
} from '../contract/materials';
import { call } from './api';
import { usePaced } from './library-search';
import { queryClient } from './query-client';
import { keyOfCall, useCall } from './use-call';

/** What the server sent with the page is read again only after so long, milliseconds. */
const FRESH = 2000;

/** What of the list is shown, without its page. */
export type MaterialListing = Omit<MaterialQuery, 'first'>;

export interface MaterialList {
  readonly materials: readonly MaterialSummary[];
  readonly hasMore: boolean;
  readonly isReading: boolean;
  readonly error: Error | null;
  /** Reads the next page, too. */
  readonly readMore: () => void;
}

const stated = (listing: MaterialListing): MaterialListing =>
  Object.fromEntries(
    Object.entries(listing).filter(([, value]) => value !== undefined && value !== ''),
  );

/**
 * The materials that are asked for, page by page; what was shown stays until the next is there.
 * @param given what the server sent with the page, and for which listing
 */
export function useMaterialList(
  listing: MaterialListing,
  given: { readonly listing: MaterialListing; readonly first: FoundMaterials },
): MaterialList {
  const typed = usePaced(listing.query ?? '');
  const asked = stated({ ...listing, query: typed.trim().slice(0, 200) });
  const [openedAt] = useState(() => Date.now());
  const isGiven = JSON.stringify(asked) === JSON.stringify(stated(given.listing));
  const { data, hasNextPage, isFetching, error, fetchNextPage } = useInfiniteQuery({
    queryKey: [findMaterials.path, asked],
    queryFn: ({ pageParam, signal }) =>
      call(findMaterials, {
        query: { ...asked, ...(pageParam > 0 ? { first: String(pageParam) } : {}) },
        signal,
      }),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => (last.hasMore ? pages.length * MATERIAL_PAGE : undefined),
    placeholderData: keepPreviousData,
    staleTime: FRESH,
    ...(isGiven
      ? {
          initialData: { pages: [given.first], pageParams: [0] },
          initialDataUpdatedAt: openedAt,
        }
      : {}),
  });
  return {
    // A material that was saved meanwhile may come on two pages.
    materials: [
      ...new Map(
        (data?.pages ?? []).flatMap(({ materials }) => materials.map((each) => [each.id, each])),
      ).values(),
    ],
    hasMore: hasNextPage,
    isReading: isFetching,
    error,
    readMore: () => {
      if (hasNextPage && !isFetching) void fetchNextPage();
    },
  };
}

/** One's projects and sets, with how many materials each has. */
export function usePlaces(isArchive: boolean, given: MaterialPlaces): MaterialPlaces {
  const [openedAt] = useState(() => Date.now());
  const query = isArchive ? { archived: 'yes' as const } : {};
  const { data } = useQuery({
    queryKey: keyOfCall(listPlaces, {}, query),
    queryFn: ({ signal }) => call(listPlaces, { query, signal }),
    placeholderData: keepPreviousData,
    staleTime: FRESH,
    ...(isArchive ? {} : { initialData: given, initialDataUpdatedAt: openedAt }),
  });
  return data ?? given;
}

/** Whether a project has a material of a name that is typed, not archived. */
export function useNameTaken(project: string, typed: string): boolean {
  const name = usePaced(typed).trim().slice(0, 200);
  const { data } = useCall(
    findMaterials,
    { query: { project, name } },
    { enabled: name !== '' && project !== '' },
  );
  return name !== '' && (data?.materials.length ?? 0) > 0;
}

/**
 * The materials among which one is chosen, as words are typed: the first page of what they find,
 * the one saved last first; asked for while the choice is open, null until the first answer.
 * @param except the material that is not offered
 */
export function useMaterialSearch(except: string | null = null) {
  const [isOpen, onOpen] = useState(false);
  const [query, onQuery] = useState('');
  const words = usePaced(query).trim().slice(0, 200);
  const { data, error } = useCall(
    findMaterials,
    { query: stated({ query: words }) },
    { enabled: isOpen, keepsPrevious: true },
  );
  return {
    isOpen,
    onOpen: (next: boolean) => {
      onQuery('');
      onOpen(next);
    },
    query,
    onQuery,
    found: data?.materials.filter(({ id }) => id !== except) ?? null,
    hasMore: data?.hasMore ?? false,
    error,
  };
}

/** The name of a material that is not archived; null where one may not see it, or as yet. */
export function useMaterialName(id: string | undefined): string | null {
  const { data } = useCall(
    findMaterials,
    { query: { id: id ?? '' } },
    { enabled: id !== undefined },
  );
  return data?.materials[0]?.name ?? null;
}

/** Reads lists, projects and sets anew: something changed. */
export async function refreshMaterials(): Promise<void> {
  await Promise.all(
    [findMaterials.path, listPlaces.path].map((path) =>
      queryClient().invalidateQueries({ queryKey: [path] }),
    ),
  );
}

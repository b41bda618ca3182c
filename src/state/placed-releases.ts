import { useQueries } from '@tanstack/react-query';
import { openEntry } from '../contract/library';
import { releasesUsed } from '../core/releases/take-release';
import { call } from './api';
import { keyOfCall } from './use-call';
import { useDocument } from './use-stores';

/** A release of a group that the open material has placed. */
export interface PlacedVersion {
  readonly entryId: string;
  readonly entryName: string;
  readonly version: string;
}

/** All releases of the groups that the open material has placed, but for those it uses. */
export function useOtherReleases(): readonly PlacedVersion[] {
  // As text, so that only another release draws anew.
  const used = useDocument(({ document }) =>
    JSON.stringify(
      releasesUsed(document).map(({ entryId, version }): [string, string] => [entryId, version]),
    ),
  );
  const releases = JSON.parse(used) as readonly [string, string][];
  return useQueries({
    queries: [...new Set(releases.map(([id]) => id))].map((id) => ({
      queryKey: keyOfCall(openEntry, { id }),
      queryFn: ({ signal }: { signal: AbortSignal }) => call(openEntry, { params: { id }, signal }),
    })),
    combine: (answers) =>
      answers.flatMap(({ data }) =>
        (data?.releases ?? [])
          .filter(
            ({ version }) => !releases.some(([id, own]) => id === data?.id && own === version),
          )
          .map(({ version }) => ({
            entryId: data?.id ?? '',
            entryName: data?.name ?? '',
            version,
          })),
      ),
  });
}

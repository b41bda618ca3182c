import type { QueryClient, UseQueryResult } from '@tanstack/react-query';
import { useQueryClient } from '@tanstack/react-query';
import { forgetPreset, keepPreset, keepStarter, listPresets } from '../contract/presets';
import type { PresetGiven, PresetList, PresetQuery, StarterGiven } from '../contract/presets';
import { call } from './api';
import { usePaced } from './library-search';
import { keyOfCall, useCall } from './use-call';

/** What stands on the racks one sees, as it is searched. */
export function usePresets(query: PresetQuery, enabled = true): UseQueryResult<PresetList> {
  const words = usePaced(query.query ?? '').slice(0, 200);
  const { query: _typed, ...given } = query;
  return useCall(
    listPresets,
    { query: words === '' ? given : { ...given, query: words } },
    { enabled, keepsPrevious: true },
  );
}

/** Reads all lists of presets anew. */
export const renewPresets = (client: QueryClient): Promise<void> =>
  client.invalidateQueries({ queryKey: keyOfCall(listPresets).slice(0, 1) });

type Plain<T> = Omit<T, 'description' | 'tags'>;
const UNTOLD = { description: '', tags: [] };

/** Keeping and forgetting presets; the lists follow. */
export function usePresetActs(): {
  readonly keep: (given: Plain<PresetGiven>) => Promise<void>;
  readonly keepAsStarter: (given: Plain<StarterGiven>) => Promise<void>;
  readonly forget: (id: string) => Promise<void>;
} {
  const client = useQueryClient();
  return {
    keep: async (given) => {
      await call(keepPreset, { body: { ...UNTOLD, ...given } });
      await renewPresets(client);
    },
    keepAsStarter: async (given) => {
      await call(keepStarter, { body: { ...UNTOLD, ...given } });
      await renewPresets(client);
    },
    forget: async (id) => {
      await call(forgetPreset, { params: { id } });
      await renewPresets(client);
    },
  };
}

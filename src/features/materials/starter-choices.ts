import { useMemo } from 'react';
import { openStarter } from '@/contract/presets';
import { emptyDocument } from '@/core/graph/document';
import type { NetworkDocument } from '@/core/graph/document';
import type { StarterText } from '@/core/starters/define';
import { call } from '@/state/api';
import { usePresets } from '@/state/presets';

/** A starter that may be chosen: one that ships with the application, or one of a rack. */
export interface StarterChoice extends StarterText {
  /** Set for one of a rack. */
  readonly kept?: { readonly swatchHash: string | null };
}

/** All starters: those that ship with the application first. */
export function useStarters(shipped: readonly StarterText[]): readonly StarterChoice[] {
  const { data } = usePresets({ kind: 'starter' });
  return useMemo(() => {
    const racks = new Map(data?.racks.map(({ id, name }) => [id, name]));
    const kept = (data?.presets ?? []).map((each): StarterChoice => ({
      id: each.id,
      title: each.name,
      help:
        each.description || `Kept by ${each.authorName} on the ${racks.get(each.rack) ?? ''} rack.`,
      model: each.modelId ?? '',
      kept: { swatchHash: each.swatchHash },
    }));
    return [...shipped, ...kept];
  }, [data, shipped]);
}

/** What a material begins with. Networks come when one is taken: the page is there without them. */
export async function beginFrom(
  starter: StarterChoice | null,
  name: string,
): Promise<NetworkDocument> {
  if (!starter) return emptyDocument(name);
  if (starter.kept) {
    const { value } = await call(openStarter, { params: { id: starter.id } });
    return { ...value.document, name };
  }
  const { STARTERS } = await import('@/core/starters/starters');
  const found = STARTERS.find(({ id }) => id === starter.id);
  return { ...(found?.document() ?? emptyDocument(name)), name };
}

import { groupFacts, groupWords } from '@/core/releases/group-facts';
import { findEntry, findNewest } from '@/db/queries/library';
import { chooseFront, listUnshelved, shelve } from '@/db/queries/library-search';
import { findRelease } from './stored';

/** Writes anew what an entry is found by, after it or its releases have changed. */
export async function reshelve(entryId: string): Promise<void> {
  const [entry, newest] = await Promise.all([findEntry(entryId), findNewest(entryId)]);
  if (!entry) return;
  const release = newest && (await findRelease(entryId, newest.version));
  const facts = release && groupFacts(release.groups);
  const words = release && groupWords(release.groups);
  const needs = facts?.needs ?? [];
  await shelve(
    entryId,
    newest
      ? { version: newest.version, swatchHash: newest.swatchHash, releasedAt: newest.createdAt }
      : null,
    {
      facets: [
        ...(facts?.gives ?? []).map((kind) => `gives:${kind}`),
        ...needs.map((need) => `needs:${need}`),
        ...(needs.includes('texture coordinates') ? [] : ['free:texture coordinates']),
        ...(facts?.follows ?? []).map((each) => `follows:${each}`),
        ...entry.tags.map((tag) => `tag:${tag.toLowerCase()}`),
        `author:${entry.authorName}`,
        ...(entry.deprecatedReason === null ? [] : ['state:deprecated']),
      ],
      name: entry.name,
      tags: `${entry.tags.join(' ')} ${words?.dials ?? ''}`,
      told: `${entry.description} ${words?.help ?? ''}`,
      madeOf: words?.madeOf ?? '',
    },
  );
  await chooseFront();
}

/**
 * Entries of a studio that was filled before there was a search get their words; which ones are
 * searched first is chosen anew.
 */
export async function shelveAll(): Promise<void> {
  for (const id of await listUnshelved()) await reshelve(id);
  await chooseFront(true);
}

import type { Proof } from '@/core/evaluate/proof';
import type { GroupDefinition } from '@/core/graph/document';

/** What the library's routes answer. */
export interface EntrySummary { readonly id: string; readonly rack: string; readonly name: string; readonly description: string; readonly tags: readonly string[]; readonly authorName: string; readonly version: string; readonly swatchHash: string }
export interface LibraryAnswer { readonly racks: readonly { readonly id: string; readonly name: string }[]; readonly entries: readonly EntrySummary[] }
export interface ReleaseView {
  readonly version: string; readonly groups: { readonly root: string; readonly definitions: Readonly<Record<string, GroupDefinition>> }; readonly proof: Proof; readonly swatchHash: string;
  readonly authorName: string; readonly createdAt: string; readonly withdrawnAt: string | null; readonly withdrawnReason: string | null;
}
export interface EntryView { readonly id: string; readonly rack: string; readonly rackName: string; readonly name: string; readonly description: string; readonly tags: readonly string[]; readonly authorName: string; readonly releases: readonly ReleaseView[] }

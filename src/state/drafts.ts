import { del, entries, set } from 'idb-keyval';
import type { NetworkDocument } from '../core/graph/document';
import { readStored } from '../core/compile/upgrade';
import { otherOpenTabs, thisTab } from './tab';

/** A document as it was sent to the server. */
export interface Sent {
  readonly modelId: string;
  readonly document: NetworkDocument;
}
/** Work not yet confirmed by the server, as the browser keeps it. */
export interface Draft extends Sent {
  /** The revision it was made on top of. */
  readonly base: number;
  readonly at: number;
  /** What was sent on top of `base` without an answer: it may be saved, or not. */
  readonly sent: Sent | null;
}

/** Whose work it is and on what: on a shared machine nobody gets another's. */
export interface DraftOf {
  readonly userId: string;
  readonly materialId: string;
}

const prefixOf = ({ userId, materialId }: DraftOf): string =>
  `bright-loom draft ${userId} ${materialId} `;
const keyHere = async (of: DraftOf): Promise<string> => prefixOf(of) + (await thisTab());

/** Keeps unsaved work of this tab. @throws where the browser's storage is full or off */
export async function keepDraft(of: DraftOf, draft: Draft): Promise<void> {
  await set(await keyHere(of), draft);
}

/** The server has it: this tab's copy goes. */
export async function dropDraft(of: DraftOf): Promise<void> {
  await del(await keyHere(of)).catch(() => undefined);
}

/**
 * A draft as this release reads it. One of a newer release stays where it is, for that release.
 */
function readable(key: string, draft: Draft): [string, Draft][] {
  const { document } = readStored(draft.document);
  return document ? [[key, { ...draft, document }]] : [];
}

export interface FoundDrafts {
  /** The newest, now this tab's own; null where there is none. */
  readonly draft: Draft | null;
  /**
   * How many more there are, of tabs that were closed; each has its turn when the material is
   * opened again.
   */
  readonly more: number;
}

/**
 * Unsaved work of this tab, or of tabs that are open no more. Work of other open tabs is left to
 * them.
 */
export async function takeDraft(of: DraftOf): Promise<FoundDrafts> {
  const [own, open] = [await keyHere(of), await otherOpenTabs()];
  const prefix = prefixOf(of);
  const all = await entries<string, Draft>().catch((): [string, Draft][] => []);
  const ours = all
    .filter(([key]) => typeof key === 'string' && key.startsWith(prefix))
    .filter(([key]) => key === own || (open !== null && !open.has(key.slice(prefix.length))))
    .flatMap(([key, draft]) => readable(key, draft))
    .sort(([a, x], [b, y]) => Number(b === own) - Number(a === own) || y.at - x.at);
  const [first] = ours;
  if (!first) return { draft: null, more: 0 };
  const [key, draft] = first;
  if (key !== own) {
    await set(own, draft);
    await del(key);
  }
  return { draft, more: ours.length - 1 };
}

import { delMany, entries, get, set } from 'idb-keyval';
import type { NetworkDocument } from '../core/graph/document';
import { readStored } from '../core/compile/upgrade';
import { applyPatch, diffJson } from '../core/graph/patch';
import type { JsonPatch } from '../core/graph/patch';
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

/** What was changed since a draft was kept whole: a large one is not copied for each edit. */
interface Since {
  /** When the draft was made that it is a change of. */
  readonly of: number;
  readonly at: number;
  readonly patch: JsonPatch;
}
/** Changes of more steps than this are kept whole. */
const MOST_STEPS = 200;

const prefixOf = ({ userId, materialId }: DraftOf): string =>
  `bright-loom draft ${userId} ${materialId} `;
const keyHere = async (of: DraftOf): Promise<string> => prefixOf(of) + (await thisTab());

const sinceKey = (key: string): string => `since, ${key}`;

/** What this tab keeps whole, and where. */
let whole: { readonly key: string; readonly draft: Draft } | null = null;

const changeOf = (before: Draft, draft: Draft): JsonPatch | null => {
  const isOfSame =
    before.base === draft.base && before.modelId === draft.modelId && before.sent === draft.sent;
  const patch = isOfSame ? diffJson(before.document, draft.document) : null;
  return patch && patch.length <= MOST_STEPS ? patch : null;
};

/** Keeps unsaved work of this tab. @throws where the browser's storage is full or off */
export async function keepDraft(of: DraftOf, draft: Draft): Promise<void> {
  const key = await keyHere(of);
  const patch = whole?.key === key ? changeOf(whole.draft, draft) : null;
  if (whole && patch) {
    const since: Since = { of: whole.draft.at, at: draft.at, patch };
    return set(sinceKey(key), since);
  }
  // A change that was kept is one of the draft before, and says so.
  const kept = { key, draft };
  whole = kept;
  try {
    await set(key, draft);
  } catch (error) {
    if (whole === kept) whole = null;
    throw error;
  }
}

/** The server has it: this tab's copy goes. */
export async function dropDraft(of: DraftOf): Promise<void> {
  const key = await keyHere(of);
  whole = null;
  await delMany([key, sinceKey(key)]).catch(() => undefined);
}

/** A draft with what was changed since it was kept whole. */
async function withChanges(key: string, draft: Draft): Promise<Draft> {
  const since = await get<Since>(sinceKey(key)).catch(() => undefined);
  if (since?.of !== draft.at) return draft;
  try {
    const document = applyPatch(draft.document, since.patch) as NetworkDocument;
    return { ...draft, at: since.at, document };
  } catch {
    return draft;
  }
}

/**
 * A draft as this release reads it. One of a newer release stays where it is, for that release.
 */
async function readable(key: string, kept: Draft): Promise<[string, Draft][]> {
  const draft = await withChanges(key, kept);
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
  const found = all
    .filter(([key]) => typeof key === 'string' && key.startsWith(prefix))
    .filter(([key]) => key === own || (open !== null && !open.has(key.slice(prefix.length))));
  const ours = (await Promise.all(found.map(([key, draft]) => readable(key, draft))))
    .flat()
    .sort(([a, x], [b, y]) => Number(b === own) - Number(a === own) || y.at - x.at);
  const [first] = ours;
  if (!first) return { draft: null, more: 0 };
  const [key, draft] = first;
  if (key !== own) {
    await set(own, draft);
    await delMany([key, sinceKey(key)]);
  }
  return { draft, more: ours.length - 1 };
}

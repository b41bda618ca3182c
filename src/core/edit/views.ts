import type { KeptView, NetworkDocument } from '../graph/document';
import { freshId } from './board';

const NONE: readonly KeptView[] = [];
/** The views a document keeps, in the order in which they were kept. */
export const keptViews = ({ views }: NetworkDocument): readonly KeptView[] => views ?? NONE;

/** Keeps a view under a name; one of the same name is replaced. */
export function keepView(document: NetworkDocument, view: Omit<KeptView, 'id'>): NetworkDocument {
  const known = keptViews(document);
  const same = known.find(({ name }) => name === view.name);
  const id = same?.id ?? freshId('view', new Set(known.map((each) => each.id)));
  const kept = { ...view, id };
  return {
    ...document,
    views: same ? known.map((each) => (each.id === id ? kept : each)) : [...known, kept],
  };
}

/** Forgets a view; without any, the document is as if none had ever been kept. */
export function dropView(document: NetworkDocument, id: string): NetworkDocument {
  const views = keptViews(document).filter((each) => each.id !== id);
  const { views: _dropped, ...rest } = document;
  return views.length > 0 ? { ...rest, views } : rest;
}

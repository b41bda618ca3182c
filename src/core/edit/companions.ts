import { LIMITS, NO_COMPANIONS } from '../graph/document';
import type { Companion, Companions, NetworkDocument } from '../graph/document';
import { freshId } from './board';

/** The models that stand beside the current one. */
export const getCompanions = (document: NetworkDocument): Companions =>
  document.companions ?? NO_COMPANIONS;

/** What stands alone is not written down. */
function withCompanions(document: NetworkDocument, next: Companions): NetworkDocument {
  const { companions: _old, ...rest } = document;
  return next.models.length === 0 ? rest : { ...rest, companions: next };
}

/**
 * One more model beside the current one, with the network being edited; unchanged when there are as
 * many as there may be.
 */
export function addCompanion(
  document: NetworkDocument,
  model: { readonly id: string; readonly name: string },
): NetworkDocument {
  const known = getCompanions(document);
  if (known.models.length >= LIMITS.companions) return document;
  const id = freshId('beside', new Set(known.models.map((each) => each.id)));
  return withCompanions(document, {
    ...known,
    models: [...known.models, { id, model: model.id, name: model.name, turn: 0 }],
  });
}

/** @param change `material: null` gives it the network being edited */
export function changeCompanion(
  document: NetworkDocument,
  id: string,
  change: { readonly turn?: number; readonly material?: string | null },
): NetworkDocument {
  const known = getCompanions(document);
  return withCompanions(document, {
    ...known,
    models: known.models.map((each) => (each.id === id ? changed(each, change) : each)),
  });
}

function changed(
  companion: Companion,
  {
    turn = companion.turn,
    material = companion.material ?? null,
  }: { readonly turn?: number; readonly material?: string | null },
): Companion {
  const { material: _old, ...rest } = companion;
  return { ...rest, turn, ...(material === null ? {} : { material }) };
}

/** Takes a model from the stage. */
export function removeCompanion(document: NetworkDocument, id: string): NetworkDocument {
  const known = getCompanions(document);
  return withCompanions(document, {
    ...known,
    models: known.models.filter((each) => each.id !== id),
  });
}

/** Shows all models alike in size, or as large as they are. */
export const sizeCompanions = (
  document: NetworkDocument,
  sizes: Companions['sizes'],
): NetworkDocument => withCompanions(document, { ...getCompanions(document), sizes });

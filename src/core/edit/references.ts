import type { ImageValue, NetworkDocument, SceneReference } from '../graph/document';
import { freshId } from './board';

const NONE: readonly SceneReference[] = [];
/** The pictures a material is judged against, in the order in which they came. */
export const listReferences = ({ references }: NetworkDocument): readonly SceneReference[] =>
  references ?? NONE;

const withReferences = (
  { references: _before, ...document }: NetworkDocument,
  references: readonly SceneReference[],
): NetworkDocument => (references.length > 0 ? { ...document, references } : document);

/** Adds a picture, beside the model. */
export function addReference(document: NetworkDocument, image: ImageValue): NetworkDocument {
  const known = listReferences(document);
  const id = freshId('reference', new Set(known.map((each) => each.id)));
  return withReferences(document, [...known, { id, image, place: 'beside', opacity: 0.5 }]);
}

/** Changes how a picture is shown. */
export const changeReference = (
  document: NetworkDocument,
  id: string,
  change: Partial<Pick<SceneReference, 'place' | 'opacity'>>,
): NetworkDocument =>
  withReferences(
    document,
    listReferences(document).map((each) => (each.id === id ? { ...each, ...change } : each)),
  );

/** Takes a picture away; the image stays in the studio. */
export const removeReference = (document: NetworkDocument, id: string): NetworkDocument =>
  withReferences(
    document,
    listReferences(document).filter((each) => each.id !== id),
  );

import { listLights } from '../compile/lights';
import { DEFAULT_SURROUNDINGS } from '../graph/document';
import type { LightSetup, NetworkDocument } from '../graph/document';
import { freshId } from './board';
import { changeSurroundings } from './lights';

const NONE: readonly LightSetup[] = [];
/** The light set-ups a document keeps, in the order in which they were kept. */
export const listLightSetups = ({ lightSetups }: NetworkDocument): readonly LightSetup[] =>
  lightSetups ?? NONE;

const withSetups = (
  { lightSetups: _before, ...document }: NetworkDocument,
  lightSetups: readonly LightSetup[],
): NetworkDocument => (lightSetups.length > 0 ? { ...document, lightSetups } : document);

/** Keeps the lights as they are under a name; one of the same name is replaced. */
export function keepLights(document: NetworkDocument, name: string): NetworkDocument {
  const known = listLightSetups(document);
  const others = known.filter((each) => each.name !== name);
  const id = freshId('setup', new Set(known.map((each) => each.id)));
  const { surroundings = DEFAULT_SURROUNDINGS } = document;
  return withSetups(document, [
    ...others,
    { id, name, lights: [...listLights(document)], surroundings },
  ]);
}

/** Lights the scene as it was kept; unchanged where there is no such set-up. */
export function takeLights(document: NetworkDocument, id: string): NetworkDocument {
  const setup = listLightSetups(document).find((each) => each.id === id);
  return setup
    ? changeSurroundings({ ...document, lights: setup.lights }, setup.surroundings)
    : document;
}

/** Forgets a set-up; the lights stay as they are. */
export const dropLights = (document: NetworkDocument, id: string): NetworkDocument =>
  withSetups(
    document,
    listLightSetups(document).filter((each) => each.id !== id),
  );

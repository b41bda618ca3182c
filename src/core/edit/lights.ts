import { listLights } from '../compile/lights';
import { DEFAULT_SURROUNDINGS, LIMITS } from '../graph/document';
import type { NetworkDocument, SceneLight, Surroundings, Triple } from '../graph/document';
import { freshId } from './board';

/** The document with one light changed; the default lights become its own first. */
export const changeLight = (
  document: NetworkDocument,
  id: string,
  change: Partial<Omit<SceneLight, 'id' | 'shadows'>> & { readonly shadows?: boolean },
): NetworkDocument => ({
  ...document,
  lights: listLights(document).map((light) => {
    if (light.id !== id) return light;
    const { shadows = light.shadows === true, ...rest } = change;
    const { shadows: _old, ...kept } = { ...light, ...rest };
    return shadows ? { ...kept, shadows: true as const } : kept;
  }),
});

/** One more light, from above; unchanged when there are as many as there may be. */
export function addLight(document: NetworkDocument): { document: NetworkDocument; id: string } {
  const lights = listLights(document);
  if (lights.length >= LIMITS.lights) return { document, id: '' };
  const id = freshId('light', new Set(lights.map((each) => each.id)));
  return {
    id,
    document: {
      ...document,
      lights: [
        ...lights,
        {
          id,
          name: `Light ${String(lights.length + 1)}`,
          kind: 'far',
          at: [0, 1, 0],
          colour: [1, 1, 1],
          intensity: 1,
        },
      ],
    },
  };
}

/** The first light that gives none gives light again; one more where all do, or none is there. */
export function lightLamp(document: NetworkDocument): NetworkDocument {
  const dark = listLights(document).find(
    ({ intensity, colour }) => !(intensity > 0 && colour.some((channel) => channel > 0)),
  );
  if (!dark) return addLight(document).document;
  const isBlack = !dark.colour.some((channel) => channel > 0);
  return changeLight(document, dark.id, {
    intensity: dark.intensity > 0 ? dark.intensity : 1,
    ...(isBlack ? { colour: [1, 1, 1] } : {}),
  });
}

/** Removes a light; the default lights become the document's own first. */
export const removeLight = (document: NetworkDocument, id: string): NetworkDocument => ({
  ...document,
  lights: listLights(document).filter((light) => light.id !== id),
});

/** Turns or dims the surroundings; those of every new material are not written down. */
export function changeSurroundings(
  document: NetworkDocument,
  change: Partial<Surroundings>,
): NetworkDocument {
  const { surroundings = DEFAULT_SURROUNDINGS, ...rest } = document;
  const next = { ...surroundings, ...change };
  return next.turn === DEFAULT_SURROUNDINGS.turn && next.strength === DEFAULT_SURROUNDINGS.strength
    ? rest
    : { ...rest, surroundings: next };
}

/**
 * The direction of a light as degrees: round about the model from the front to the right, and up
 * from the horizon.
 */
export function computeAngles(at: Triple): { readonly round: number; readonly up: number } {
  const flat = Math.hypot(at[0], at[2]);
  return {
    round: flat > 0 ? (Math.atan2(at[0], at[2]) * 180) / Math.PI : 0,
    up: Math.hypot(flat, at[1]) > 0 ? (Math.atan2(at[1], flat) * 180) / Math.PI : 90,
  };
}
/** The unit direction at two angles in degrees: round about the model, and up. */
export function directionAt(round: number, up: number): Triple {
  const [a, e] = [(round * Math.PI) / 180, (up * Math.PI) / 180];
  return [Math.sin(a) * Math.cos(e), Math.sin(e), Math.cos(a) * Math.cos(e)].map(
    (x) => Math.round(x * 1e4) / 1e4 + 0,
  ) as unknown as Triple;
}

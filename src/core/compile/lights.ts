import { DEFAULT_LIGHTS } from '../graph/document';
import type { NetworkDocument, SceneLight, Triple } from '../graph/document';
import { directionToObject, toObject } from './model-scale';
import type { ModelBounds, ModelScale } from './model-scale';

/**
 * Numbers of a light among the uniforms: direction or place, whether it is near, colour times
 * intensity, one spare.
 */
export const LIGHT_ROW = 8;

/** The lights of a document's scene. */
export const listLights = (document: NetworkDocument): NonNullable<NetworkDocument['lights']> =>
  document.lights ?? DEFAULT_LIGHTS;

/**
 * Where a light is for a model: as `lightPlace` of the current model says, from where that model
 * stands.
 */
function lightSeenFrom(light: SceneLight, model: ModelScale): Triple {
  if (!model.frame) return lightPlace(light, model);
  const { placement, current } = model.frame;
  const place = lightPlace(light, current);
  return light.kind === 'near' ? toObject(place, placement) : directionToObject(place, placement);
}

/**
 * A near light is as strong as stated one size of the current model away; programs count in sizes
 * of the model they run on.
 */
function strengthSeenFrom(light: SceneLight, { frame, size }: ModelScale): number {
  if (!frame || light.kind === 'far') return light.intensity;
  return light.intensity * (frame.current.size / (frame.placement.scale * size)) ** 2;
}

/** Where a light is: a unit direction towards it when it is far, else metres of object space. */
export function lightPlace(
  { kind, at }: SceneLight,
  { size, minimum, extent }: ModelBounds,
): Triple {
  if (kind === 'near')
    return [0, 1, 2].map(
      (k) => (minimum[k] as number) + (extent[k] as number) / 2 + (at[k] as number) * size,
    ) as unknown as Triple;
  const length = Math.hypot(...at);
  return length > 0 ? [at[0] / length, at[1] / length, at[2] / length] : [0, 1, 0];
}

/** Writes a document's lights into uniforms from `index` on, as the model sees them. */
export function writeLights(
  values: Float32Array,
  index: number,
  document: NetworkDocument,
  model: ModelScale,
): void {
  listLights(document).forEach((light, k) => {
    const strength = strengthSeenFrom(light, model);
    values.set(
      [
        ...lightSeenFrom(light, model),
        light.kind === 'near' ? 1 : 0,
        ...light.colour.map((channel) => channel * strength),
      ],
      index + k * LIGHT_ROW,
    );
  });
}

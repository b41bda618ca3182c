import { DEFAULT_LIGHTS } from '../graph/document';
import type { NetworkDocument, Triple } from '../graph/document';
import type { ModelScale } from './model-scale';

/** Numbers of a light among the uniforms: direction or place, whether it is near, colour times intensity, one spare. */
export const LIGHT_ROW = 8;

/** The lights of a document's scene. */
export const lightsOf = (document: NetworkDocument): NonNullable<NetworkDocument['lights']> => document.lights ?? DEFAULT_LIGHTS;

/** Where a light is: a unit direction towards it when it is far, else metres of object space. */
export function lightPlace({ kind, at }: NonNullable<NetworkDocument['lights']>[number], { size, minimum, extent }: ModelScale): Triple {
  if (kind === 'near') return [0, 1, 2].map((k) => (minimum[k] as number) + (extent[k] as number) / 2 + (at[k] as number) * size) as unknown as Triple;
  const length = Math.hypot(...at);
  return length > 0 ? [at[0] / length, at[1] / length, at[2] / length] : [0, 1, 0];
}

export function writeLights(values: Float32Array, index: number, document: NetworkDocument, model: ModelScale): void {
  lightsOf(document).forEach((light, k) => {
    values.set([...lightPlace(light, model), light.kind === 'near' ? 1 : 0, ...light.colour.map((channel) => channel * light.intensity)], index + k * LIGHT_ROW);
  });
}

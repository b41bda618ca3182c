import { getModelScale } from '../core/evaluate/map-demands';
import type { MeshFacts } from '../core/mesh/mesh-facts';
import type { ModelFacts } from './stage-state';

/** What the interface needs to know of the model shown. */
export function modelFacts(facts: MeshFacts): ModelFacts {
  const names = facts.attributes.map(({ name }) => name);
  return {
    scale: getModelScale(facts),
    parts: facts.partNames,
    attributes: names,
    sets: names.filter((name) => name.startsWith('uv ')),
  };
}

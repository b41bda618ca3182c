import { chosenOptions, describePorts, findNodeDefinition } from '../compile/catalogue';
import type { NetworkDocument } from '../graph/document';
import { arrivingKey, outputKey, unlimitedKey } from '../graph/result-key';
import type { ResultKey } from '../base/ids';
import { listPlaces, pathTo } from './places';
import type { NodePlace } from './places';

/** The key of a node's first output before the node's own limit; null where it has no limit. */
export function beforeLimit(place: NodePlace): ResultKey | null {
  if (!place.node.limited) return null;
  const [output] = describePorts(place.document, place.node)?.outputs ?? [];
  return output && output.kind !== 'surface' ? unlimitedKey(pathTo(place), output.id) : null;
}

/** Result keys of what a node's advice or its bench looks at beside its first output. */
export function watchedKeys(place: NodePlace): readonly ResultKey[] {
  const definition = findNodeDefinition(place.node);
  const path = pathTo(place);
  const named = definition
    ? definition
        .watches(chosenOptions(definition, place.node))
        .map((name) =>
          name.startsWith(':') ? outputKey(path, name.slice(1)) : arrivingKey(path, name),
        )
    : [];
  const unlimited = beforeLimit(place);
  return unlimited === null ? named : [...named, unlimited];
}

/** Result keys that advice on a whole document looks at beside the outputs. */
export const watchedIn = (document: NetworkDocument): readonly ResultKey[] =>
  listPlaces(document).flatMap(watchedKeys);

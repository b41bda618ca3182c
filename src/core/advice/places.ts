import { findGroupDefinition } from '../compile/catalogue';
import type { Network, NetworkDocument, NodeInstance } from '../graph/document';
import { pointer } from '../graph/pointer';

/** The place of a node: ids of the group nodes that lead to its board. */
export interface NodePlace {
  readonly document: NetworkDocument;
  readonly network: Network;
  readonly path: readonly string[];
  readonly node: NodeInstance;
}

/** The ids that lead to a node, its own last. */
export const pathTo = ({ path, node }: NodePlace): readonly string[] => [...path, node.id];

/**
 * Every node of a document, those inside groups once for each place where the group stands. A group
 * inside itself is not opened again.
 */
export function listPlaces(
  document: NetworkDocument,
): readonly (NodePlace & { readonly pointer: string })[] {
  const walk = (
    network: Network,
    path: readonly string[],
    at: readonly string[],
    open: readonly string[],
  ): (NodePlace & { pointer: string })[] =>
    network.nodes.flatMap((node, k) => {
      const here = { document, network, path, node, pointer: pointer([...at, 'nodes', k]) };
      const group = findGroupDefinition(document, node);
      return [
        here,
        ...(group && !open.includes(group.id)
          ? walk(
              group.network,
              [...path, node.id],
              ['groups', group.id, 'network'],
              [...open, group.id],
            )
          : []),
      ];
    });
  return walk(document.network, [], ['network'], []);
}

/** Whether a dial of the group that a node stands in drives one of its inputs. */
export const isDriven = (
  { document, network, node }: Pick<NodePlace, 'document' | 'network' | 'node'>,
  input: string,
): boolean =>
  Object.values(document.groups).some(
    (group) =>
      group.network === network &&
      group.dials.some(({ drives }) =>
        drives.some((drive) => drive.node === node.id && drive.input === input),
      ),
  );

import { findDefinition } from '../compile/catalogue';
import { emptyDocument } from '../graph/document';
import type { NetworkDocument, NodeInstance } from '../graph/document';
import type { ReleasedGroups } from './release-groups';

/** The id of the card in a document of `cardAlone`. */
export const ALONE = 'alone';

/** A node of the catalogue as it comes, in its present version. */
export const plainNode = (
  id: string,
  type: string,
  extra: Partial<NodeInstance> = {},
): NodeInstance => ({
  id,
  type,
  version: findDefinition(type)?.version ?? 1,
  at: [0, 0],
  values: {},
  options: {},
  ...extra,
});

/** A document in which the group's card stands alone, all its dials home, nothing wired. */
export function cardAlone({ root, definitions }: ReleasedGroups): NetworkDocument {
  const document = emptyDocument(definitions[root]?.name ?? '');
  return {
    ...document,
    groups: definitions,
    network: { ...document.network, nodes: [plainNode(ALONE, 'group', { group: root })] },
  };
}

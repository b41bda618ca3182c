import { own } from '../base/own';
import { canonicalJson } from '../graph/canonical';
import type { GroupDefinition, NetworkDocument, NodeInstance } from '../graph/document';
import { freshId } from './board';

type Groups = Readonly<Record<string, GroupDefinition>>;

/** The groups that the nodes of a group stand for. */
const insideOf = ({ network }: GroupDefinition): readonly string[] =>
  network.nodes.flatMap(({ group }) => group ?? []);

/**
 * The groups among those that come which the document has already, inside and out: others of the
 * same id are something else.
 */
function knownGroups(coming: Groups, there: Groups): ReadonlySet<string> {
  const known = new Map<string, boolean>();
  const isKnown = (id: string): boolean => {
    const before = known.get(id);
    if (before !== undefined) return before;
    // A group that contains itself is judged by its other parts; the check refuses it.
    known.set(id, true);
    const [group, other] = [own(coming, id), own(there, id)];
    const isSame =
      group !== undefined &&
      other !== undefined &&
      canonicalJson(group) === canonicalJson(other) &&
      insideOf(group).every(isKnown);
    known.set(id, isSame);
    return isSame;
  };
  return new Set(Object.keys(coming).filter(isKnown));
}

/**
 * Fits groups that come with pasted nodes into a document. What the document has stays what it is;
 * a group that comes with the id of another one gets an id of its own.
 * @returns the document's groups with those that came, and the nodes, standing for the right ones
 */
export function fitGroups(
  document: NetworkDocument,
  coming: Groups,
  nodes: readonly NodeInstance[],
): { readonly groups: Groups; readonly nodes: readonly NodeInstance[] } {
  const known = knownGroups(coming, document.groups);
  const taken = new Set([...Object.keys(document.groups), ...Object.keys(coming)]);
  const ids = new Map<string, string>();
  for (const id of Object.keys(coming)) {
    if (known.has(id) || own(document.groups, id) === undefined) continue;
    const fresh = freshId('g', taken);
    taken.add(fresh);
    ids.set(id, fresh);
  }
  const refer = (node: NodeInstance): NodeInstance => {
    const id = node.group === undefined ? undefined : ids.get(node.group);
    return id === undefined ? node : { ...node, group: id };
  };
  const groups: Record<string, GroupDefinition> = { ...document.groups };
  for (const [id, group] of Object.entries(coming)) {
    if (known.has(id)) continue;
    const fresh = ids.get(id) ?? id;
    const network = { ...group.network, nodes: group.network.nodes.map(refer) };
    groups[fresh] = { ...group, id: fresh, network };
  }
  return { groups, nodes: nodes.map(refer) };
}

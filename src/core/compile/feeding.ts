import { canonicalJson } from '../graph/canonical';
import { RESULT_MEMBERS } from '../graph/result-members';
import { INPUT_EDGE } from '../graph/document';
import type { GroupDefinition, Network, NetworkDocument, NodeInstance } from '../graph/document';
import { findNodeDefinition, findGroupDefinition } from './catalogue';
import { findNode } from './uniforms';

/** The network a node stands in, by the path that leads to it, and the group that is. */
function scopeOf(
  document: NetworkDocument,
  path: readonly string[],
): { readonly network: Network; readonly group: GroupDefinition | undefined } {
  const outer = path.length > 1 ? findNode(document, path.slice(0, -1)) : undefined;
  const group = outer && findGroupDefinition(document, outer);
  return { network: group?.network ?? document.network, group };
}

const factsOf = (node: NodeInstance): unknown =>
  Object.fromEntries((['id', ...RESULT_MEMBERS] as const).map((member) => [member, node[member]]));

/**
 * All that decides what arrives at an input, as text: the nodes that feed it with their values, out
 * through the groups they stand in. Equal text, equal arrivals on the same model; names, places and
 * whatever does not feed it are left out.
 */
export function feedingText(
  document: NetworkDocument,
  path: readonly string[],
  input: string,
): string {
  const found: unknown[] = [];
  let usesGroups = false,
    followsLights = false;
  const collect = (at: readonly string[], isWanted: (input: string) => boolean): void => {
    const { network, group } = scopeOf(document, at);
    const visited = new Set<string>();
    const wanted = network.strands.filter(({ to }) => to.node === at.at(-1) && isWanted(to.input));
    for (let strand = wanted.pop(); strand; strand = wanted.pop()) {
      const { bends: _bends, ...facts } = strand;
      found.push(facts);
      const from = network.nodes.find(({ id }) => id === strand?.from.node);
      if (!from || visited.has(from.id)) continue;
      visited.add(from.id);
      found.push(factsOf(from));
      usesGroups ||= from.group !== undefined;
      followsLights ||= findNodeDefinition(from)?.follows === 'lights';
      wanted.push(...network.strands.filter(({ to }) => to.node === from.id));
    }
    if (!group) return;
    // Dials and inputs of the group may reach in anywhere.
    found.push(
      group.dials,
      group.inputs,
      network.strands
        .filter(({ from }) => from.node === INPUT_EDGE)
        .map(({ from, to }) => ({ from, to })),
    );
    const outer = findNode(document, at.slice(0, -1));
    if (outer) found.push(factsOf(outer));
    collect(at.slice(0, -1), () => true);
  };
  collect(path, (name) => name === input);
  return canonicalJson([
    found,
    usesGroups ? document.groups : null,
    followsLights || usesGroups ? (document.lights ?? null) : null,
  ]);
}

import type { NodeId } from '../base/ids';
import { own } from '../base/own';
import { OUTPUT_EDGE } from '../graph/document';
import type { Network, NetworkDocument, NodeInstance } from '../graph/document';
import { describePorts, findGroupDefinition, getNodeTitle } from './catalogue';

type Titles = ReadonlyMap<NodeId, string>;

const known = new WeakMap<Network, { groups: NetworkDocument['groups']; titles: Titles }>();

/** What a node leads to on its board, or what leads to it; empty where it stands alone. */
function standing(document: NetworkDocument, network: Network, node: NodeInstance): string {
  const other = (id: NodeId): NodeInstance | undefined =>
    network.nodes.find((each) => each.id === id);
  const out = network.strands.find(({ from }) => from.node === node.id);
  if (out?.to.node === OUTPUT_EDGE) return 'into the selvedge';
  const next = out && other(out.to.node);
  if (next) {
    const port = describePorts(document, next)?.inputs.find(({ id }) => id === out.to.input);
    return `into ${port?.title ?? out.to.input} of ${getNodeTitle(document, next)}`;
  }
  const source = network.strands.find(({ to }) => to.node === node.id);
  const before = source && other(source.from.node);
  return before ? `after ${getNodeTitle(document, before)}` : '';
}

function tellApart(document: NetworkDocument, network: Network): Titles {
  const alike = new Map<string, NodeInstance[]>();
  for (const node of network.nodes) {
    const title = getNodeTitle(document, node);
    alike.set(title, [...(alike.get(title) ?? []), node]);
  }
  const titles = new Map<NodeId, string>();
  for (const [title, nodes] of alike) {
    const places = nodes.map((node) =>
      nodes.length === 1 ? '' : standing(document, network, node),
    );
    nodes.forEach(({ id }, k) => {
      const place = places[k] ?? '';
      const isAlone = places.filter((each) => each === place).length === 1;
      const number = isAlone
        ? ''
        : String(places.slice(0, k + 1).filter((p) => p === place).length);
      const more = [place, number].filter((part) => part !== '').join(', ');
      titles.set(id, more === '' ? title : `${title} (${more})`);
    });
  }
  return titles;
}

/**
 * What a node is called in a list: its title, and where another of its board is called the same,
 * what it leads to, so that the two can be told apart.
 */
export function titleInList(
  document: NetworkDocument,
  network: Network,
  node: NodeInstance,
): string {
  let found = known.get(network);
  if (found?.groups !== document.groups) {
    found = { groups: document.groups, titles: tellApart(document, network) };
    known.set(network, found);
  }
  return found.titles.get(node.id) ?? getNodeTitle(document, node);
}

/** What each node of a path is called in a list, from the outside in; or else its id. */
export function titlesAlong(document: NetworkDocument, path: readonly NodeId[]): readonly string[] {
  let network: Network | undefined = document.network;
  return path.map((id) => {
    const board = network;
    const node = board?.nodes.find((each) => each.id === id);
    network = node && own(document.groups, findGroupDefinition(document, node)?.id ?? '')?.network;
    return board && node ? titleInList(document, board, node) : id;
  });
}

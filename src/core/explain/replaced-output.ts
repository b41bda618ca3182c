import { laneName } from '../base/lane-name';
import type { LaneName, ResultKey } from '../base/ids';
import { describePorts, findDefinition } from '../compile/catalogue';
import { boardAt, getNetwork, withNetwork } from '../edit/board';
import type { NetworkDocument, NodeInstance } from '../graph/document';
import { outputKey, parseResultKey } from '../graph/result-key';

/** The attribute that stands in for an output; no model brings one of that name. */
const STAND_IN = '~stand-in';
/** The lane by which its values are given. */
export const STAND_IN_LANE: LaneName = laneName({
  of: 'attribute',
  name: STAND_IN,
  component: 'x',
});

/** A document in which everything that an output feeds on its board reads the stand-in instead. */
export function replaceOutput(document: NetworkDocument, key: ResultKey): NetworkDocument {
  const { path, port } = parseResultKey(key);
  const board = boardAt(document, path.slice(0, -1));
  const network = getNetwork(document, board);
  const node = path.at(-1);
  const stand: NodeInstance = {
    id: STAND_IN,
    type: 'model.attribute',
    version: findDefinition('model.attribute')?.version ?? 1,
    at: [0, 0],
    values: {},
    options: { name: STAND_IN },
  };
  return withNetwork(document, board, {
    ...network,
    nodes: [...network.nodes, stand],
    strands: network.strands.map(({ conversion, ...strand }) =>
      strand.from.node === node && strand.from.output === port
        ? { ...strand, from: { node: STAND_IN, output: 'first' } }
        : { ...strand, ...(conversion === undefined ? {} : { conversion }) },
    ),
  });
}

/**
 * What lies between two outputs of a board: the outputs of every node through which the first
 * reaches the second, in the order in which they act, the second last. Empty where it does not.
 */
export function chainBetween(
  document: NetworkDocument,
  from: ResultKey,
  to: ResultKey,
): readonly ResultKey[] {
  const [start, end] = [parseResultKey(from), parseResultKey(to)];
  const above = start.path.slice(0, -1);
  if (above.join('/') !== end.path.slice(0, -1).join('/')) return [];
  const { nodes, strands } = getNetwork(document, boardAt(document, above));
  const byId = new Map(nodes.map((node) => [node.id, node]));
  const reaches = new Map<string, boolean>();
  const order: string[] = [];
  const visit = (id: string): boolean => {
    const known = reaches.get(id);
    if (known !== undefined) return known;
    reaches.set(id, false);
    const feeds = strands.filter((strand) => strand.to.node === id);
    // All of them are visited, so that the order is that of acting.
    const reached = feeds.map(({ from: { node, output } }) =>
      node === start.path.at(-1) ? output === start.port : visit(node),
    );
    const isOn = reached.includes(true);
    reaches.set(id, isOn);
    if (isOn) order.push(id);
    return isOn;
  };
  const last = end.path.at(-1) ?? '';
  if (!visit(last)) return [];
  return order.flatMap((id) => {
    const node = byId.get(id);
    const outputs = (node && describePorts(document, node)?.outputs) ?? [];
    const keys = outputs
      .filter(({ kind }) => kind !== 'surface')
      .map((output) => outputKey([...above, id], output.id));
    return id === last ? keys.filter((key) => key === to) : keys;
  });
}

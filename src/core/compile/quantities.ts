import { own } from '../base/own';
import { INPUT_EDGE, OUTPUT_EDGE } from '../graph/document';
import type { GroupDefinition, Network, NetworkDocument, Strand } from '../graph/document';
import { differsInKind, quantityConversion } from '../nodes/quantities';
import type { Quantity } from '../nodes/quantities';
import { findNodeDefinition, findGroupDefinition, inputPort } from './catalogue';

/**
 * What a strand does between two quantities: nothing to say, a conversion with its formula, or a
 * pair that does not go together.
 */
export type QuantityNote = {
  readonly from: Quantity;
  readonly to: Quantity;
  readonly formula: string | null;
};

/** What leaves a node's output stands for; through a group, what its inner output stands for. */
function outgoing(
  document: NetworkDocument,
  network: Network,
  group: GroupDefinition | null,
  from: Strand['from'],
  depth: number,
): Quantity | undefined {
  if (from.node === INPUT_EDGE || depth > 40) return undefined;
  const node = network.nodes.find((each) => each.id === from.node);
  const inner = node && findGroupDefinition(document, node);
  if (inner) {
    const end = inner.network.strands.find(
      (strand) => strand.to.node === OUTPUT_EDGE && strand.to.input === from.output,
    );
    return end && outgoing(document, inner.network, inner, end.from, depth + 1);
  }
  return node && own(findNodeDefinition(node)?.outputs, from.output)?.quantity;
}

/** What a node's output stands for, as far as that is known; through groups, too. */
export const outputQuantity = (
  document: NetworkDocument,
  network: Network,
  from: Strand['from'],
): Quantity | undefined => outgoing(document, network, null, from, 0);

/** What to say of a strand whose ends stand for different things; null where there is nothing. */
export function quantityNote(
  document: NetworkDocument,
  network: Network,
  group: GroupDefinition | null,
  strand: Strand,
): QuantityNote | null {
  if (strand.plain) return null;
  const target = network.nodes.find((each) => each.id === strand.to.node);
  const to = target && inputPort(target, strand.to.input)?.quantity;
  const from = to && outgoing(document, network, group, strand.from, 0);
  return from && to && differsInKind(from, to)
    ? { from, to, formula: quantityConversion(from, to)?.formula ?? null }
    : null;
}

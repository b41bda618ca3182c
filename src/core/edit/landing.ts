import { describePorts, idleInputs, mayConnect } from '../compile/catalogue';
import type { InputView } from '../compile/catalogue';
import type { Network, NetworkDocument, NodeInstance } from '../graph/document';
import type { PortKind } from '../nodes/define';
import type { Quantity } from '../nodes/quantities';

/**
 * Kinds of inputs by how well a strand of a kind goes there, the best first; what is not listed
 * comes last. A number says how much as well as what, so that a colour takes it as a grey, but a
 * place hardly ever means three times the same number.
 */
const BEST: Readonly<Partial<Record<PortKind, readonly (readonly PortKind[])[]>>> = {
  scalar: [['scalar', 'flex', 'scalars', 'colour']],
  colour: [['colour'], ['flex'], ['vector'], ['scalar', 'scalars']],
  vector: [['vector'], ['flex'], ['colour'], ['scalar', 'scalars']],
};

/** What a strand brings, as far as that is known. */
export interface Arriving {
  readonly kind: PortKind;
  readonly quantity?: Quantity | undefined;
}

/** How well an input suits a strand: less is better; null where the strand may not enter. */
function rankOf(arriving: Arriving, input: InputView): number | null {
  if (!mayConnect(arriving.kind, input.kind)) return null;
  const { kind, quantity } = arriving;
  const wanted = input.port?.quantity;
  if (quantity !== undefined && quantity === wanted) return 0;
  // A number that means nothing in particular is a mask first, where a node asks for one.
  if (kind === 'scalar' && wanted === 'mask') return 1;
  const tier = BEST[kind]?.findIndex((kinds) => kinds.includes(input.kind)) ?? 0;
  return 2 + (tier < 0 ? 9 : tier);
}

/**
 * The input of a node in which a strand lands that is let go over the node as a whole: a mask where
 * the node asks for a mask, a colour at a colour; at a free input before one that is wired, and at
 * one that counts before one that its choices leave idle.
 */
export function landingInput(
  document: NetworkDocument,
  { strands }: Pick<Network, 'strands'>,
  node: NodeInstance,
  arriving: Arriving,
): string | null {
  const inputs = describePorts(document, node)?.inputs ?? [];
  const idle = idleInputs(node);
  const isWired = (id: string): boolean =>
    strands.some(({ to }) => to.node === node.id && to.input === id);
  const ranked = inputs.flatMap((input) => {
    const rank = rankOf(arriving, input);
    const isTaken = input.kind !== 'scalars' && isWired(input.id);
    const behind = (idle.includes(input.id) ? 1000 : 0) + (isTaken ? 100 : 0);
    return rank === null ? [] : [{ id: input.id, rank: rank + behind }];
  });
  const best = ranked.reduce<(typeof ranked)[number] | null>(
    (found, each) => (found && found.rank <= each.rank ? found : each),
    null,
  );
  return best?.id ?? null;
}

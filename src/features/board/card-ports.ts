import { idleInputs } from '@/core/compile/catalogue';
import type { PortsView } from '@/core/compile/catalogue';
import type { NodeInstance } from '@/core/graph/document';
import { TYPED_ONLY } from '@/core/nodes/define';
import type { PortKind } from '@/core/nodes/define';
import type { CardView } from '@/state/use-card';

/** A port as a card draws it. */
export interface CardPort {
  readonly id: string;
  readonly title: string;
  readonly kind: PortKind;
  /** Strands lead to it, but this release does not know it: it is drawn so that they are seen. */
  readonly isUnknown: boolean;
}
export interface CardPorts {
  readonly inputs: readonly CardPort[];
  /** Inputs of sections, which stand aside until the card is chosen or a strand is on its way. */
  readonly aside: readonly CardPort[];
  readonly outputs: readonly CardPort[];
}

const unknown = (ids: readonly string[], known: ReadonlySet<string>): CardPort[] =>
  [...new Set(ids)]
    .filter((id) => !known.has(id))
    .map((id) => ({ id, title: `${id} (not known)`, kind: 'scalar', isUnknown: true }));

/**
 * The ports a card draws: those of its node that are of use now, and those that strands name
 * without the node having them, as in a document of another release.
 */
export function cardPorts(
  { arriving, leaving }: Pick<CardView, 'arriving' | 'leaving'>,
  node: NodeInstance,
  ports: PortsView | null,
): CardPorts {
  const idle = new Set(idleInputs(node));
  const wired = new Set(arriving.map(({ to }) => to.input));
  const usable = (ports?.inputs ?? []).filter(
    (port) =>
      (!idle.has(port.id) && !TYPED_ONLY.has(port.kind) && !port.isHidden) || wired.has(port.id),
  );
  const plain = (port: { id: string; title: string; kind: PortKind }): CardPort => ({
    id: port.id,
    title: port.title,
    kind: port.kind,
    isUnknown: false,
  });
  const inFront = usable.filter((port) => port.port?.section === undefined || wired.has(port.id));
  const outputs = ports?.outputs ?? [];
  return {
    inputs: [...inFront.map(plain), ...unknown([...wired], new Set(usable.map(({ id }) => id)))],
    aside: usable.filter((port) => !inFront.includes(port)).map(plain),
    outputs: [
      ...outputs.map(plain),
      ...unknown(
        leaving.map(({ from }) => from.output),
        new Set(outputs.map(({ id }) => id)),
      ),
    ],
  };
}

'use client';
import type { PortsView } from '@/core/compile/catalogue';
import type { NodeInstance } from '@/core/graph/document';
import { ShownValue } from '@/ui/ShownValue';
import { useCardDials } from '@/state/use-card';
import { cardLines } from './card-geometry';

/** The few values in use of a card's node, and the dials that drive some. */
export function CardValues({
  node,
  ports,
}: {
  readonly node: NodeInstance;
  readonly ports: PortsView | null;
}) {
  const { choice, typed } = cardLines(node, ports);
  return (
    <div className="px-1.5 pb-1 text-[10.5px] leading-[14px] text-soft">
      {choice === null ? null : (
        <div className="truncate" title={choice}>
          {choice}
        </div>
      )}
      {typed.map(({ id, title, kind, value }) => (
        <div key={id} className="flex justify-between gap-1">
          <span className="truncate" title={title}>
            {title}
          </span>
          <ShownValue value={value} isColour={kind === 'colour'} />
        </div>
      ))}
      <CardDrives nodeId={node.id} />
    </div>
  );
}

function CardDrives({ nodeId }: { readonly nodeId: string }) {
  return useCardDials(nodeId).map((dial, k) => (
    <div
      key={`${dial}${String(k)}`}
      className="mt-0.5 truncate rounded-[2px] border border-seam px-1 text-ink"
      title={`Driven by ${dial}`}
    >
      ⊶ {dial}
    </div>
  ));
}

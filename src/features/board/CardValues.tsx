'use client';
import type { PortsView } from '@/core/compile/catalogue';
import { isImage, isRamp, isTriple } from '@/core/graph/document';
import type { InputValue, NodeInstance } from '@/core/graph/document';
import { toHex } from '@/core/surface/colour-science';
import { shortNumber } from '@/ui/NumberField';
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
      title={`Driven by the dial ${dial}`}
    >
      ⊶ {dial}
    </div>
  ));
}

function ShownValue({
  value,
  isColour,
}: {
  readonly value: InputValue;
  readonly isColour: boolean;
}) {
  if (typeof value === 'number') return <span className="figures">{shortNumber(value)}</span>;
  if (isTriple(value) && !isColour)
    return <span className="figures">{value.map((x) => shortNumber(x)).join(' ')}</span>;
  if (isTriple(value))
    return (
      <span
        className="inline-block h-[11px] w-5 border border-line"
        style={{ background: toHex(value) }}
      />
    );
  if (isImage(value)) return <span className="max-w-[70px] truncate">{value.name}</span>;
  return isRamp(value) ? <span>{value.stops.length} stops</span> : null;
}

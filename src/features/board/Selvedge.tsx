'use client';
import { Handle, Position, useStore, useUpdateNodeInternals } from '@xyflow/react';
import type { Node, NodeProps } from '@xyflow/react';
import { useEffect } from 'react';
import { INPUT_EDGE, SURFACE_OUTPUT } from '@/core/graph/document';
import type { PortKind } from '@/core/nodes/define';
import { PortMark } from './port-mark';
import { useOpenGroup } from '@/state/use-stores';

export type SelvedgeNode = Node<{ side: 'in' | 'out' }, 'selvedge'>;
export const SELVEDGE_WIDTH = 92;

interface SelvedgePort {
  readonly id: string;
  readonly name: string;
  readonly kind: PortKind;
  readonly isDial: boolean;
}
const MATERIAL_END: SelvedgePort = {
  id: SURFACE_OUTPUT,
  name: 'Surface',
  kind: 'surface',
  isDial: false,
};

/** The ports of an edge of the open board, and what they are. */
function useSelvedgePorts(side: 'in' | 'out'): {
  readonly ports: readonly SelvedgePort[];
  readonly caption: string;
} {
  const group = useOpenGroup();
  if (!group)
    return side === 'in'
      ? { ports: [], caption: 'comes in' }
      : { ports: [MATERIAL_END], caption: 'the material' };
  if (side === 'out')
    return {
      ports: group.outputs.map((port) => ({ ...port, isDial: false })),
      caption: 'goes out',
    };
  return {
    ports: [
      ...group.inputs.map((port) => ({ ...port, isDial: false })),
      ...group.dials.map((dial) => ({ ...dial, isDial: true })),
    ],
    caption: 'comes in',
  };
}

/** A fixed edge of the board, drawn at the same size whatever the zoom. */
export function Selvedge({ id, data: { side } }: NodeProps<SelvedgeNode>) {
  const zoom = useStore((state) => state.transform[2]);
  const update = useUpdateNodeInternals();
  const { ports, caption } = useSelvedgePorts(side);
  useEffect(() => {
    update(id);
  }, [zoom, id, update, ports.length]);
  return (
    <div
      style={{
        transform: `scale(${String(1 / zoom)})`,
        transformOrigin: 'top left',
        width: SELVEDGE_WIDTH,
      }}
      data-testid={`selvedge-${side}`}
      className={
        'rounded-[2px] border border-seam bg-panel py-1 ' +
        (side === 'in' ? 'border-l-0' : 'border-r-0')
      }
    >
      <div className="px-2 pb-0.5 text-[10px] text-soft">{caption}</div>
      {ports.length === 0 && <div className="px-2 pb-1 text-[11px] text-soft">nothing</div>}
      {ports.map((port) => (
        <div key={port.id} className="relative px-2 py-[3px] text-[12px]">
          <span
            className={`block leading-[14px] wrap-anywhere ${side === 'out' ? 'text-right' : ''}`}
            title={port.name}
          >
            {port.isDial ? '⊶ ' : ''}
            {port.name}
          </span>
          <Handle
            id={port.id}
            type={id === INPUT_EDGE ? 'source' : 'target'}
            position={side === 'in' ? Position.Right : Position.Left}
            className="port"
            role="img"
            data-kind={port.kind}
            style={{ top: 12 }}
            aria-label={`Selvedge, ${port.name}`}
          >
            <PortMark kind={port.kind} />
          </Handle>
        </div>
      ))}
    </div>
  );
}

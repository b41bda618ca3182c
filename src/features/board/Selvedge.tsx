'use client';
import { Handle, Position, useStore, useUpdateNodeInternals } from '@xyflow/react';
import type { Node, NodeProps } from '@xyflow/react';
import { useEffect } from 'react';
import { Plus } from 'lucide-react';
import { NEW_PORT } from '@/core/edit/group-ports';
import { INPUT_EDGE, SURFACE_OUTPUT, isFlowing } from '@/core/graph/document';
import type { GroupDefinition, GroupPort } from '@/core/graph/document';
import type { PortKind } from '@/core/nodes/define';
import { AddPort, PortSettings } from './PortSettings';
import { PortMark } from './port-mark';
import { useShallow } from 'zustand/react/shallow';
import { own } from '@/core/base/own';
import { unwiredHere } from '@/core/edit/group-papers';
import { useDocument, useOpenGroup, useView } from '@/state/use-stores';

export type SelvedgeNode = Node<{ side: 'in' | 'out' }, 'selvedge'>;
export const SELVEDGE_WIDTH = 92;

interface SelvedgePort {
  readonly id: string;
  readonly name: string;
  readonly kind: PortKind;
  readonly isDial: boolean;
  /** The port of the group that it is; null for a dial, and for the end of a material. */
  readonly port: GroupPort | null;
}
const MATERIAL_END: SelvedgePort = {
  id: SURFACE_OUTPUT,
  name: 'Surface',
  kind: 'surface',
  isDial: false,
  port: null,
};

const portOf = (port: GroupPort): SelvedgePort => ({
  id: port.id,
  name: port.name,
  kind: port.many ? 'scalars' : port.kind,
  isDial: false,
  port,
});

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
      ports: group.outputs.map(portOf),
      caption: 'goes out',
    };
  return {
    ports: [
      ...group.inputs.map(portOf),
      ...group.dials
        .filter(isFlowing)
        .map(({ id, name, kind }) => ({ id, name, kind, isDial: true, port: null })),
    ],
    caption: 'comes in',
  };
}

/** A fixed edge of the board, drawn at the same size whatever the zoom. */
export function Selvedge({ id, data: { side } }: NodeProps<SelvedgeNode>) {
  const zoom = useStore((state) => state.transform[2]);
  const update = useUpdateNodeInternals();
  const { ports, caption } = useSelvedgePorts(side);
  const group = useOpenGroup();
  const path = useView((state) => state.path);
  const unwired = useDocument(useShallow(({ document }) => unwiredHere(document, path)));
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
          <PortName side={side} port={port} group={group} />
          {side === 'in' && own(unwired, port.id) !== undefined ? (
            <div className="text-[10px] leading-[12px] text-soft" title={own(unwired, port.id)}>
              {own(unwired, port.id)}
            </div>
          ) : null}
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
      {group ? <NewPort id={id} side={side} groupId={group.id} /> : null}
    </div>
  );
}

/** Where a strand may be dropped, or a name typed, for a new port. */
function NewPort({
  id,
  side,
  groupId,
}: {
  readonly id: string;
  readonly side: 'in' | 'out';
  readonly groupId: string;
}) {
  return (
    <div className="relative border-t border-line px-2">
      <AddPort groupId={groupId} side={SIDES[side]} />
      <Handle
        id={NEW_PORT}
        type={id === INPUT_EDGE ? 'source' : 'target'}
        position={side === 'in' ? Position.Right : Position.Left}
        className="port"
        role="img"
        data-kind="new"
        style={{ top: 12 }}
        title={`Drag a strand here for a new ${side === 'in' ? 'input' : 'output'}`}
        aria-label={`Selvedge, new ${side === 'in' ? 'input' : 'output'}`}
      >
        <Plus size={11} aria-hidden />
      </Handle>
    </div>
  );
}

const SIDES = { in: 'inputs', out: 'outputs' } as const;

interface NameProps {
  readonly side: 'in' | 'out';
  readonly port: SelvedgePort;
  readonly group: GroupDefinition | null;
}

function PortName({ side, port: { name, isDial, port }, group }: NameProps) {
  if (port && group) return <PortSettings groupId={group.id} side={SIDES[side]} port={port} />;
  return (
    <span
      className={`block leading-[14px] wrap-anywhere ${side === 'out' ? 'text-right' : ''}`}
      title={name}
    >
      {isDial ? '⊶ ' : ''}
      {name}
    </span>
  );
}

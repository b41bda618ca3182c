'use client';
import { Handle, Position } from '@xyflow/react';
import { memo } from 'react';
import type { PlacedFinding } from '@/state/findings-state';
import { ASIDE_LEFT, asideTop, portTop } from './card-geometry';
import { PortMark } from './port-mark';
import type { CardPort, CardPorts } from './card-ports';

interface Props {
  readonly title: string;
  readonly ports: CardPorts;
  readonly findings: readonly PlacedFinding[];
  readonly isFolded: boolean;
}

/** All ports of a card; those with findings say so. */
export const CardHandles = memo(function CardHandles({ title, ports, findings, isFolded }: Props) {
  const faults = (end: 'input' | 'output', id: string): readonly PlacedFinding[] =>
    findings.filter(({ place }) => place[end] === id);
  const { inputs, aside, outputs } = ports;
  return (
    <>
      {inputs.map((port, k) => (
        <CardHandle
          key={port.id}
          port={port}
          end="input"
          title={title}
          faults={faults('input', port.id)}
          style={{ top: portTop(inputs.length, k, isFolded) }}
        />
      ))}
      {aside.map((port, k) => (
        <CardHandle
          key={port.id}
          port={port}
          end="input"
          title={title}
          faults={faults('input', port.id)}
          isAside
          style={{ left: ASIDE_LEFT, top: asideTop(k) }}
        />
      ))}
      {outputs.map((port, k) => (
        <CardHandle
          key={port.id}
          port={port}
          end="output"
          title={title}
          faults={faults('output', port.id)}
          style={{ top: portTop(outputs.length, k, isFolded) }}
        />
      ))}
    </>
  );
});

interface HandleProps {
  readonly port: CardPort;
  readonly end: 'input' | 'output';
  readonly title: string;
  readonly faults: readonly PlacedFinding[];
  readonly isAside?: boolean;
  readonly style: React.CSSProperties;
}

function CardHandle({ port, end, title, faults, isAside = false, style }: HandleProps) {
  const words = faults.map(({ message }) => message).join(' ');
  const isFaulty = port.isUnknown || faults.length > 0;
  return (
    <Handle
      id={port.id}
      type={end === 'input' ? 'target' : 'source'}
      position={end === 'input' ? Position.Left : Position.Right}
      className={`port ${isAside ? 'aside' : ''} ${isFaulty ? 'faulty' : ''}`}
      role="img"
      data-kind={port.kind}
      style={style}
      title={words || undefined}
      aria-label={`${title}, ${end} ${port.title}`}
    >
      <PortMark kind={port.kind} />
      <span className="port-name">{port.title}</span>
    </Handle>
  );
}

/** A bare board of the drawing library: what the board of the application is measured against. */
import '@xyflow/react/dist/style.css';
import { Handle, Position, ReactFlow } from '@xyflow/react';
import type { Node, NodeProps } from '@xyflow/react';
import { memo } from 'react';
import { createRoot } from 'react-dom/client';

const count = Number(new URLSearchParams(location.search).get('n') ?? 300);
type CardNode = Node<{ readonly k: number }, 'card'>;

function paint(canvas: HTMLCanvasElement | null, k: number): void {
  const context = canvas?.getContext('2d');
  if (!context) return;
  context.fillStyle = `hsl(${String((k * 7) % 360)} 50% 50%)`;
  context.fillRect(20, 20, 60, 60);
}
const Card = memo(function Card({ data: { k } }: NodeProps<CardNode>) {
  return (
    <div style={{ width: 132, height: 190, background: '#444', color: '#eee', fontSize: 12 }}>
      <canvas
        width={96}
        height={96}
        style={{ width: 124, height: 124, margin: 4 }}
        ref={(canvas) => {
          paint(canvas, k);
        }}
      />
      <div>Node {k}</div>
      <div style={{ fontSize: 10 }}>0.00 1.00</div>
      {[0, 1, 2, 3].map((at) => (
        <Handle
          key={at}
          id={`i${String(at)}`}
          type="target"
          position={Position.Left}
          style={{ top: 12 + 30 * at }}
        />
      ))}
      {[0, 1].map((at) => (
        <Handle
          key={at}
          id={`o${String(at)}`}
          type="source"
          position={Position.Right}
          style={{ top: 12 + 60 * at }}
        />
      ))}
    </div>
  );
});

const nodes = Array.from({ length: count }, (_, k): CardNode => ({
  id: String(k),
  type: 'card',
  position: { x: (k % 30) * 190, y: Math.floor(k / 30) * 230 },
  data: { k },
}));
const edges = Array.from({ length: Math.floor(count * 1.3) }, (_, k) => ({
  id: `e${String(k)}`,
  source: String(k % count),
  sourceHandle: `o${String(k % 2)}`,
  target: String((k + 1 + (k % 3)) % count),
  targetHandle: `i${String(k % 4)}`,
}));
const TYPES = { card: Card };

createRoot(document.getElementById('root') as HTMLElement).render(
  <div style={{ width: 803, height: 512, background: '#3a3a3a' }}>
    <ReactFlow
      defaultNodes={nodes}
      defaultEdges={edges}
      nodeTypes={TYPES}
      minZoom={0.05}
      fitView
      panOnDrag={[1, 2]}
      selectionOnDrag
    />
  </div>,
);

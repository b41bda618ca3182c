'use client';
import { findNodeDefinition, findGroupDefinition } from '@/core/compile/catalogue';
import type { Network, NetworkDocument, NodeInstance } from '@/core/graph/document';
import { getNetwork } from '@/core/edit/board';
import { leaveTo } from '@/state/editing';
import { boardAt } from '@/state/board-path';
import { useDocument, useView } from '@/state/use-stores';

const NODE = { width: 132, height: 150 };

/**
 * The board outside the open group, small: where it stands and what it is tied to. Pressing it goes
 * back out.
 */
export function OutsideStrip() {
  const document = useDocument((state) => state.document);
  const path = useView((state) => state.path);
  const outer = boardAt(document, path.slice(0, -1));
  const network = getNetwork(document, outer);
  const inside = path.at(-1);
  return (
    <button
      type="button"
      aria-label="Go back to the board outside"
      className="block h-full w-full bg-ground"
      onClick={() => {
        leaveTo(path.length - 1);
      }}
      data-testid="outside"
    >
      <NetworkSketch document={document} network={network} marked={inside} />
    </button>
  );
}

/** The box around all nodes, as an SVG view box. */
function viewBoxOf({ nodes }: Network): string {
  const xs = nodes.map((node) => node.at[0]),
    ys = nodes.map((node) => node.at[1]);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  return [
    left - 20,
    top - 20,
    Math.max(...xs) - left + NODE.width + 40,
    Math.max(...ys) - top + NODE.height + 40,
  ].join(' ');
}

/** A network as boxes and lines, one box marked. */
function NetworkSketch({
  document,
  network,
  marked,
}: {
  readonly document: NetworkDocument;
  readonly network: Network;
  readonly marked: string | undefined;
}) {
  const place = new Map(network.nodes.map((node) => [node.id, node.at]));
  return (
    <svg
      viewBox={viewBoxOf(network)}
      className="h-full w-full"
      preserveAspectRatio="xMidYMid meet"
      aria-hidden
    >
      {network.strands.map((strand) => (
        <path
          key={strand.id}
          d={strandPath(place.get(strand.from.node), place.get(strand.to.node))}
          stroke="var(--seam)"
          strokeWidth={5}
          fill="none"
        />
      ))}
      {network.nodes.map((node) => (
        <g key={node.id}>
          <rect
            x={node.at[0]}
            y={node.at[1]}
            width={NODE.width}
            height={NODE.height}
            fill="var(--panel)"
            stroke={node.id === marked ? 'var(--weld)' : 'var(--line)'}
            strokeWidth={node.id === marked ? 10 : 3}
          />
          <text
            x={node.at[0] + NODE.width / 2}
            y={node.at[1] + NODE.height / 2}
            textAnchor="middle"
            fill="var(--ink)"
            fontSize={26}
          >
            {shortTitle(titleOf(document, node))}
          </text>
        </g>
      ))}
    </svg>
  );
}

const titleOf = (document: NetworkDocument, node: NodeInstance): string =>
  node.name ??
  findGroupDefinition(document, node)?.name ??
  findNodeDefinition(node)?.title ??
  node.type;
const shortTitle = (title: string): string =>
  title.length > 11 ? `${title.slice(0, 10)}…` : title;

type Place = NodeInstance['at'] | undefined;
/** A curve from the right of one box to the left of another; nothing where an end is the edge. */
function strandPath(from: Place, to: Place): string {
  if (!from || !to) return '';
  const [x0, y0, x1, y1] = [from[0] + NODE.width, from[1] + 60, to[0], to[1] + 60];
  const point = (x: number, y: number): string => `${String(x)} ${String(y)}`;
  return `M${point(x0, y0)}C${point(x0 + 50, y0)} ${point(x1 - 50, y1)} ${point(x1, y1)}`;
}

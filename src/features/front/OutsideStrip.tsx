'use client';
import { definitionOf, groupOf } from '@/core/compile/catalogue';
import { networkOf } from '@/core/edit/board';
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
  const network = networkOf(document, outer);
  const inside = path.at(-1);
  const xs = network.nodes.map((node) => node.at[0]),
    ys = network.nodes.map((node) => node.at[1]);
  const box = [
    Math.min(...xs) - 20,
    Math.min(...ys) - 20,
    Math.max(...xs) - Math.min(...xs) + NODE.width + 40,
    Math.max(...ys) - Math.min(...ys) + NODE.height + 40,
  ];
  const place = new Map(network.nodes.map((node) => [node.id, node.at]));
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
      <svg
        viewBox={box.join(' ')}
        className="h-full w-full"
        preserveAspectRatio="xMidYMid meet"
        aria-hidden
      >
        {network.strands.map((strand) => {
          const from = place.get(strand.from.node),
            to = place.get(strand.to.node);
          return from && to ? (
            <path
              key={strand.id}
              d={
                `M${String(from[0] + NODE.width)} ` +
                `${String(from[1] + 60)}C${String(from[0] + NODE.width + 50)} ` +
                `${String(from[1] + 60)} ${String(to[0] - 50)} ${String(to[1] + 60)} ` +
                `${String(to[0])} ${String(to[1] + 60)}`
              }
              stroke="var(--seam)"
              strokeWidth={5}
              fill="none"
            />
          ) : null;
        })}
        {network.nodes.map((node) => (
          <g key={node.id}>
            <rect
              x={node.at[0]}
              y={node.at[1]}
              width={NODE.width}
              height={NODE.height}
              fill="var(--panel)"
              stroke={node.id === inside ? 'var(--weld)' : 'var(--line)'}
              strokeWidth={node.id === inside ? 10 : 3}
            />
            <text
              x={node.at[0] + NODE.width / 2}
              y={node.at[1] + NODE.height / 2}
              textAnchor="middle"
              fill="var(--ink)"
              fontSize={26}
            >
              {shortTitle(
                node.name ??
                  groupOf(document, node)?.name ??
                  definitionOf(node)?.title ??
                  node.type,
              )}
            </text>
          </g>
        ))}
      </svg>
    </button>
  );
}

const shortTitle = (title: string): string =>
  title.length > 11 ? `${title.slice(0, 10)}…` : title;

'use client';
import type { ReactNode } from 'react';
import type { ResultKey } from '@/core/base/ids';
import { describePorts, getNodeTitle } from '@/core/compile/catalogue';
import type { PortsView } from '@/core/compile/catalogue';
import { outputKey } from '@/core/graph/result-key';
import type { Network, NetworkDocument, NodeInstance } from '@/core/graph/document';
import { getNetwork } from '@/core/edit/board';
import { leaveTo } from '@/state/editing';
import { boardAt } from '@/core/edit/board';
import { useDocument, useResults, useView } from '@/state/use-stores';
import { PictureCanvas } from '@/ui/PictureCanvas';

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
    <div className="flex h-full bg-ground">
      <button
        type="button"
        aria-label="Go back to the board outside"
        title="Go back to the board outside"
        className="block h-full min-w-0 flex-1 hover:bg-panel"
        onClick={() => {
          leaveTo(path.length - 1);
        }}
        data-testid="outside"
      >
        <NetworkSketch document={document} network={network} marked={inside} />
      </button>
      {inside === undefined ? null : (
        <OutsideTies document={document} network={network} node={inside} path={path.slice(0, -1)} />
      )}
    </div>
  );
}

interface TiesProps {
  readonly document: NetworkDocument;
  readonly network: Network;
  /** The group's node, and the path to its board. */
  readonly node: string;
  readonly path: readonly string[];
}

/** What the open group is tied to outside, in words: what comes in, and where it goes. */
function OutsideTies({ document, network, node, path }: TiesProps) {
  const nodes = new Map(network.nodes.map((each) => [each.id, each]));
  const group = nodes.get(node);
  const ports = group && describePorts(document, group);
  const end = (id: string): string => {
    const found = nodes.get(id);
    return found ? getNodeTitle(document, found) : 'the selvedge';
  };
  const named = (list: PortsView['inputs'] | PortsView['outputs'] | undefined, id: string) =>
    list?.find((each) => each.id === id)?.title ?? id;
  const [arriving, leaving] = [
    network.strands.filter(({ to }) => to.node === node),
    network.strands.filter(({ from }) => from.node === node),
  ];
  return (
    <div
      className={
        'scaled grid w-[46%] min-w-[250px] shrink-0 grid-cols-2 gap-3 overflow-y-auto border-l ' +
        'border-line p-1.5 text-[11px]'
      }
    >
      <Ties title="Comes in">
        {arriving.map(({ id, from, to }) => (
          <Tie
            key={id}
            pictured={outputKey([...path, from.node], from.output)}
            ends={[end(from.node), named(ports?.inputs, to.input)]}
          />
        ))}
      </Ties>
      <Ties title="Goes out">
        {leaving.map(({ id, from, to }) => (
          <Tie key={id} ends={[named(ports?.outputs, from.output), end(to.node)]} />
        ))}
      </Ties>
    </div>
  );
}

function Ties({ title, children }: { readonly title: string; readonly children: ReactNode[] }) {
  return (
    <section aria-label={`${title}, outside`}>
      <h2 className="text-soft">{title}</h2>
      {children.length === 0 ? <p>nothing</p> : <ul>{children}</ul>}
    </section>
  );
}

interface TieProps {
  readonly ends: readonly [string, string];
  /** The result whose picture stands beside it, where there is one. */
  readonly pictured?: ResultKey;
}

function Tie({ ends: [from, to], pictured }: TieProps) {
  const tap = useResults((state) => (pictured ? state.taps.get(pictured) : undefined));
  return (
    <li className="flex items-center gap-1.5 py-[1px]">
      {tap ? (
        <PictureCanvas
          picture={tap.picture}
          label={`${from}, as it was seen last`}
          className="h-[22px] w-[22px] bg-stage"
        />
      ) : null}
      <span className="min-w-0 truncate" title={`${from} → ${to}`}>
        {from} → {to}
      </span>
    </li>
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
            fill={node.id === marked ? 'var(--weld)' : 'var(--raised)'}
            stroke={node.id === marked ? 'var(--weld)' : 'var(--line)'}
            strokeWidth={node.id === marked ? 10 : 3}
          />
          <title>{getNodeTitle(document, node)}</title>
        </g>
      ))}
    </svg>
  );
}

type Place = NodeInstance['at'] | undefined;
/** A curve from the right of one box to the left of another; nothing where an end is the edge. */
function strandPath(from: Place, to: Place): string {
  if (!from || !to) return '';
  const [x0, y0, x1, y1] = [from[0] + NODE.width, from[1] + 60, to[0], to[1] + 60];
  const point = (x: number, y: number): string => `${String(x)} ${String(y)}`;
  return `M${point(x0, y0)}C${point(x0 + 50, y0)} ${point(x1 - 50, y1)} ${point(x1, y1)}`;
}

'use client';
import type { Data, Shape } from 'plotly.js-cartesian-dist-min';
import { useMemo, useState } from 'react';
import type { ResultKey } from '@/core/base/ids';
import { describePorts, getNodeTitle } from '@/core/compile/catalogue';
import { findNode } from '@/core/compile/uniforms';
import { boardAt, getNetwork } from '@/core/edit/board';
import type { FlatStretch, Transfer } from '@/core/evaluate/transfer';
import type { NetworkDocument, NodeInstance } from '@/core/graph/document';
import { goTo, keyOnBoard } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import { useTransfer } from '@/state/figures';
import { useDocument, useView } from '@/state/use-stores';
import { Choose } from '@/ui/Choose';
import { Plot, plotColours } from '@/ui/Plot';
import { ProblemNote } from '@/ui/ProblemNote';

interface Props {
  readonly node: NodeInstance;
  readonly to: ResultKey;
  readonly evaluation: Evaluation;
}

/** So many outputs that lie upstream are offered, the nearest first. */
const MOST_OFFERED = 40;

/** Outputs that a node depends on, by their result keys, the nearest first. */
function upstream(
  document: NetworkDocument,
  path: readonly string[],
  id: string,
): readonly { readonly value: ResultKey; readonly title: string }[] {
  const board = boardAt(document, path);
  const { strands } = getNetwork(document, board);
  const found = new Map<ResultKey, string>();
  let nodes: readonly string[] = [id];
  const seen = new Set<string>(nodes);
  while (nodes.length > 0 && found.size < MOST_OFFERED) {
    const feeding = strands.filter(({ to }) => nodes.includes(to.node));
    for (const { from } of feeding) {
      const source = findNode(document, [...path, from.node]);
      const port =
        source && describePorts(document, source)?.outputs.find(({ id: o }) => o === from.output);
      if (!source || !port || port.kind === 'surface') continue;
      found.set(
        keyOnBoard(path, from.node, from.output),
        `${getNodeTitle(document, source)}, ${port.title}`,
      );
    }
    nodes = [...new Set(feeding.map(({ from }) => from.node))].filter((each) => !seen.has(each));
    for (const each of nodes) seen.add(each);
  }
  return [...found].map(([value, title]) => ({ value, title }));
}

/** What comes out of a node for what arrives from an output above it. */
export function TransferPlot({ node, to, evaluation }: Props) {
  const path = useView((state) => state.path);
  const document = useDocument((state) => state.document);
  const [chosen, setChosen] = useState<ResultKey | null>(null);
  const sources = useMemo(() => upstream(document, path, node.id), [document, path, node.id]);
  const from = sources.find(({ value }) => value === chosen) ?? sources[0];
  const { found, problem } = useTransfer(evaluation, from?.value ?? null, to);
  if (!from) return null;
  return (
    <section aria-label="What comes out for what arrives" data-testid="transfer">
      <div className="flex items-center gap-2">
        <h4 className="font-semibold">y = f(x), x from</h4>
        <Choose label="What x is" value={from.value} items={sources} onChange={setChosen} />
      </div>
      {problem ? <ProblemNote problem={problem} /> : null}
      {found ? <TransferCurve found={found} title={from.title} /> : null}
    </section>
  );
}

const LINES = ['madder', 'weld', 'woad'] as const;

/** The band over the surface and the curve in its middle, channel by channel. */
function curves({ x, channels }: Transfer): Partial<Data>[] {
  const colours = plotColours();
  return channels.flatMap(({ middle, low, high }, k) => {
    const color = channels.length === 1 ? colours.ink : colours[LINES[k % 3] ?? 'ink'];
    const edge = { x: [...x], mode: 'lines' as const, hoverinfo: 'skip' as const };
    const line = { color, width: 0 };
    return [
      { ...edge, y: [...low], line },
      { ...edge, y: [...high], line, fill: 'tonexty' as const, opacity: 0.25 },
      { x: [...x], y: [...middle], mode: 'lines' as const, line: { color, width: 2 } },
    ];
  });
}

/** How often what arrives lies where, under the curve. */
function arrivals({ x, arriving }: Transfer): Partial<Data> {
  const widest = Math.max(1e-9, ...arriving);
  return {
    type: 'bar',
    x: arriving.map((_, k) => ((x[k] ?? 0) + (x[k + 1] ?? 0)) / 2),
    y: arriving.map((share) => share / widest),
    yaxis: 'y2',
    marker: { color: plotColours().soft },
    hoverinfo: 'skip',
  };
}

function shaded({ from, to }: FlatStretch): Partial<Shape> {
  return {
    type: 'rect',
    xref: 'x',
    yref: 'paper',
    x0: from,
    x1: to,
    y0: 0,
    y1: 1,
    line: { width: 0 },
    fillcolor: plotColours().madder,
    opacity: 0.16,
  };
}

function TransferCurve({ found, title }: { readonly found: Transfer; readonly title: string }) {
  const plot = useMemo(
    () => ({
      data: [...curves(found), arrivals(found)],
      layout: {
        bargap: 0,
        xaxis: { title: { text: title }, anchor: 'y2' as const },
        yaxis: { domain: [0.24, 1] },
        yaxis2: { domain: [0, 0.2], visible: false, fixedrange: true },
        shapes: found.flats.map(shaded),
      },
    }),
    [found, title],
  );
  return (
    <>
      <Plot {...plot} height={210} label={`What comes out for values of ${title}`} />
      <FlatList flats={found.flats} />
    </>
  );
}

/** Where range is lost, and by which node. */
function FlatList({ flats }: Pick<Transfer, 'flats'>) {
  if (flats.length === 0)
    return <p className="text-soft">Every difference of what arrives shows in what comes out.</p>;
  return (
    <ul>
      {flats.map(({ from, to, share, node }) => (
        <li key={from}>
          <span className="figures">
            {from.toFixed(3)} – {to.toFixed(3)}
          </span>
          : nothing after it can undo this plateau
          {node ? (
            <>
              {', made by '}
              <button
                type="button"
                className="min-h-[24px] underline"
                onClick={() => {
                  goTo(node.path.slice(0, -1), { node: node.path.at(-1) ?? '' });
                }}
              >
                {node.title}
              </button>
            </>
          ) : null}
          ; <span className="figures">{(share * 100).toFixed(1)} %</span> of the surface
        </li>
      ))}
    </ul>
  );
}

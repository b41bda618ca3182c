'use client';
import { useMemo, useState } from 'react';
import { describeNode, getNodeTitle } from '@/core/compile/catalogue';
import type { OutputView } from '@/core/compile/catalogue';
import type { ChannelFigures, OutputFigures } from '@/core/evaluate/figures';
import type { NodeInstance } from '@/core/graph/document';
import { keyOnBoard } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import { useFigures } from '@/state/figures';
import { stores } from '@/state/stores';
import { useCard } from '@/state/use-card';
import { useView } from '@/state/use-stores';
import { ProblemNote } from '@/ui/ProblemNote';
import { Sheet } from '@/ui/Sheet';
import { Equation } from './Equation';
import { FigureTable } from './FigureTable';
import type { ChosenChannel } from './FigureTable';
import { HistogramPlot } from './HistogramPlot';
import { TransferPlot } from './TransferPlot';

/** The figures of the chosen node: all outputs and channels, and how they come about. */
export function FiguresSheet({ evaluation }: { readonly evaluation: Evaluation }) {
  const isOpen = useView((state) => state.figures);
  const only = useView(({ selection }) => (selection.length === 1 ? selection[0] : undefined));
  return (
    <Sheet
      docks
      open={isOpen}
      width={520}
      onClose={() => {
        stores.view.setState({ figures: false });
      }}
      title="Figures"
      description="Every output and channel of the chosen node over the whole surface."
    >
      {isOpen ? <Chosen key={only ?? ''} id={only ?? ''} evaluation={evaluation} /> : null}
    </Sheet>
  );
}

function Chosen({ id, evaluation }: { readonly id: string; readonly evaluation: Evaluation }) {
  const { node, group } = useCard(id);
  if (!node) return <p className="text-soft">Choose one node on the board.</p>;
  const outputs = describeNode(node, group)?.outputs ?? [];
  return <NodeFigures node={node} outputs={outputs} evaluation={evaluation} />;
}

interface NodeProps {
  readonly node: NodeInstance;
  readonly outputs: readonly OutputView[];
  readonly evaluation: Evaluation;
}

function NodeFigures({ node, outputs, evaluation }: NodeProps) {
  const path = useView((state) => state.path);
  const keys = useMemo(
    () => outputs.map((output) => keyOnBoard(path, node.id, output.id)),
    [outputs, path, node.id],
  );
  const { found, problem } = useFigures(evaluation, keys.join('\n'));
  const [at, setAt] = useState<ChosenChannel>({ output: 0, channel: 0 });
  const figures = found?.filter(({ key }) => keys.includes(key)) ?? [];
  const titles = new Map(keys.map((key, k) => [key, outputs[k]?.title ?? '']));
  const chosen: OutputFigures | undefined = figures[at.output];
  const channel: ChannelFigures | undefined = chosen?.channels[at.channel];
  return (
    <div className="flex flex-col gap-3 text-[12px]" data-testid="figures">
      <h3 className="text-[14px] font-semibold">
        {getNodeTitle(stores.document.getState().document, node)}
      </h3>
      {problem ? <ProblemNote problem={problem} /> : null}
      <FigureTable figures={figures} titles={titles} at={at} onChoose={setAt} />
      {channel && chosen ? (
        <HistogramPlot
          key={`${chosen.key} ${channel.channel}`}
          figures={channel}
          title={`${titles.get(chosen.key) ?? ''} ${channel.channel}`.trim()}
        />
      ) : null}
      {chosen && chosen.kind !== 'surface' ? (
        <TransferPlot key={chosen.key} node={node} to={chosen.key} evaluation={evaluation} />
      ) : null}
      {chosen ? <Equation output={chosen.key} evaluation={evaluation} /> : null}
    </div>
  );
}

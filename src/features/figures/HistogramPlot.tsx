'use client';
import { useMemo, useState } from 'react';
import type { ChannelFigures } from '@/core/evaluate/figures';
import { Plot, plotColours } from '@/ui/Plot';
import { Tick } from '@/ui/Tick';

interface Props {
  readonly figures: ChannelFigures;
  readonly title: string;
}

/** The middles of the bins. */
const middles = ({ low, high, bins }: ChannelFigures): number[] =>
  bins.map((_, k) => low + ((k + 0.5) * (high - low)) / bins.length);

/** How the values of a channel are spread: as they are, and as they were when it was opened. */
export function HistogramPlot({ figures, title }: Props) {
  const [isLog, setLog] = useState(false);
  const [before] = useState(figures);
  const plot = useMemo(() => {
    const { soft, weld } = plotColours();
    return {
      data: [
        {
          type: 'scatter' as const,
          mode: 'lines' as const,
          line: { shape: 'hvh' as const, color: soft, width: 1, dash: 'dot' as const },
          x: middles(before),
          y: before.bins.map((share) => share * 100),
          name: 'before',
        },
        {
          type: 'bar' as const,
          marker: { color: weld },
          x: middles(figures),
          y: figures.bins.map((share) => share * 100),
          name: 'now',
        },
      ],
      layout: {
        bargap: 0,
        xaxis: { title: { text: title } },
        yaxis: {
          title: { text: '% of surface' },
          type: isLog ? ('log' as const) : ('linear' as const),
        },
      },
    };
  }, [before, figures, isLog, title]);
  return (
    <section aria-label={`Histogram of ${title}`}>
      <div className="flex items-center justify-between">
        <h4 className="font-semibold">How its values are spread</h4>
        <Tick title="Logarithmic" isOn={isLog} onChange={setLog} />
      </div>
      <Plot
        {...plot}
        height={150}
        label={`Histogram of ${title} from ${String(figures.low)} to ${String(figures.high)}`}
      />
      <p className="text-[11px] text-soft">Bars: now. Dotted: when this was opened.</p>
    </section>
  );
}

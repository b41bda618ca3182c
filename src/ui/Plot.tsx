'use client';
import { useEffect, useRef } from 'react';
import type { Data, Layout } from 'plotly.js-cartesian-dist-min';

interface Props {
  readonly data: readonly Partial<Data>[];
  readonly layout: Partial<Layout>;
  /** What it shows, in words. */
  readonly label: string;
  readonly height: number;
}

const colour = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(name).trim();

/** The colours of charts, of the theme that is shown. */
export const plotColours = () => ({
  ink: colour('--ink'),
  soft: colour('--ink-soft'),
  line: colour('--seam'),
  weld: colour('--weld'),
  madder: colour('--madder'),
  woad: colour('--woad'),
});

function dressed(layout: Partial<Layout>, height: number): Partial<Layout> {
  const { soft, line } = plotColours();
  const axis = { gridcolor: line, zerolinecolor: line, linecolor: line, fixedrange: true };
  return {
    height,
    margin: { l: 44, r: 8, t: 6, b: 34 },
    paper_bgcolor: 'transparent',
    plot_bgcolor: 'transparent',
    font: { family: 'Spline Sans Mono Variable, monospace', size: 10, color: soft },
    showlegend: false,
    ...layout,
    xaxis: { ...axis, ...layout.xaxis },
    yaxis: { ...axis, ...layout.yaxis },
  };
}

/** A chart; drawn anew where it changes, and as wide as its place. */
export function Plot({ data, layout, label, height }: Props) {
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = place.current;
    if (!element) return;
    let isOld = false;
    void import('plotly.js-cartesian-dist-min').then(({ react }) => {
      if (isOld) return;
      const config = { displayModeBar: false, responsive: true };
      return react(element, [...data] as Data[], dressed(layout, height), config);
    });
    return () => {
      isOld = true;
    };
  }, [data, layout, height]);
  useEffect(() => {
    const element = place.current;
    return () => {
      if (element)
        void import('plotly.js-cartesian-dist-min').then(({ purge }) => {
          purge(element);
        });
    };
  }, []);
  return <div ref={place} role="img" aria-label={label} style={{ height }} data-testid="plot" />;
}

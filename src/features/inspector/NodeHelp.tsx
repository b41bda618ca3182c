'use client';
import { useMemo } from 'react';
import type { Counted } from '@/core/compile/node-uses';
import type { Transfer } from '@/core/evaluate/transfer';
import type { NodeDefinition } from '@/core/nodes/define';
import type { Evaluation } from '@/state/evaluation';
import { useNodeHelp } from '@/state/node-help';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { Plot, plotColours } from '@/ui/Plot';
import { Sheet } from '@/ui/Sheet';

interface Props {
  readonly definition: NodeDefinition;
  readonly evaluation: Evaluation;
  readonly onClose: () => void;
}

/** What a node does, its worked example, where it is used, and which similar ones there are. */
export function NodeHelp({ definition, evaluation, onClose }: Props) {
  const { title, help, formula } = definition;
  const { uses, similar, picture, transfer } = useNodeHelp(definition, evaluation);
  return (
    <Sheet open onClose={onClose} title={title} description={help}>
      <div className="flex flex-col gap-3 text-[12px]" data-testid="node-help">
        <p className="figures text-[11px] text-soft">{formula}</p>
        <section aria-label="Worked example" className="flex items-start gap-3">
          <PictureCanvas
            picture={picture ?? undefined}
            label={`${title} by itself on this model`}
            className="h-[140px] w-[140px] bg-stage"
          />
          <div className="min-w-0 flex-1">
            {transfer ? <TinyPlot found={transfer} /> : null}
            <p className="text-soft">
              By itself on this model, fed with something that varies
              {transfer ? '; the curve is what comes out for what arrives.' : '.'}
            </p>
          </div>
        </section>
        <section aria-label="Typical use">
          <h3 className="font-semibold">Typical use</h3>
          {uses.networks.length === 0 ? (
            <p>No starter and no ready chain uses it.</p>
          ) : (
            <>
              <p>
                In {uses.networks.length} finished networks: {uses.networks.slice(0, 4).join(', ')}.
              </p>
              <Often words="Mostly fed by" counted={uses.fedBy} />
              <Often words="Mostly feeds" counted={uses.feeds} />
            </>
          )}
        </section>
        {similar.length === 0 ? null : (
          <section aria-label="Similar nodes">
            <h3 className="font-semibold">Which of similar nodes to take</h3>
            <ul className="flex flex-col gap-1">
              {[definition, ...similar].map((each) => (
                <li key={each.id}>
                  <b>{each.title}</b>: {firstSentence(each.help)}
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </Sheet>
  );
}

const firstSentence = (text: string): string => /^.*?\.(?=\s|$)/s.exec(text)?.[0] ?? text;

interface OftenProps {
  readonly words: string;
  readonly counted: readonly Counted[];
}

function Often({ words, counted }: OftenProps) {
  if (counted.length === 0) return null;
  const told = counted.map(({ title, count }) => `${title} (${String(count)})`);
  return (
    <p>
      {words}: {told.join(', ')}.
    </p>
  );
}

/** The first channel of what comes out for what arrives. */
function TinyPlot({ found: { x, channels } }: { readonly found: Transfer }) {
  const plot = useMemo(
    () => ({
      data: [
        {
          x: [...x],
          y: [...(channels[0]?.middle ?? [])],
          mode: 'lines' as const,
          line: { color: plotColours().ink, width: 2 },
        },
      ],
      layout: { margin: { l: 34, r: 6, t: 4, b: 22 } },
    }),
    [x, channels],
  );
  return <Plot {...plot} height={104} label="What comes out for what arrives" />;
}

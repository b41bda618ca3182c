'use client';
import { X } from 'lucide-react';
import { useState } from 'react';
import { Strongest } from './Strongest';
import { toast } from 'sonner';
import { explanationTable, setFirst } from '@/core/explain/explain-points';
import type { ExplainedOutput } from '@/core/explain/explain-points';
import type { ExplainedPoints } from '@/core/evaluate/point-explainer';
import type { BranchShares } from '@/core/explain/branch-shares';
import {
  explainLess,
  useBranchShares,
  useExplanation,
  useWordsOnStrands,
} from '@/state/explaining';
import type { Evaluation } from '@/state/evaluation';
import { stores } from '@/state/stores';
import { useView } from '@/state/use-stores';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';
import { ProblemNote } from '@/ui/ProblemNote';
import { Sheet } from '@/ui/Sheet';

/** What makes the points that were asked about: every value, from the surface to the sources. */
export function ExplainSheet({ evaluation }: { readonly evaluation: Evaluation }) {
  const count = useView((state) => state.explained.length);
  return count === 0 ? null : <Explained evaluation={evaluation} />;
}

function Explained({ evaluation }: { readonly evaluation: Evaluation }) {
  const { found: points, problem } = useExplanation(evaluation);
  const shares = useBranchShares(evaluation);
  useWordsOnStrands(points, shares);
  return (
    <Sheet
      docks
      open
      width={520}
      onClose={() => {
        explainLess();
      }}
      title="What makes this point"
      description="Every value there, from the surface back to the sources. Alt-click adds a point."
    >
      {problem ? <ProblemNote problem={problem} className="mb-2" /> : null}
      <Strongest evaluation={evaluation} />
      {points ? (
        <PointTable points={points} shares={shares} />
      ) : (
        <p>There is no model at that point.</p>
      )}
    </Sheet>
  );
}

const CELL = 'figures border-b border-line px-1.5 py-0.5 text-right whitespace-nowrap select-text';
const HEAD = 'border-b border-line px-1.5 py-0.5 text-left font-normal';

interface TableProps {
  readonly points: ExplainedPoints;
  /** null until they are measured. */
  readonly shares: BranchShares | null;
}

function PointTable({ points, shares }: TableProps) {
  return (
    <>
      <Button
        className="mb-2"
        onClick={() => {
          void navigator.clipboard.writeText(explanationTable(points)).then(
            () => toast('Copied as a table, in full precision.'),
            () => toast('This page may not write to the clipboard.'),
          );
        }}
      >
        Copy as a table
      </Button>
      <table className="w-full border-collapse text-[12px]" data-testid="explained">
        <thead>
          <tr>
            <th className={HEAD} colSpan={2} scope="col">
              Value
            </th>
            {points.points.map(({ place, part, ray }, k) => (
              <th key={k} className={`${HEAD} text-right`} scope="col">
                <span title={`${place.map((x) => x.toFixed(4)).join(', ')} m`}>
                  {part || `Point ${String(k + 1)}`}
                </span>{' '}
                <IconButton
                  name={`Leave out point ${String(k + 1)}`}
                  onClick={() => {
                    explainLess(ray);
                  }}
                >
                  <X size={11} />
                </IconButton>
              </th>
            ))}
          </tr>
        </thead>
        {points.outputs.map((output) => (
          <OutputRows
            key={output.key}
            output={output}
            shares={shares?.outputs.get(output.key) ?? null}
          />
        ))}
      </table>
    </>
  );
}

/** As much of a number as a glance takes; all of it is in the title and in the copied table. */
const shown = (value: number): string =>
  Number.isFinite(value) ? String(Number(value.toPrecision(6))) : 'no number';

/** A channel as words: `baseColour.r` is “base colour r”. */
const worded = (channel: string): string =>
  channel.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`).replace('.', ' ');

/** A value, copied in full precision by a click: it is pasted into any field. */
function CopyValue({ value }: { readonly value: number }) {
  return (
    <button
      type="button"
      className="min-h-[24px] hover:underline"
      title={`${String(value)}: a click copies it`}
      onClick={() => {
        void navigator.clipboard.writeText(String(value)).then(
          () => toast(`Copied ${String(value)}`),
          () => toast('This page may not write to the clipboard.'),
        );
      }}
    >
      {shown(value)}
    </button>
  );
}

/** Chooses the node on its board. */
function showNode(path: ExplainedOutput['path']): void {
  const node = path.at(-1);
  if (node !== undefined) stores.view.setState({ path: path.slice(0, -1), selection: [node] });
}

interface OutputProps {
  readonly output: ExplainedOutput;
  /** What it contributes to the surface at each point, 0–1. */
  readonly shares: readonly number[] | null;
}

/** The share of an output in the surface at each point, as numbers and bars. */
function ShareBars({ shares }: Pick<OutputProps, 'shares'>) {
  if (!shares) return null;
  return (
    <span className="flex gap-2" title="What it contributes to the surface at each point">
      {shares.map((share, point) => (
        <span key={point} className="flex items-center gap-1">
          <span className="inline-block h-[4px] w-[40px] bg-line">
            <span
              className="block h-full bg-weld"
              style={{ width: `${String(Math.min(1, share) * 100)}%` }}
            />
          </span>
          <span className="figures text-[10px] text-soft">{Math.round(share * 100)} %</span>
        </span>
      ))}
    </span>
  );
}

function OutputRows({ output, shares }: OutputProps) {
  const { names, path, channels, values, set } = output;
  const [isWhole, setWhole] = useState(false);
  const rows = setFirst(channels, set);
  // A surface has some thirty channels: those that somebody set are told, or else its colour.
  const first = rows.filter(({ k, isSet }) => isSet || (set.length === 0 && k < 3));
  const told = isWhole ? rows : first;
  const silent = rows.length - first.length;
  return (
    <tbody>
      {told.map(({ channel, k }, row) => (
        <tr key={channel}>
          {row === 0 ? (
            <th
              scope="rowgroup"
              rowSpan={told.length}
              className={`${HEAD} align-top`}
              style={{ paddingLeft: 4 + (path.length - 1) * 10 }}
            >
              <button
                type="button"
                className="min-h-[24px] text-left hover:underline"
                title={`Show ${names.join(' / ')} on its board`}
                onClick={() => {
                  showNode(path);
                }}
              >
                {names.at(-1)} <span className="text-soft">{output.output}</span>
              </button>
              <ShareBars shares={shares} />
              {silent > 0 ? (
                <button
                  type="button"
                  className="block min-h-[24px] text-soft underline decoration-dotted"
                  aria-expanded={isWhole}
                  onClick={() => {
                    setWhole(!isWhole);
                  }}
                >
                  {isWhole ? 'Only what was set' : `${String(silent)} that nobody set`}
                </button>
              ) : null}
            </th>
          ) : null}
          <td className="border-b border-line px-1 text-soft">{worded(channel)}</td>
          {values.map((value, point) => (
            <td key={point} className={CELL}>
              <CopyValue value={value[k] ?? NaN} />
            </td>
          ))}
        </tr>
      ))}
    </tbody>
  );
}

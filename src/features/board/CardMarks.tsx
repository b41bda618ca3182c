'use client';
import type { Advice } from '@/core/nodes/advice';
import type { PlacedFinding } from '@/state/findings-state';

interface Props {
  readonly advice: readonly Advice[];
  readonly findings: readonly PlacedFinding[];
  /** Whether the node is out of action. */
  readonly isOff: boolean;
  /** How much of what it does is kept; 1 where nothing was said. */
  readonly amount: number;
}
const CHIP = 'figures rounded-[2px] bg-line/85 px-1 text-[10px]';

/** Small marks on a card's picture: what is wrong at it first, then what its values say. */
export function CardMarks({ advice, findings: all, isOff, amount }: Props) {
  // Notes are in the list of findings: no card is wrong by them.
  const findings = all.filter(({ severity }) => severity !== 'note');
  const shown = advice.filter(({ mark }) => mark !== '');
  if (shown.length === 0 && findings.length === 0 && !isOff && amount === 1) return null;
  const errors = findings.filter(({ severity }) => severity === 'error');
  const words = findings.map(({ message }) => message).join('\n');
  return (
    <span className="absolute top-0.5 left-0.5 flex gap-0.5">
      {isOff ? (
        <span
          className={`${CHIP} text-ink`}
          title="Off: it passes on what comes in; a source counts as not there"
        >
          off
        </span>
      ) : null}
      {amount === 1 || isOff ? null : (
        <span className={`${CHIP} text-ink`} title="Its overall amount">
          {Math.round(amount * 100)} %
        </span>
      )}
      {findings.length > 0 ? (
        <span
          role="img"
          title={words}
          aria-label={words}
          data-testid="card-findings"
          className={
            errors.length > 0
              ? 'figures rounded-[2px] bg-madder px-1 text-[10px] font-semibold text-weld-ink'
              : `${CHIP} text-madder`
          }
        >
          {errors.length > 0 ? `✕ ${String(findings.length)}` : `! ${String(findings.length)}`}
        </span>
      ) : null}
      {shown.map((each) => (
        <span
          key={each.code}
          title={each.message}
          className={`${CHIP} ${each.tone === 'fact' ? 'text-ink' : 'text-madder'}`}
        >
          {each.mark}
        </span>
      ))}
    </span>
  );
}

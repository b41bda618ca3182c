'use client';
import { useState } from 'react';

interface Props {
  readonly value: number;
  readonly label: string;
  readonly onCommit: (value: number) => void;
  readonly low?: number;
  readonly high?: number;
  readonly className?: string;
  readonly step?: number;
}

/** At most seven digits that count, as single precision has. */
export const shortNumber = (value: number): string =>
  Number.isFinite(value) ? String(Number(value.toPrecision(6))) : String(value);

/**
 * A typed number: Enter or leaving commits, Escape gives up, arrows step. Nonsense is not taken.
 */
export function NumberField({
  value,
  label,
  onCommit,
  low = -Infinity,
  high = Infinity,
  className = '',
  step = 0.01,
}: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = (): void => {
    if (draft === null) return;
    const typed = Number(draft.replace(',', '.'));
    if (draft.trim() !== '' && Number.isFinite(typed))
      onCommit(Math.min(high, Math.max(low, typed)));
    setDraft(null);
  };
  return (
    <input
      aria-label={label}
      inputMode="decimal"
      spellCheck={false}
      value={draft ?? shortNumber(value)}
      className={
        'figures w-[68px] rounded-[2px] border border-line bg-ground px-1 py-0.5 ' +
        `min-h-[24px] text-right text-[12px] ${className}`
      }
      onFocus={(event) => {
        event.currentTarget.select();
      }}
      onChange={(event) => {
        setDraft(event.target.value);
      }}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        else if (event.key === 'Escape') setDraft(null);
        else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
          event.preventDefault();
          const fine = event.shiftKey ? 0.1 : 1;
          onCommit(
            Math.min(high, Math.max(low, value + (event.key === 'ArrowUp' ? step : -step) * fine)),
          );
        }
        event.stopPropagation();
      }}
    />
  );
}

'use client';
import { useRef, useState } from 'react';
import type { KeyboardEvent, PointerEvent } from 'react';
import { toast } from 'sonner';
import { readTypedNumber } from '@/core/nodes/formula/typed-number';
import { followPointer } from './follow-pointer';
import { roundTo, speedOf, stepFor, within } from './slide';

interface Props {
  readonly value: number;
  readonly label: string;
  readonly onCommit: (value: number) => void;
  /** Takes the steps of a drag across the field; where it is absent, the field is only typed in. */
  readonly onDrag?: (value: number) => void;
  readonly onDone?: () => void;
  readonly low?: number;
  readonly high?: number;
  readonly className?: string;
  readonly step?: number;
  /** Whether only whole numbers are taken. */
  readonly isWhole?: boolean;
}

/** At most seven digits that count, as single precision has. */
export const shortNumber = (value: number): string =>
  Number.isFinite(value) ? String(Number(value.toPrecision(6))) : String(value);

/** Pixels the pointer may move before a click is a drag. */
const SLACK = 3;

/** Drags a number by the width of its field: a step for each pixel. */
function startDrag(press: PointerEvent<HTMLInputElement>, props: Props): void {
  const { value: before, low = -Infinity, high = Infinity, onDrag, onDone } = props;
  const field = press.currentTarget;
  if (!onDrag || press.button !== 0 || document.activeElement === field) return;
  press.preventDefault();
  const step = props.step ?? 0.01;
  let [travelled, exact, given] = [0, before, before];
  followPointer(press.nativeEvent, {
    onMove: (right, _, keys) => {
      travelled += Math.abs(right);
      exact = within(exact + right * step * (keys.ctrlKey ? 10 : speedOf(keys)), low, high);
      if (travelled < SLACK) return;
      const finest = stepFor({ step }, { shiftKey: keys.shiftKey, ctrlKey: false });
      const kept = within(roundTo(exact, finest), low, high);
      if (kept === given) return;
      given = kept;
      onDrag(kept);
    },
    onEnd: (isGivenUp) => {
      if (travelled < SLACK) field.focus();
      else if (isGivenUp && given !== before) onDrag(before);
      onDone?.();
    },
  });
}

/** The number a text stands for within the limits of the field; says why where it is another. */
function taken(text: string, { value, label, low, high, isWhole }: Props): number | null {
  const typed = readTypedNumber(text, value);
  const stays = `It stays ${shortNumber(value)}.`;
  if ('reason' in typed) {
    if (text.trim() !== '')
      toast(`“${text.trim().slice(0, 40)}” is no number for ${label}: ${typed.reason}. ${stays}`);
    return null;
  }
  const rounded = isWhole ? Math.round(typed.value) : typed.value;
  if (isWhole && rounded !== typed.value)
    toast(`${label} takes whole numbers: ${shortNumber(typed.value)} became ${String(rounded)}.`);
  const kept = within(rounded, low ?? -Infinity, high ?? Infinity);
  if (kept !== rounded) {
    const limit = kept < rounded ? 'most' : 'least';
    toast(`${label}: ${shortNumber(rounded)} became ${shortNumber(kept)}, the ${limit} it takes.`);
  }
  return kept;
}

const HELP =
  'Type a number or a calculation: 3*0.2, 1/3, 25 %; +10%, *2 or /3 work on the number there.';

/**
 * A typed number or calculation: Enter or leaving commits, Escape gives up, arrows step. What is no
 * number is not taken, and said. Where it may be dragged, Shift makes that finer, Ctrl coarser.
 */
export function NumberField(props: Props) {
  const { value, label, onCommit, onDrag, className = '' } = props;
  const [draft, setDraft] = useState<string | null>(null);
  const isGivenUp = useRef(false);
  const leave = (): void => {
    if (draft === null) return;
    const next = isGivenUp.current ? null : taken(draft, props);
    isGivenUp.current = false;
    if (next !== null) onCommit(next);
    setDraft(null);
  };
  return (
    <input
      aria-label={label}
      title={`${label}. ${HELP}${onDrag ? ' Drag across it to change it.' : ''}`}
      inputMode="decimal"
      spellCheck={false}
      value={draft ?? shortNumber(value)}
      className={
        'figures w-[68px] rounded-[2px] border border-line bg-ground px-1 py-0.5 ' +
        `min-h-[24px] text-right text-[12px] ${className} ` +
        (onDrag ? 'cursor-ew-resize touch-none focus:cursor-text' : '')
      }
      onPointerDown={(event) => {
        startDrag(event, props);
      }}
      onFocus={(event) => {
        event.currentTarget.select();
      }}
      onChange={(event) => {
        setDraft(event.target.value);
      }}
      onBlur={leave}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Escape') {
          isGivenUp.current = draft !== null;
          event.currentTarget.blur();
        } else if (event.key === 'Enter') event.currentTarget.blur();
        else if (stepWithKeys(event, props)) setDraft(null);
      }}
    />
  );
}

function stepWithKeys(event: KeyboardEvent, props: Props): boolean {
  const { value, low = -Infinity, high = Infinity, step = 0.01, onCommit } = props;
  if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return false;
  event.preventDefault();
  const by = stepFor({ step }, event) * (event.key === 'ArrowUp' ? 1 : -1);
  onCommit(within(Number((value + by).toPrecision(12)), low, high));
  return true;
}

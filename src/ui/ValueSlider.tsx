'use client';
import { useRef } from 'react';
import type { KeyboardEvent, PointerEvent } from 'react';
import { followPointer } from './follow-pointer';
import { settle, slideByKey, speedOf, stepFor, within } from './slide';

interface Props {
  readonly value: number;
  readonly low: number;
  readonly high: number;
  readonly step: number;
  readonly label: string;
  /** A value worth finding again, and what it is: drags stop there for a moment. */
  readonly mark?: { readonly at: number; readonly name: string } | undefined;
  readonly onChange: (value: number) => void;
  readonly onDone?: () => void;
}

const THUMB =
  'absolute grid h-[24px] w-[24px] -translate-x-1/2 place-items-center before:block before:h-4 ' +
  'before:w-[7px] before:rounded-[1px] before:border before:border-line before:bg-ink ' +
  "before:content-['']";

/** How near to its mark a drag stops there, as a share of the range. */
const NEAR = 0.015;

/** Slides from a press: at once to where the bar was pressed, then with the pointer. */
function startSlide(
  press: PointerEvent<HTMLElement>,
  thumb: HTMLElement,
  { low, high, step, mark, value: before, onChange, onDone }: Props,
): void {
  const { left, width } = press.currentTarget.getBoundingClientRect();
  const isOnThumb = press.target instanceof Node && thumb.contains(press.target);
  let exact = isOnThumb
    ? within(before, low, high)
    : low + within((press.clientX - left) / width, 0, 1) * (high - low);
  let given = before;
  const give = (value: number): void => {
    if (value === given) return;
    given = value;
    onChange(value);
  };
  press.preventDefault();
  thumb.focus({ preventScroll: true });
  if (!isOnThumb) give(settle(exact, { low, high, step }));
  followPointer(press.nativeEvent, {
    onMove: (right, _, keys) => {
      exact = within(exact + (right / width) * (high - low) * speedOf(keys), low, high);
      const isAtMark =
        mark !== undefined && !keys.shiftKey && Math.abs(mark.at - exact) < NEAR * (high - low);
      give(isAtMark ? mark.at : settle(exact, { low, high, step: stepFor({ step }, keys) }));
    },
    onEnd: (isGivenUp) => {
      if (isGivenUp && given !== before) onChange(before);
      onDone?.();
    },
  });
}

/**
 * A slider over a soft range; values beyond it stay as they are and show at the end. Shift makes it
 * finer, Ctrl coarser, Escape gives a drag up. The wheel does not change it.
 */
export function ValueSlider(props: Props) {
  const { value, low, high, label, mark } = props;
  const thumb = useRef<HTMLSpanElement>(null);
  const shareOf = (at: number): string =>
    `${String(((within(at, low, high) - low) / (high - low)) * 100)}%`;
  return (
    <span
      className="relative flex h-5 w-full touch-none items-center select-none"
      onPointerDown={(event) => {
        if (event.button === 0 && thumb.current) startSlide(event, thumb.current, props);
      }}
    >
      <span className="relative h-[3px] w-full bg-line">
        {mark && mark.at >= low && mark.at <= high ? (
          <span
            className="absolute top-[-6px] h-[15px] w-[9px] -translate-x-1/2"
            style={{ left: shareOf(mark.at) }}
            title={mark.name}
          >
            <span className="mx-auto block h-full w-px bg-soft" />
          </span>
        ) : null}
        <span className="absolute h-full bg-seam" style={{ width: shareOf(value) }} />
      </span>
      <span
        ref={thumb}
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuemin={low}
        aria-valuemax={high}
        aria-valuenow={within(value, low, high)}
        aria-valuetext={mark?.at === value ? `${String(value)}, ${mark.name}` : undefined}
        className={THUMB}
        style={{ left: shareOf(value) }}
        onKeyDown={(event) => {
          slideWithKeys(event, props);
        }}
      />
    </span>
  );
}

function slideWithKeys(event: KeyboardEvent, props: Props): void {
  event.stopPropagation();
  const next = slideByKey(event.key, within(props.value, props.low, props.high), props, event);
  if (next === null) return;
  event.preventDefault();
  props.onChange(next);
  props.onDone?.();
}

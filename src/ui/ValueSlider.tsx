'use client';
import { Slider } from 'radix-ui';

interface Props {
  readonly value: number;
  readonly low: number;
  readonly high: number;
  readonly step: number;
  readonly label: string;
  readonly home?: number;
  readonly onChange: (value: number) => void;
  readonly onDone?: () => void;
}

/** A slider over a soft range; values beyond it stay as they are and show at the end. */
export function ValueSlider({ value, low, high, step, label, home, onChange, onDone }: Props) {
  const shown = Math.min(high, Math.max(low, value));
  const share =
    home === undefined ? null : ((Math.min(high, Math.max(low, home)) - low) / (high - low)) * 100;
  return (
    <Slider.Root
      className="relative flex h-5 w-full touch-none items-center select-none"
      min={low}
      max={high}
      step={step}
      value={[shown]}
      onValueChange={([next]) => {
        if (next !== undefined) onChange(next);
      }}
      onValueCommit={() => {
        onDone?.();
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
      }}
    >
      <Slider.Track className="relative h-[3px] w-full bg-line">
        {share !== null && (
          <span
            className="absolute top-[-3px] h-[9px] w-px bg-soft"
            style={{ left: `${String(share)}%` }}
          />
        )}
        <Slider.Range className="absolute h-full bg-seam" />
      </Slider.Track>
      <Slider.Thumb
        aria-label={label}
        className={
          'grid h-6 min-h-[24px] w-6 min-w-[24px] place-items-center before:block before:h-4 ' +
          'before:w-[7px] before:rounded-[1px] before:border before:border-line before:bg-ink ' +
          "before:content-['']"
        }
      />
    </Slider.Root>
  );
}

import type { ReactNode } from 'react';
import { NumberField } from '@/ui/NumberField';
import { ValueSlider } from '@/ui/ValueSlider';
import { endGesture } from '@/state/editing';

/** A row of a panel of the stage: its name, and what sets it. */
export function PanelRow({
  title,
  children,
}: {
  readonly title: string;
  readonly children: ReactNode;
}) {
  return (
    <div className="grid grid-cols-[60px_1fr] items-center gap-2 py-[1px]">
      <span className="text-soft">{title}</span>
      <span className="flex items-center gap-1.5">{children}</span>
    </div>
  );
}

interface NumberRowProps {
  readonly title: string;
  /** Whose it is, for screen readers. */
  readonly of: string;
  readonly unit: 'degrees' | 'number';
  readonly value: number;
  readonly low: number;
  readonly high: number;
  /** The most that may be typed, where that is beyond the slider. */
  readonly most?: number;
  readonly step: number;
  /** `isDrag`: one of many steps of a gesture. */
  readonly onChange: (value: number, isDrag: boolean) => void;
}
/** A number by slider or by typing. */
export function NumberRow(props: NumberRowProps) {
  const { title, of, unit, value, low, high, most = high, step, onChange } = props;
  return (
    <PanelRow title={title}>
      <ValueSlider
        label={`${title} of ${of}`}
        value={value}
        low={low}
        high={high}
        step={step}
        onChange={(next) => {
          onChange(next, true);
        }}
        onDone={endGesture}
      />
      <NumberField
        label={`${title} of ${of}, ${unit}`}
        value={unit === 'degrees' ? Math.round(value) : value}
        low={low}
        high={most}
        step={step}
        className="!w-[48px]"
        onCommit={(next) => {
          onChange(next, false);
        }}
      />
    </PanelRow>
  );
}

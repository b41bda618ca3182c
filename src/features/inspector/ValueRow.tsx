'use client';
import { RotateCcw, Unplug } from 'lucide-react';
import type { InputView } from '@/core/compile/catalogue';
import type { InputValue } from '@/core/graph/document';
import { isTriple } from '@/core/graph/document';
import { ColourField } from '@/ui/ColourField';
import { NumberField } from '@/ui/NumberField';
import { ValueSlider } from '@/ui/ValueSlider';
import { PickButton } from './PickButton';
import type { Picking } from '@/state/stores';

interface Props {
  readonly port: InputView;
  readonly value: InputValue | undefined;
  readonly changed: boolean;
  readonly wiredFrom: string | null;
  readonly drivenBy: string | null;
  readonly onChange: (value: InputValue, gesture: string | null) => void;
  readonly onDone: () => void;
  readonly onReset: () => void;
  readonly onUnplug: () => void;
  readonly onExpose: (() => void) | null;
  readonly picking: Picking | null;
}

/** One input: its value with slider and number, or what feeds it. */
export function ValueRow({
  port,
  value,
  changed,
  wiredFrom,
  drivenBy,
  onChange,
  onDone,
  onReset,
  onUnplug,
  onExpose,
  picking,
}: Props) {
  const { title } = port;
  const help = [
    port.port?.help ?? port.dial?.help,
    port.port?.low && `low: ${port.port.low}`,
    port.port?.high && `high: ${port.port.high}`,
    port.port?.unit && `in ${port.port.unit}`,
  ]
    .filter(Boolean)
    .join(' · ');
  return (
    <div
      className="grid grid-cols-[92px_1fr_auto] items-center gap-x-2 py-[1px]"
      data-testid={`value-${port.id}`}
    >
      <span
        className={`truncate text-[12px] ${changed ? 'font-semibold' : 'text-soft'}`}
        title={help}
      >
        {title}
      </span>
      <span className="min-w-0">
        {wiredFrom ? (
          <span className="flex items-center gap-1 text-[12px] text-soft">
            <span className="truncate">from {wiredFrom}</span>
            <button
              type="button"
              aria-label={`Unplug ${title}`}
              onClick={onUnplug}
              className="press"
            >
              <Unplug size={12} />
            </button>
          </span>
        ) : (
          <ValueEditor port={port} value={value} onChange={onChange} onDone={onDone} />
        )}
      </span>
      <span className="flex items-center gap-0.5">
        {drivenBy ? (
          <span
            className="max-w-[84px] truncate rounded-[2px] border border-seam px-1 text-[10.5px]"
            title={`Driven by the dial ${drivenBy}`}
          >
            ⊶ {drivenBy}
          </span>
        ) : null}
        {picking && !wiredFrom && !drivenBy ? <PickButton title={title} picking={picking} /> : null}
        {changed && !wiredFrom ? (
          <button
            type="button"
            aria-label={`Reset ${title}`}
            className="press text-soft"
            onClick={onReset}
          >
            <RotateCcw size={11} />
          </button>
        ) : null}
        {onExpose && !drivenBy && !wiredFrom ? (
          <button
            type="button"
            aria-label={`Make ${title} a dial`}
            title="Make it a dial"
            className="press rounded-[2px] border border-seam text-[11px]"
            onClick={onExpose}
          >
            ⊶
          </button>
        ) : null}
      </span>
    </div>
  );
}

function ValueEditor({
  port,
  value,
  onChange,
  onDone,
}: Pick<Props, 'port' | 'value' | 'onChange' | 'onDone'>) {
  const soft = port.port?.soft ?? port.dial?.soft ?? [0, 1];
  const hard = port.port?.hard ?? port.dial?.hard ?? [-Infinity, Infinity];
  const step = port.port?.step ?? port.dial?.step ?? 0.01;
  if (typeof value === 'number') {
    return (
      <span className="flex items-center gap-2">
        <ValueSlider
          label={port.title}
          value={value}
          low={soft[0]}
          high={soft[1]}
          step={step}
          {...(typeof port.dial?.home === 'number' ? { home: port.dial.home } : {})}
          onChange={(next) => {
            onChange(next, `value ${port.id}`);
          }}
          onDone={onDone}
        />
        <NumberField
          label={`${port.title}, number`}
          value={value}
          low={hard[0]}
          high={hard[1]}
          step={step}
          onCommit={(next) => {
            onChange(next, null);
          }}
        />
      </span>
    );
  }
  if (isTriple(value) && (port.kind === 'colour' || port.dial?.kind === 'colour'))
    return (
      <ColourField
        label={port.title}
        value={value}
        onChange={(next) => {
          onChange(next, `value ${port.id}`);
        }}
      />
    );
  if (isTriple(value)) {
    return (
      <span className="flex gap-1">
        {(['x', 'y', 'z'] as const).map((axis, k) => (
          <NumberField
            key={axis}
            className="!w-[54px]"
            label={`${port.title} ${axis}`}
            value={value[k] ?? 0}
            onCommit={(next) => {
              onChange(value.map((old, c) => (c === k ? next : old)) as never, null);
            }}
          />
        ))}
      </span>
    );
  }
  return (
    <span className="text-[12px] text-soft">
      {typeof port.port?.default === 'string' ? port.port.default : 'wire something in'}
    </span>
  );
}

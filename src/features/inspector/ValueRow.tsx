'use client';
import { LayoutGrid, RotateCcw, Unplug } from 'lucide-react';
import type { InputView } from '@/core/compile/catalogue';
import { isTriple } from '@/core/graph/document';
import type { InputValue } from '@/core/graph/document';
import { ColourField } from '@/ui/ColourField';
import type { ColourSource } from '@/ui/ColourPanel';
import { shortNumber } from '@/ui/NumberField';
import { NumberEditor, TripleEditor } from './NumberEditors';
import { ExposeButton } from './ExposeButton';
import { PickButton } from './PickButton';
import type { Picking } from '@/state/stores';

interface Props {
  readonly port: InputView;
  readonly value: InputValue | undefined;
  readonly changed: boolean;
  /** The value at which the input changes nothing, where it has one. */
  readonly neutral: number | undefined;
  readonly wiredFrom: string | null;
  readonly drivenBy: string | null;
  readonly onChange: (value: InputValue, gesture: string | null) => void;
  readonly onDone: () => void;
  readonly onReset: () => void;
  readonly onUnplug: () => void;
  readonly onExpose: (() => void) | null;
  readonly onCompare: (() => void) | null;
  /** Its name is pointed at, or no more: the stage shows what it can change. */
  readonly onPoint: (isPointed: boolean) => void;
  readonly picking: Picking | null;
  /** Where a colour may be taken from. */
  readonly sources: () => readonly ColourSource[];
}

const helpOf = ({ title, port, dial }: InputView, neutral: number | undefined): string =>
  [
    title,
    port?.help ?? dial?.help,
    neutral === undefined ? undefined : `neutral: ${shortNumber(neutral)}`,
    port?.low && `low: ${port.low}`,
    port?.high && `high: ${port.high}`,
    port?.unit && `in ${port.unit}`,
  ]
    .filter(Boolean)
    .join(' · ');

/** One input: its value with slider and number, or what feeds it. */
export function ValueRow(props: Props) {
  const {
    port: { title },
    wiredFrom,
    onUnplug,
  } = props;
  return (
    <div
      className="group/row grid grid-cols-[92px_1fr_auto] items-center gap-x-2 py-[1px]"
      data-testid={`value-${props.port.id}`}
    >
      <ValueName {...props} />
      <span className="min-w-0">
        {wiredFrom ? (
          <span className="flex items-center gap-1 text-[12px] text-soft">
            <span className="leading-[14px] wrap-anywhere">from {wiredFrom}</span>
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
          <ValueEditor {...props} />
        )}
      </span>
      <ValueActions {...props} />
    </div>
  );
}

/** The name of a value; pointed at, the stage shows its region, and it is compared in pictures. */
function ValueName({ port, changed, neutral, wiredFrom, drivenBy, onPoint, onCompare }: Props) {
  const { title } = port;
  return (
    <span
      className={
        'relative text-[12px] leading-[14px] wrap-anywhere ' +
        (changed ? 'font-semibold' : 'text-soft')
      }
      title={helpOf(port, neutral)}
      onPointerEnter={() => {
        onPoint(!wiredFrom);
      }}
      onPointerLeave={() => {
        onPoint(false);
      }}
    >
      {title}
      {onCompare && !wiredFrom && !drivenBy ? (
        <button
          type="button"
          aria-label={`Compare ${title} in pictures`}
          title="Compare in pictures"
          // It lies over the name: rows keep their room for sliders.
          className={
            'press absolute top-1/2 right-0 -translate-y-1/2 bg-panel opacity-0 ' +
            'group-hover/row:opacity-100 focus:opacity-100'
          }
          onClick={onCompare}
        >
          <LayoutGrid size={11} />
        </button>
      ) : null}
    </span>
  );
}

/** The dial that drives a value, and what can be done to it besides typing. */
function ValueActions({
  port: { title },
  changed,
  wiredFrom,
  drivenBy,
  onReset,
  onExpose,
  picking,
}: Props) {
  return (
    <span className="flex items-center gap-0.5">
      {drivenBy ? (
        <span
          className={
            'max-w-[110px] rounded-[2px] border border-seam px-1 text-[10.5px] wrap-anywhere'
          }
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
      {onExpose ? <ExposeButton title={title} onExpose={onExpose} /> : null}
    </span>
  );
}

function ValueEditor({ port, value, neutral, sources, onChange, onDone }: Props) {
  const given = { port, neutral, onChange, onDone };
  if (typeof value === 'number') return <NumberEditor {...given} value={value} />;
  if (isTriple(value) && (port.kind === 'colour' || port.dial?.kind === 'colour'))
    return (
      <ColourField
        label={port.title}
        value={value}
        sources={sources}
        onChange={(next) => {
          onChange(next, `value ${port.id}`);
        }}
        onDone={onDone}
      />
    );
  if (isTriple(value)) return <TripleEditor {...given} value={value} />;
  return (
    <span className="text-[12px] text-soft">
      {typeof port.port?.default === 'string' ? port.port.default : 'wire something in'}
    </span>
  );
}

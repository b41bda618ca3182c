'use client';
import { Dices, Minus, Plus } from 'lucide-react';
import type { InputView } from '@/core/compile/catalogue';
import { cameraAxes } from '@/core/evaluate/camera';
import type { InputValue, Triple } from '@/core/graph/document';
import { useView } from '@/state/use-stores';
import { DirectionBall } from '@/ui/DirectionBall';
import type { BallAxes } from '@/ui/DirectionBall';
import { IconButton } from '@/ui/IconButton';
import { NumberField, shortNumber } from '@/ui/NumberField';
import { ValueSlider } from '@/ui/ValueSlider';

interface Props<V> {
  readonly port: InputView;
  readonly value: V;
  /** The value at which the input changes nothing, where it has one. */
  readonly neutral?: number | undefined;
  readonly onChange: (value: InputValue, gesture: string | null) => void;
  readonly onDone: () => void;
}

/** What a number may be, by its port or by the dial it is. */
export function rangeOf({ port, dial }: InputView) {
  const [low, high] = port?.soft ?? dial?.soft ?? [0, 1];
  const [least, most] = port?.hard ?? dial?.hard ?? [-Infinity, Infinity];
  return { low, high, least, most, step: port?.step ?? (dial?.step || 0.01) };
}

/** A value worth finding again: home for a dial, else where the input changes nothing. */
function markOf({ dial }: InputView, neutral: number | undefined) {
  if (typeof dial?.home === 'number') return { at: dial.home, name: 'home: as designed' };
  return neutral === undefined
    ? undefined
    : { at: neutral, name: `neutral: ${shortNumber(neutral)} changes nothing` };
}

/** A number by slider, by typing or by dragging its field; a seed also by its neighbours. */
export function NumberEditor({ port, value, neutral, onChange, onDone }: Props<number>) {
  const { low, high, least, most, step } = rangeOf(port);
  const drag = (next: number): void => {
    onChange(next, `value ${port.id}`);
  };
  const counts = (port.port ?? port.like)?.counts;
  return (
    <span className="flex items-center gap-2">
      {counts === 'seed' ? (
        <SeedButtons title={port.title} value={value} most={most} onChange={onChange} />
      ) : (
        <ValueSlider
          label={port.title}
          value={value}
          low={low}
          high={high}
          step={step}
          mark={markOf(port, neutral)}
          onChange={drag}
          onDone={onDone}
        />
      )}
      <NumberField
        label={`${port.title}, number`}
        value={value}
        low={least}
        high={most}
        step={step}
        isWhole={counts !== undefined}
        onCommit={(next) => {
          onChange(next, null);
        }}
        onDrag={drag}
        onDone={onDone}
      />
    </span>
  );
}

/** Seeds that are thrown lie in this range. */
const THROWN = 10_000;

interface SeedProps extends Pick<Props<number>, 'value' | 'onChange'> {
  readonly title: string;
  readonly most: number;
}
function SeedButtons({ title, value, most, onChange }: SeedProps) {
  const to = (next: number): void => {
    onChange(Math.min(most, Math.max(0, Math.round(next))), null);
  };
  return (
    <span className="flex w-full items-center gap-1">
      <IconButton
        name={`Previous ${title.toLowerCase()}`}
        isDisabled={value <= 0}
        onClick={() => {
          to(value - 1);
        }}
      >
        <Minus size={12} />
      </IconButton>
      <IconButton
        name={`Next ${title.toLowerCase()}`}
        onClick={() => {
          to(value + 1);
        }}
      >
        <Plus size={12} />
      </IconButton>
      <IconButton
        name={`${title} at random`}
        onClick={() => {
          to(Math.random() * THROWN);
        }}
      >
        <Dices size={13} />
      </IconButton>
    </span>
  );
}

const OBJECT_AXES: BallAxes = { right: [1, 0, 0], up: [0, 1, 0], forward: [0, 0, -1] };

/** Three numbers, each typed or dragged by the step of the port; a direction also on a ball. */
export function TripleEditor({ port, value, onChange, onDone }: Props<Triple>) {
  const { least, most, step } = rangeOf(port);
  const camera = useView((state) => state.camera);
  const gesture = `value ${port.id}`;
  return (
    <span className="flex items-center gap-1">
      {(port.port ?? port.like)?.picks === 'direction' ? (
        <DirectionBall
          label={port.title}
          value={value}
          axes={camera ? cameraAxes(camera) : OBJECT_AXES}
          onDrag={(next) => {
            onChange(next, gesture);
          }}
          onDone={onDone}
        />
      ) : null}
      {(['x', 'y', 'z'] as const).map((axis, k) => {
        const withLane = (lane: number): Triple => {
          const [x, y, z] = value;
          return [k === 0 ? lane : x, k === 1 ? lane : y, k === 2 ? lane : z];
        };
        return (
          <NumberField
            key={axis}
            className="!w-[54px]"
            label={`${port.title} ${axis}`}
            value={value[k] ?? 0}
            low={least}
            high={most}
            step={step}
            onCommit={(next) => {
              onChange(withLane(next), null);
            }}
            onDrag={(next) => {
              onChange(withLane(next), gesture);
            }}
            onDone={onDone}
          />
        );
      })}
    </span>
  );
}

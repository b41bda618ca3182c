'use client';
import { useRef, useState } from 'react';
import { curveValue } from '@/core/compile/ramp-rows';
import { LIMITS } from '@/core/graph/document';
import type { CurveValue } from '@/core/graph/document';
import { Choose } from '@/ui/Choose';

interface Props {
  readonly title: string;
  readonly curve: CurveValue;
  readonly histogram: Uint32Array | null;
  readonly onChange: (curve: CurveValue, gesture: string | null, label: string) => void;
  readonly onDone: () => void;
}

const SIZE = 128;
const SHAPES: Readonly<Record<string, CurveValue['points']>> = {
  Straight: [
    [0, 0],
    [1, 1],
  ],
  'Upside down': [
    [0, 1],
    [1, 0],
  ],
  'More contrast': [
    [0, 0],
    [0.25, 0.13],
    [0.75, 0.87],
    [1, 1],
  ],
  'Less contrast': [
    [0, 0],
    [0.25, 0.36],
    [0.75, 0.64],
    [1, 1],
  ],
  'Lift the middle': [
    [0, 0],
    [0.5, 0.66],
    [1, 1],
  ],
  'Sink the middle': [
    [0, 0],
    [0.5, 0.34],
    [1, 1],
  ],
  Bell: [
    [0, 0],
    [0.5, 1],
    [1, 0],
  ],
  'Step at one half': [
    [0, 0],
    [0.5, 0],
    [0.5, 1],
    [1, 1],
  ],
};
const START = 'shape';
const sorted = (points: CurveValue['points']): CurveValue['points'] =>
  [...points].sort((a, b) => a[0] - b[0]);
const within = (x: number): number => Number(Math.min(1, Math.max(0, x)).toFixed(4));

/**
 * A curve through points that are dragged; a double click between them adds one, Delete removes it.
 */
export function CurveEditor({ title, curve, histogram, onChange, onDone }: Props) {
  const square = useRef<SVGSVGElement>(null);
  const [chosen, setChosen] = useState(0);
  const points = sorted(curve.points);
  const tallest = Math.max(1, ...(histogram ?? []));
  const placeOf = (event: React.PointerEvent | React.MouseEvent): [number, number] => {
    const box = square.current?.getBoundingClientRect();
    return box
      ? [
          within((event.clientX - box.left) / box.width),
          within(1 - (event.clientY - box.top) / box.height),
        ]
      : [0, 0];
  };
  const put = (k: number, [x, y]: readonly [number, number], gesture: string | null): void => {
    // A point stays between its neighbours, so that it is not lost among them.
    const limited = Math.min(points[k + 1]?.[0] ?? 1, Math.max(points[k - 1]?.[0] ?? 0, x));
    onChange(
      { points: points.map((point, at) => (at === k ? [limited, y] : point)) },
      gesture,
      'Bent a curve',
    );
  };
  const add = (place: readonly [number, number]): void => {
    if (points.length >= LIMITS.curvePoints) return;
    const next = sorted([...points, place]);
    onChange({ points: next }, null, 'Added a point');
    setChosen(next.indexOf(place));
  };
  const remove = (k: number): void => {
    if (points.length > 2)
      onChange({ points: points.filter((_, at) => at !== k) }, null, 'Removed a point');
  };
  const line = Array.from(
    { length: SIZE + 1 },
    (_, k) => `${String(k)},${((1 - curveValue({ points }, k / SIZE)) * SIZE).toFixed(2)}`,
  ).join(' ');
  return (
    <div className="w-[176px]" data-testid={`curve-${title}`}>
      <div className="mb-1 flex items-center gap-2 text-[11.5px] text-soft">
        <span className="truncate">{title}</span>
        <Choose
          label={`Shape of ${title}`}
          value={START}
          items={[
            { value: START, title: 'Shape …' },
            ...Object.keys(SHAPES).map((name) => ({ value: name, title: name })),
          ]}
          onChange={(name) => {
            const shape = SHAPES[name];
            if (shape) onChange({ points: shape }, null, `Chose the shape ${name.toLowerCase()}`);
          }}
        />
      </div>
      <svg
        ref={square}
        width={SIZE}
        height={SIZE}
        viewBox={`0 0 ${String(SIZE)} ${String(SIZE)}`}
        className="overflow-visible border border-line bg-ground"
        role="group"
        aria-label={`Curve ${title}`}
        onDoubleClick={(event) => {
          add(placeOf(event));
        }}
      >
        {histogram
          ? [...histogram].map((count, k, all) => (
              <rect
                key={k}
                x={(k * SIZE) / all.length}
                width={SIZE / all.length}
                y={SIZE - Math.sqrt(count / tallest) * 40}
                height={Math.sqrt(count / tallest) * 40}
                fill="var(--line)"
              />
            ))
          : null}
        <line x1={0} y1={SIZE} x2={SIZE} y2={0} stroke="var(--line)" strokeDasharray="2 3" />
        <polyline points={line} fill="none" stroke="var(--ink)" strokeWidth={1.5} />
        {points.map(([x, y], k) => (
          <rect
            key={k}
            x={x * SIZE - 4}
            y={(1 - y) * SIZE - 4}
            width={8}
            height={8}
            tabIndex={0}
            role="button"
            aria-label={`Point at ${x.toFixed(2)}, ${y.toFixed(2)}`}
            aria-pressed={k === chosen}
            className="cursor-move touch-none"
            fill="var(--panel)"
            stroke={k === chosen ? 'var(--weld)' : 'var(--ink)'}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setChosen(k);
            }}
            onPointerMove={(event) => {
              if (event.currentTarget.hasPointerCapture(event.pointerId))
                put(k, placeOf(event), `point ${String(k)}`);
            }}
            onPointerUp={(event) => {
              event.currentTarget.releasePointerCapture(event.pointerId);
              onDone();
            }}
            onKeyDown={(event) => {
              const steps: Record<string, readonly [number, number]> = {
                ArrowLeft: [-0.01, 0],
                ArrowRight: [0.01, 0],
                ArrowUp: [0, 0.01],
                ArrowDown: [0, -0.01],
              };
              const step = steps[event.key];
              if (step) put(k, [within(x + step[0]), within(y + step[1])], null);
              else if (event.key === 'Delete') remove(k);
              else return;
              event.preventDefault();
              event.stopPropagation();
            }}
          />
        ))}
      </svg>
    </div>
  );
}

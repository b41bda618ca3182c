'use client';
import { useRef, useState } from 'react';
import { curveValue } from '@/core/compile/ramp-rows';
import { LIMITS, isCurve } from '@/core/graph/document';
import type { CurveValue } from '@/core/graph/document';
import { SHAPES } from './curve-shapes';
import { RackPresets } from './RackPresets';

interface Props {
  readonly title: string;
  readonly curve: CurveValue;
  readonly histogram: Uint32Array | null;
  readonly onChange: (curve: CurveValue, gesture: string | null, label: string) => void;
  readonly onDone: () => void;
}

const SIZE = 128;
const SHIPPED = Object.entries(SHAPES).map(([name, points]) => ({ name, value: { points } }));
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
  const placeOf = (event: React.PointerEvent | React.MouseEvent): [number, number] => {
    const box = square.current?.getBoundingClientRect();
    return box
      ? [
          within((event.clientX - box.left) / box.width),
          within(1 - (event.clientY - box.top) / box.height),
        ]
      : [0, 0];
  };
  const edits = makeCurveEdits(points, onChange, setChosen);
  return (
    <div className="w-[176px]" data-testid={`curve-${title}`}>
      <CurveHeading title={title} curve={curve} onChange={onChange} />
      <svg
        ref={square}
        width={SIZE}
        height={SIZE}
        viewBox={`0 0 ${String(SIZE)} ${String(SIZE)}`}
        className="overflow-visible border border-line bg-ground"
        role="group"
        aria-label={`Curve ${title}`}
        onDoubleClick={(event) => {
          edits.add(placeOf(event));
        }}
      >
        <CurveHistogram counts={histogram} />
        <line x1={0} y1={SIZE} x2={SIZE} y2={0} stroke="var(--line)" strokeDasharray="2 3" />
        <polyline points={polyline(points)} fill="none" stroke="var(--ink)" strokeWidth={1.5} />
        {points.map(([x, y], k) => (
          <CurvePoint
            key={k}
            x={x}
            y={y}
            isChosen={k === chosen}
            onChoose={() => {
              setChosen(k);
            }}
            onDrag={(event) => {
              edits.put(k, placeOf(event), `point ${String(k)}`);
            }}
            onDone={onDone}
            onStep={(dx, dy) => {
              edits.put(k, [within(x + dx), within(y + dy)], null);
            }}
            onRemove={() => {
              edits.remove(k);
            }}
          />
        ))}
      </svg>
    </div>
  );
}

/** The curve as points of an SVG line. */
const polyline = (points: CurveValue['points']): string =>
  Array.from(
    { length: SIZE + 1 },
    (_, k) => `${String(k)},${((1 - curveValue({ points }, k / SIZE)) * SIZE).toFixed(2)}`,
  ).join(' ');

/** The name of a curve, and curves to start from. */
function CurveHeading({ title, curve, onChange }: Pick<Props, 'title' | 'curve' | 'onChange'>) {
  return (
    <div className="mb-1 flex items-center gap-2 text-[11.5px] text-soft">
      <span className="truncate">{title}</span>
      <RackPresets
        noun="curve"
        kept={{ kind: 'curve', value: curve }}
        shipped={SHIPPED}
        onTake={({ name, value }) => {
          if (isCurve(value)) onChange(value, null, `Took the curve ${name}`);
        }}
      />
    </div>
  );
}

/** What can be done to the points of a curve. */
function makeCurveEdits(
  points: CurveValue['points'],
  onChange: Props['onChange'],
  choose: (k: number) => void,
) {
  return {
    /** Moves a point; it stays between its neighbours, so that it is not lost among them. */
    put(k: number, [x, y]: readonly [number, number], gesture: string | null): void {
      const limited = Math.min(points[k + 1]?.[0] ?? 1, Math.max(points[k - 1]?.[0] ?? 0, x));
      const moved = points.map((point, at) => (at === k ? ([limited, y] as const) : point));
      onChange({ points: moved }, gesture, 'Bent a curve');
    },
    add(place: readonly [number, number]): void {
      if (points.length >= LIMITS.curvePoints) return;
      const next = sorted([...points, place]);
      onChange({ points: next }, null, 'Added a point');
      choose(next.indexOf(place));
    },
    remove(k: number): void {
      if (points.length > 2)
        onChange({ points: points.filter((_, at) => at !== k) }, null, 'Removed a point');
    },
  };
}

/** How often values arrive, under the curve. */
function CurveHistogram({ counts }: { readonly counts: Uint32Array | null }) {
  if (!counts) return null;
  const tallest = Math.max(1, ...counts);
  return [...counts].map((count, k) => (
    <rect
      key={k}
      x={(k * SIZE) / counts.length}
      width={SIZE / counts.length}
      y={SIZE - Math.sqrt(count / tallest) * 40}
      height={Math.sqrt(count / tallest) * 40}
      fill="var(--line)"
    />
  ));
}

const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-0.01, 0],
  ArrowRight: [0.01, 0],
  ArrowUp: [0, 0.01],
  ArrowDown: [0, -0.01],
};
interface PointProps {
  readonly x: number;
  readonly y: number;
  readonly isChosen: boolean;
  readonly onChoose: () => void;
  readonly onDrag: (event: React.PointerEvent) => void;
  readonly onDone: () => void;
  readonly onStep: (dx: number, dy: number) => void;
  readonly onRemove: () => void;
}
/** A point to drag, or to move with the arrow keys. */
function CurvePoint({ x, y, isChosen, onChoose, onDrag, onDone, onStep, onRemove }: PointProps) {
  return (
    <rect
      x={x * SIZE - 4}
      y={(1 - y) * SIZE - 4}
      width={8}
      height={8}
      tabIndex={0}
      role="button"
      aria-label={`Point at ${x.toFixed(2)}, ${y.toFixed(2)}`}
      aria-pressed={isChosen}
      className="cursor-move touch-none"
      fill="var(--panel)"
      stroke={isChosen ? 'var(--weld)' : 'var(--ink)'}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        onChoose();
      }}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId)) onDrag(event);
      }}
      onPointerUp={(event) => {
        event.currentTarget.releasePointerCapture(event.pointerId);
        onDone();
      }}
      onKeyDown={(event) => {
        const step = STEPS[event.key];
        if (step) onStep(...step);
        else if (event.key === 'Delete') onRemove();
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    />
  );
}

'use client';
import type { KeyboardEvent, PointerEvent } from 'react';
import type { Triple } from '@/core/graph/document';
import { followPointer } from './follow-pointer';

/** Three unit vectors at right angles: right, up, and away from the eye. */
export interface BallAxes {
  readonly right: Triple;
  readonly up: Triple;
  readonly forward: Triple;
}
interface Props {
  readonly label: string;
  /** A direction of any length. */
  readonly value: Triple;
  /** From where the ball is seen: as the model beside it. */
  readonly axes: BallAxes;
  readonly onDrag: (direction: Triple) => void;
  readonly onDone: () => void;
}

const SIDE = 46;
const RADIUS = SIDE / 2 - 4;
/** Radians of one arrow key. */
const TURN = (5 * Math.PI) / 180;

const dot = (a: Triple, b: Triple): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** A direction as the ball is seen: right, up, and towards the eye. */
function seen(value: Triple, { right, up, forward }: BallAxes): Triple {
  const length = Math.hypot(...value) || 1;
  return [dot(value, right) / length, dot(value, up) / length, -dot(value, forward) / length];
}

/** Back into the space of the model, four digits. */
function unseen([x, y, z]: Triple, { right, up, forward }: BallAxes): Triple {
  const lane = (k: 0 | 1 | 2): number =>
    Number((right[k] * x + up[k] * y - forward[k] * z).toFixed(4));
  return [lane(0), lane(1), lane(2)];
}

/** The point of the ball under a place of its picture; beyond its rim, the rim. */
export function onBall(x: number, y: number, isFront: boolean): Triple {
  const length = Math.hypot(x, y);
  if (length >= 1) return [x / length, y / length, 0];
  return [x, y, Math.sqrt(1 - length * length) * (isFront ? 1 : -1)];
}

function startTurn(press: PointerEvent<HTMLElement>, { value, axes, onDrag, onDone }: Props): void {
  if (press.button !== 0) return;
  const box = press.currentTarget.getBoundingClientRect();
  const isFront = seen(value, axes)[2] >= 0;
  let [x, y] = [press.clientX - box.left - box.width / 2, press.clientY - box.top - box.height / 2];
  // Its picture is larger where controls are.
  const radius = (RADIUS * box.width) / SIDE;
  const give = (): void => {
    onDrag(unseen(onBall(x / radius, -y / radius, isFront), axes));
  };
  give();
  followPointer(press.nativeEvent, {
    onMove: (right, down) => {
      x += right;
      y += down;
      give();
    },
    onEnd: (isGivenUp) => {
      if (isGivenUp) onDrag(value);
      onDone();
    },
  });
}

function turnWithKeys(event: KeyboardEvent, { value, axes, onDrag, onDone }: Props): void {
  const keys: Record<string, readonly [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, 1],
    ArrowDown: [0, -1],
  };
  const by = keys[event.key];
  event.stopPropagation();
  if (!by) return;
  event.preventDefault();
  const [x, y, z] = seen(value, axes);
  const round = Math.atan2(x, z) + by[0] * TURN;
  const rise = Math.min(Math.PI / 2, Math.max(-Math.PI / 2, Math.asin(y) + by[1] * TURN));
  const flat = Math.cos(rise);
  onDrag(unseen([Math.sin(round) * flat, Math.sin(rise), Math.cos(round) * flat], axes));
  onDone();
}

/**
 * A direction as a point on a small ball, seen as the model is: dragged, or turned with the arrow
 * keys. A ring stands for a direction on the far side; a double click takes it to the other side.
 */
export function DirectionBall(props: Props) {
  const { label, value, axes, onDrag, onDone } = props;
  const [x, y, z] = seen(value, axes);
  const isFront = z >= 0;
  const middle = SIDE / 2;
  return (
    <button
      type="button"
      aria-label={`${label} on a ball: arrow keys turn it`}
      title={
        'Drag the point; a ring is on the far side, where a double click takes it and back. ' +
        'Seen as the model is.'
      }
      className="shrink-0 touch-none rounded-full"
      onPointerDown={(event) => {
        startTurn(event, props);
      }}
      onDoubleClick={() => {
        onDrag(unseen([x, y, -z], axes));
        onDone();
      }}
      onKeyDown={(event) => {
        turnWithKeys(event, props);
      }}
    >
      <svg width={SIDE} height={SIDE} aria-hidden>
        <circle cx={middle} cy={middle} r={RADIUS} fill="var(--ground)" stroke="var(--seam)" />
        <ellipse
          cx={middle}
          cy={middle}
          rx={RADIUS}
          ry={RADIUS / 3}
          fill="none"
          stroke="var(--line)"
        />
        <line
          x1={middle}
          y1={middle}
          x2={middle + x * RADIUS}
          y2={middle - y * RADIUS}
          stroke="var(--ink-soft)"
          strokeDasharray={isFront ? undefined : '2 2'}
        />
        <circle
          cx={middle + x * RADIUS}
          cy={middle - y * RADIUS}
          r={3.5}
          fill={isFront ? 'var(--weld)' : 'var(--ground)'}
          stroke={isFront ? 'var(--line)' : 'var(--weld)'}
        />
      </svg>
    </button>
  );
}

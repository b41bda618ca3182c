'use client';
import { useEffect, useState } from 'react';
import type { RefObject } from 'react';
import { feedingText } from '@/core/compile/feeding';
import { levelLine } from '@/core/evaluate/level-line';
import type { SeenValues } from '@/core/evaluate/level-line';
import type { Evaluation } from '@/state/evaluation';
import { arrivingKey } from '@/core/graph/result-key';
import { stores } from '@/state/stores';
import type { WatchedInput } from '@/state/stores';
import { useDocument, useProbe, useView } from '@/state/use-stores';

interface Props {
  readonly evaluation: Evaluation;
  readonly host: RefObject<HTMLDivElement | null>;
}

/** Columns of the grid that the watched value is read on. */
const GRID = 320;
/** How long the pointer or the camera rests before the grid is read anew, milliseconds. */
const REST = 60;

/**
 * While a ramp or curve is edited: the line on the model where what arrives has the value of the
 * dragged stop, and which value the pointer is over.
 */
export function LevelLine({ evaluation, host }: Props) {
  const watched = useProbe((state) => state.watched);
  return watched && <WatchedResult watched={watched} evaluation={evaluation} host={host} />;
}

/** The watched values as the camera sees them; read while they are looked at. */
function useSeen(
  evaluation: Evaluation,
  { path, input }: WatchedInput,
  isNeeded: boolean,
): SeenValues | null {
  const [seen, setSeen] = useState<SeenValues | null>(null);
  const camera = useView((state) => state.camera);
  const key = arrivingKey(path, input);
  // Dragging a stop changes the document at every step, but nothing of what arrives at it.
  const feeding = useDocument(({ document }) =>
    isNeeded ? feedingText(document, path, input) : '',
  );
  useEffect(() => {
    if (!isNeeded) return;
    let isLate = false;
    const timer = setTimeout(() => {
      evaluation.questions.seeValues(key, GRID).then(
        (found) => {
          if (!isLate) setSeen(found);
        },
        () => {
          // The findings say what is wrong with the document; there is nothing to read meanwhile.
          if (!isLate) setSeen(null);
        },
      );
    }, REST);
    return () => {
      isLate = true;
      clearTimeout(timer);
    };
  }, [evaluation, key, isNeeded, camera, feeding]);
  return seen;
}

function WatchedResult({ evaluation, host, watched }: Props & { readonly watched: WatchedInput }) {
  const level = useProbe((state) => state.level);
  const isPointed = usePointed(host);
  const seen = useSeen(evaluation, watched, isPointed || level !== null);
  useReading(host, seen);
  if (!seen || level === null) return null;
  const pieces = levelLine(seen, level, jumpOf(seen));
  const path = pieces
    .map(
      ([x0, y0, x1, y1]) => `M${x0.toFixed(2)} ${y0.toFixed(2)}L${x1.toFixed(2)} ${y1.toFixed(2)}`,
    )
    .join('');
  return (
    <svg
      className="pointer-events-none absolute inset-0 h-full w-full"
      viewBox={`0 0 ${String(seen.width)} ${String(seen.height)}`}
      preserveAspectRatio="none"
      data-testid="level-line"
      data-pieces={pieces.length}
      aria-hidden
    >
      <path d={path} fill="none" stroke="var(--line)" strokeWidth={4} {...FIXED} />
      <path d={path} fill="none" stroke="var(--weld)" strokeWidth={1.75} {...FIXED} />
    </svg>
  );
}
const FIXED = { vectorEffect: 'non-scaling-stroke', strokeLinecap: 'round' } as const;

/** A jump between neighbours that is no slope of the value: half of all there is. */
function jumpOf({ lanes: [values = new Float32Array()] }: SeenValues): number {
  let [low, high] = [Infinity, -Infinity];
  for (const value of values) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return (high - low) / 2;
}

/** Whether the pointer is over the stage. */
function usePointed(host: RefObject<HTMLDivElement | null>): boolean {
  const [isPointed, setPointed] = useState(false);
  useEffect(() => {
    const element = host.current;
    if (!element) return;
    const listening = new AbortController();
    const { signal } = listening;
    const enter = (): void => {
      setPointed(true);
    };
    element.addEventListener('pointerenter', enter, { signal });
    element.addEventListener('pointermove', enter, { signal, once: true });
    element.addEventListener(
      'pointerleave',
      () => {
        setPointed(false);
        stores.probe.setState({ reading: null });
      },
      { signal },
    );
    return () => {
      listening.abort();
    };
  }, [host]);
  return isPointed;
}

/** Tells the value under the pointer. */
function useReading(host: RefObject<HTMLDivElement | null>, seen: SeenValues | null): void {
  useEffect(() => {
    const element = host.current;
    if (!element || !seen) return;
    const tell = ({ clientX, clientY }: PointerEvent): void => {
      const box = element.getBoundingClientRect();
      const x = Math.floor(((clientX - box.left) / box.width) * seen.width);
      const y = Math.floor(((clientY - box.top) / box.height) * seen.height);
      const reading = seen.lanes.map((lane) => lane[y * seen.width + x] ?? Number.NaN);
      stores.probe.setState({ reading: reading.some(Number.isNaN) ? null : reading });
    };
    element.addEventListener('pointermove', tell);
    return () => {
      element.removeEventListener('pointermove', tell);
    };
  }, [host, seen]);
}

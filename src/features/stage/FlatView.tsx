'use client';
import { useMemo, useRef, useState } from 'react';
import type { PointerEvent, WheelEvent } from 'react';
import { paintFlat } from '@/core/evaluate/flat-view';
import type { FlatValues } from '@/core/evaluate/flat-view';
import type { Evaluation } from '@/state/evaluation';
import { explainTexel, useFlatValues } from '@/state/flat-view';
import { rangeOfLook } from '@/state/looks';
import { useResults, useView } from '@/state/use-stores';
import { shortNumber } from '@/ui/NumberField';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { ProblemNote } from '@/ui/ProblemNote';
import { tellProblem } from '@/ui/tell-problem';
import { WHOLE, closer, moved, seamPath, texelAt } from './flat-part';
import type { SheetPart } from './flat-part';

interface Props {
  readonly evaluation: Evaluation;
}

/** What the stage shows, spread out in texture space over it: with seams, values and points. */
export function FlatView({ evaluation }: Props) {
  const flat = useView((state) => state.flat);
  return flat ? <Spread evaluation={evaluation} /> : null;
}

function Spread({ evaluation }: Props) {
  const { found, problem } = useFlatValues(evaluation);
  return (
    <div
      className="absolute inset-0 overflow-hidden bg-stage pt-[104px]"
      role="region"
      aria-label="Spread out in texture space"
      data-testid="flat-view"
    >
      {found ? (
        <FlatSheet evaluation={evaluation} values={found} />
      ) : problem ? (
        <ProblemNote problem={problem} />
      ) : (
        <p role="status">Spreading it out …</p>
      )}
    </div>
  );
}

function FlatSheet({ evaluation, values }: Props & { readonly values: FlatValues }) {
  const { size } = values;
  const [part, setPart] = useState(WHOLE);
  const [texel, setTexel] = useState<number | null>(null);
  const box = useRef<HTMLDivElement>(null);
  /** Where the pointer is, in sides of the sheet. */
  const placeOf = ({ clientX, clientY }: PointerEvent | WheelEvent) => {
    const { left, top, width } = box.current?.getBoundingClientRect() ?? new DOMRect(0, 0, 1, 1);
    return { x: (clientX - left) / width, y: (clientY - top) / width, width };
  };
  return (
    <div className="flex h-full flex-col items-center gap-1 p-1 text-[11px]">
      <FlatNote values={values} texel={texel} />
      <div className="grid min-h-0 w-full flex-1 place-items-center [container-type:size]">
        <div
          ref={box}
          className={
            'relative h-[min(100cqw,100cqh)] w-[min(100cqw,100cqh)] touch-none overflow-hidden ' +
            'border border-line'
          }
          onWheel={(event) => {
            const at = placeOf(event);
            setPart((now) => closer(now, at, event.deltaY < 0));
          }}
          onPointerMove={(event) => {
            const at = placeOf(event);
            const { buttons, altKey, movementX, movementY } = event;
            if (buttons !== 0 && !altKey)
              setPart((now) => moved(now, movementX / at.width, movementY / at.width));
            setTexel(texelAt(part, at, size));
          }}
          onPointerLeave={() => {
            setTexel(null);
          }}
          onPointerDown={(event) => {
            if (!event.altKey) return;
            const at = texelAt(part, placeOf(event), size);
            explainTexel(evaluation, size, at).catch(tellProblem);
          }}
        >
          <FlatPicture values={values} part={part} />
        </div>
      </div>
    </div>
  );
}

/** The values as they are looked at, and the seams over them. */
function FlatPicture({
  values,
  part: { x, y, zoom },
}: {
  readonly values: FlatValues;
  readonly part: SheetPart;
}) {
  const range = useRange();
  const channel = useView((state) => state.channel);
  const picture = useMemo(() => paintFlat(values, { range, channel }), [values, range, channel]);
  const seams = useMemo(() => seamPath(values.seams), [values]);
  const shift = `translate(${String(-x * 100)}%, ${String(-y * 100)}%)`;
  return (
    <>
      <div
        className="absolute h-full w-full origin-top-left [image-rendering:pixelated]"
        style={{ transform: `scale(${String(zoom)}) ${shift}` }}
      >
        <PictureCanvas
          picture={picture}
          label="What the stage shows, spread out in texture space"
          className="h-full w-full"
        />
      </div>
      <svg
        viewBox={[x, y, 1 / zoom, 1 / zoom].join(' ')}
        className="pointer-events-none absolute h-full w-full"
        aria-hidden
      >
        <path
          d={seams}
          fill="none"
          vectorEffect="non-scaling-stroke"
          stroke="var(--weld)"
          strokeWidth={0.7}
        />
      </svg>
    </>
  );
}

/** The ends of what is shown, as on the model. */
function useRange(): readonly [number, number] {
  const look = useView((state) => state.look);
  const pin = useView((state) => state.pin);
  const tap = useResults((state) => (pin === null ? undefined : state.taps.get(pin)));
  return useMemo(
    () => (look === 'exaggerated' && pin !== null ? rangeOfLook(look, tap) : [0, 1]),
    [look, pin, tap],
  );
}

interface NoteProps {
  readonly values: FlatValues;
  readonly texel: number | null;
}

/** The value under the pointer, and what can be done. */
function FlatNote({ values: { texels, lanes, size }, texel }: NoteProps) {
  const k = texel === null ? -1 : texels.indexOf(texel);
  return (
    <p className="bg-panel px-1 text-soft" data-testid="flat-note">
      {texel === null ? (
        'Lines are seams. Wheel and drag look closer; Alt and a click explains a texel.'
      ) : (
        <>
          Texel{' '}
          <span className="figures">
            {String(texel % size)}, {String(Math.floor(texel / size))}
          </span>
          :{' '}
          <span className="figures text-ink">
            {k < 0
              ? 'no surface here'
              : lanes.map((lane) => shortNumber(lane[k] ?? Number.NaN)).join(' ')}
          </span>
        </>
      )}
    </p>
  );
}

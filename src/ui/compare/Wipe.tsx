'use client';
import { useEffect, useRef, useState } from 'react';
import type { PointerEvent } from 'react';
import { Slider, ToggleGroup } from 'radix-ui';
import { differencePicture } from '@/core/compare/picture-difference';
import { Flicker } from './Flicker';
import { ShownPicture, readPicture } from './ShownPicture';
import type { PictureSource } from './ShownPicture';

/** How two pictures of the same thing are compared. */
const WAYS = [
  { id: 'wipe', title: 'Wipe', help: 'One left of the line, the other right of it' },
  { id: 'beside', title: 'Side by side', help: 'Both whole' },
  { id: 'flicker', title: 'Flicker', help: 'One after the other at the same place' },
  { id: 'difference', title: 'Difference', help: 'Grey where they are the same, exaggerated' },
] as const;
type Way = (typeof WAYS)[number]['id'];
/** How much a difference is exaggerated. */
const STRENGTHS = [1, 4, 16] as const;

interface Props {
  /** Of equal size. */
  readonly before: PictureSource;
  readonly after: PictureSource;
  readonly beforeTitle: string;
  readonly afterTitle: string;
  /** What is compared, in words. */
  readonly label: string;
  /** Larger, for pictures drawn here; else as wide as a stored picture looks well. */
  readonly isLarge?: boolean;
}

/** Two pictures of the same thing: a line moved between them, both, or their difference. */
export function Wipe({ before, after, beforeTitle, afterTitle, label, isLarge = false }: Props) {
  const [way, setWay] = useState<Way>('wipe');
  const [strength, setStrength] = useState<number>(4);
  return (
    <figure
      className={`m-0 ${isLarge ? 'max-w-[290px]' : 'max-w-[300px]'}`}
      data-testid="wipe"
      data-way={way}
    >
      <ToggleGroup.Root
        type="single"
        value={way}
        aria-label={`Ways of comparing ${label}`}
        className="mb-1 flex flex-wrap gap-1 text-[12px]"
        onValueChange={(next) => {
          const chosen = WAYS.find(({ id }) => id === next);
          if (chosen) setWay(chosen.id);
        }}
      >
        {WAYS.map(({ id, title, help }) => (
          <ToggleGroup.Item
            key={id}
            value={id}
            title={help}
            className={
              'min-h-[24px] border-b-2 px-1 ' +
              (way === id ? 'border-weld' : 'border-transparent text-soft')
            }
          >
            {title}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      {way === 'difference' ? <Strengths value={strength} onChange={setStrength} /> : null}
      {way === 'wipe' ? <WipedPictures {...{ before, after, label }} /> : null}
      {way === 'beside' ? (
        <div className="grid grid-cols-2 gap-1">
          <ShownPicture source={before} label={`${label}, ${beforeTitle}`} />
          <ShownPicture source={after} label={`${label}, ${afterTitle}`} />
        </div>
      ) : null}
      {way === 'flicker' ? (
        <Flicker {...{ before, after, beforeTitle, afterTitle, label }} />
      ) : null}
      {way === 'difference' ? (
        <DifferenceCanvas {...{ before, after, label }} exaggerate={strength} />
      ) : null}
      <figcaption className="mt-0.5 flex justify-between text-[11px] text-soft">
        <span>{beforeTitle}</span>
        <span>{afterTitle}</span>
      </figcaption>
    </figure>
  );
}

function Strengths({
  value,
  onChange,
}: {
  readonly value: number;
  readonly onChange: (strength: number) => void;
}) {
  return (
    <div role="group" aria-label="How much it is exaggerated" className="flex text-[12px]">
      {STRENGTHS.map((times) => (
        <button
          key={times}
          type="button"
          aria-pressed={value === times}
          className={`figures min-h-[24px] min-w-[24px] px-1 ${value === times ? '' : 'text-soft'}`}
          onClick={() => {
            onChange(times);
          }}
        >
          {times}×
        </button>
      ))}
    </div>
  );
}

function WipedPictures({ before, after, label }: Pick<Props, 'before' | 'after' | 'label'>) {
  const [at, setAt] = useState(50);
  const drag = (event: PointerEvent<HTMLDivElement>): void => {
    if (event.buttons === 0) return;
    const { left, width } = event.currentTarget.getBoundingClientRect();
    setAt(Math.min(100, Math.max(0, ((event.clientX - left) / width) * 100)));
  };
  return (
    <div>
      <div
        className="relative cursor-ew-resize touch-none"
        onPointerDown={(event) => {
          event.preventDefault();
          event.currentTarget.setPointerCapture(event.pointerId);
          drag(event);
        }}
        onPointerMove={drag}
      >
        <ShownPicture source={after} label={`${label}, both`} />
        <div className="absolute inset-0" style={{ clipPath: `inset(0 ${String(100 - at)}% 0 0)` }}>
          <ShownPicture source={before} label="" />
        </div>
        <div className="absolute inset-y-0 w-px bg-weld" style={{ left: `${String(at)}%` }} />
      </div>
      <Slider.Root
        value={[at]}
        max={100}
        className="relative flex h-[24px] items-center"
        onValueChange={([next = 50]) => {
          setAt(next);
        }}
      >
        <Slider.Track className="h-[3px] flex-1 bg-line" />
        <Slider.Thumb
          aria-label={`Line between the pictures of ${label}`}
          className="block h-6 w-2 border border-ink bg-panel"
        />
      </Slider.Root>
    </div>
  );
}

interface DifferenceProps extends Pick<Props, 'before' | 'after' | 'label'> {
  readonly exaggerate: number;
}

function DifferenceCanvas({ before, after, label, exaggerate }: DifferenceProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let isWanted = true;
    void Promise.all([readPicture(before), readPicture(after)]).then(
      ([a, b]) => {
        const target = canvas.current;
        if (!isWanted || !target || a.pixels.length !== b.pixels.length) return;
        const { width, height, pixels } = differencePicture(a, b, exaggerate);
        target.width = width;
        target.height = height;
        target.getContext('2d')?.putImageData(new ImageData(pixels, width, height), 0, 0);
      },
      () => undefined,
    );
    return () => {
      isWanted = false;
    };
  }, [before, after, exaggerate]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={`Where ${label} differs, exaggerated ${String(exaggerate)} times`}
      className="aspect-square w-full bg-stage object-contain"
    />
  );
}

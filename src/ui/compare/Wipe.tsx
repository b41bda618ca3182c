'use client';
import NextImage from 'next/image';
import { useEffect, useRef, useState } from 'react';
import { Slider, ToggleGroup } from 'radix-ui';
import { differencePicture } from '@/core/compare/picture-difference';
import type { Picture } from '@/core/evaluate/picture';

/** How two pictures of the same thing are compared. */
const WAYS = [
  { id: 'wipe', title: 'Wipe', help: 'One left of the line, the other right of it' },
  { id: 'beside', title: 'Side by side', help: 'Both whole' },
  { id: 'difference', title: 'Difference', help: 'Grey where they are the same, exaggerated' },
] as const;
type Way = (typeof WAYS)[number]['id'];
/** How much a difference is exaggerated. */
const STRENGTHS = [1, 4, 16] as const;

interface Props {
  /** Addresses of the pictures, of equal size. */
  readonly before: string;
  readonly after: string;
  readonly beforeTitle: string;
  readonly afterTitle: string;
  /** What is compared, in words. */
  readonly label: string;
}

/** Two pictures of the same thing: a line moved between them, both, or their difference. */
export function Wipe({ before, after, beforeTitle, afterTitle, label }: Props) {
  const [way, setWay] = useState<Way>('wipe');
  const [strength, setStrength] = useState<number>(4);
  return (
    <figure className="m-0 max-w-[300px]" data-testid="wipe" data-way={way}>
      <ToggleGroup.Root
        type="single"
        value={way}
        aria-label={`How ${label} is compared`}
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
          <Framed src={before} label={`${label}, ${beforeTitle}`} />
          <Framed src={after} label={`${label}, ${afterTitle}`} />
        </div>
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

function Framed({ src, label }: { readonly src: string; readonly label: string }) {
  // Stored pictures need the session's cookie and have the size at which they are shown.
  return (
    <NextImage
      unoptimized
      src={src}
      alt={label}
      width={192}
      height={192}
      className="aspect-square w-full bg-stage object-contain"
    />
  );
}

function WipedPictures({ before, after, label }: Pick<Props, 'before' | 'after' | 'label'>) {
  const [at, setAt] = useState(50);
  return (
    <div>
      <div className="relative">
        <Framed src={after} label={`${label}, both`} />
        <div className="absolute inset-0" style={{ clipPath: `inset(0 ${String(100 - at)}% 0 0)` }}>
          <Framed src={before} label="" />
        </div>
        <div className="absolute inset-y-0 w-px bg-weld" style={{ left: `${String(at)}%` }} />
      </div>
      <Slider.Root
        value={[at]}
        max={100}
        className="relative flex h-6 items-center"
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

async function readPicture(address: string): Promise<Picture> {
  const image = new Image();
  image.src = address;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = image.naturalWidth;
  canvas.height = image.naturalHeight;
  const context = canvas.getContext('2d');
  context?.drawImage(image, 0, 0);
  const data = context?.getImageData(0, 0, canvas.width, canvas.height).data;
  return {
    width: canvas.width,
    height: canvas.height,
    pixels: new Uint8ClampedArray(data ?? []),
  };
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

'use client';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Triple } from '@/core/graph/document';
import { decodeSrgb } from '@/core/surface/colour-science';

interface Props {
  readonly label: string;
  readonly onPick: (colour: Triple) => void;
}

/** Longest side of the picture as it is kept, pixels. */
const LONGEST = 1024;
/** Larger files are not read. */
const MOST_BYTES = 64 * 2 ** 20;

/** The picture opened last, for as long as the page lives. */
let kept: ImageBitmap | null = null;

async function openPicture(file: File): Promise<ImageBitmap | null> {
  if (file.size > MOST_BYTES) {
    toast(`“${file.name}” has more than 64 MB: nothing was opened. Take a smaller copy of it.`);
    return null;
  }
  try {
    const whole = await createImageBitmap(file);
    const scale = Math.min(1, LONGEST / Math.max(whole.width, whole.height));
    return await createImageBitmap(whole, {
      resizeWidth: Math.max(1, Math.round(whole.width * scale)),
      resizeHeight: Math.max(1, Math.round(whole.height * scale)),
    });
  } catch {
    toast(`“${file.name}” is no picture this browser can read. A PNG, JPEG or WebP is.`);
    return null;
  }
}

/** A reference picture, beside the work and not part of it: a click takes the colour there. */
export function ReferenceImage({ label, onPick }: Props) {
  const [picture, setPicture] = useState(kept);
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d', { willReadFrequently: true });
    if (!context || !picture) return;
    context.canvas.width = picture.width;
    context.canvas.height = picture.height;
    context.drawImage(picture, 0, 0);
  }, [picture]);
  const take = (event: React.MouseEvent<HTMLCanvasElement>): void => {
    const { currentTarget: target, clientX, clientY } = event;
    const { left, top, width, height } = target.getBoundingClientRect();
    const x = Math.floor(((clientX - left) / width) * target.width);
    const y = Math.floor(((clientY - top) / height) * target.height);
    const pixel = target.getContext('2d')?.getImageData(x, y, 1, 1).data;
    if (!pixel) return;
    const channel = (k: number): number => decodeSrgb((pixel[k] ?? 0) / 255);
    onPick([channel(0), channel(1), channel(2)]);
  };
  return (
    <div>
      <input
        type="file"
        accept="image/*"
        aria-label={`Picture for ${label.toLowerCase()}`}
        className="w-full text-[11px]"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (!file) return;
          void openPicture(file).then((opened) => {
            if (!opened) return;
            kept = opened;
            setPicture(opened);
          });
        }}
      />
      {picture ? (
        <canvas
          ref={canvas}
          role="img"
          aria-label="Reference picture: a click takes its colour there"
          className="mx-auto mt-1 max-h-[200px] max-w-full cursor-crosshair"
          onClick={take}
        />
      ) : null}
    </div>
  );
}

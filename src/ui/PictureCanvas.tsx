'use client';
import { useEffect, useRef } from 'react';

interface Props {
  readonly picture:
    | {
        readonly width: number;
        readonly height: number;
        readonly pixels: Uint8ClampedArray<ArrayBuffer>;
      }
    | undefined;
  readonly label: string;
  readonly className?: string;
}

/** Draws pixels as they are. */
export function PictureCanvas({ picture, label, className = '' }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    // A drawing context would ask the graphics processor for its own, and wait there while the
    // stage is drawn.
    const context = canvas.current?.getContext('bitmaprenderer');
    if (!context || !picture) return;
    let isOld = false;
    void createImageBitmap(new ImageData(picture.pixels, picture.width, picture.height)).then(
      (bitmap) => {
        if (isOld) return;
        context.canvas.width = picture.width;
        context.canvas.height = picture.height;
        context.transferFromImageBitmap(bitmap);
      },
    );
    return () => {
      isOld = true;
    };
  }, [picture]);
  return <canvas ref={canvas} role="img" aria-label={label} className={className} />;
}

'use client';
import { useEffect, useRef } from 'react';

interface Props { readonly picture: { readonly width: number; readonly height: number; readonly pixels: Uint8ClampedArray<ArrayBuffer> } | undefined; readonly label: string; readonly className?: string }

/** Draws pixels as they are. */
export function PictureCanvas({ picture, label, className = '' }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !picture) return;
    context.canvas.width = picture.width;
    context.canvas.height = picture.height;
    context.putImageData(new ImageData(picture.pixels, picture.width, picture.height), 0, 0);
  }, [picture]);
  return <canvas ref={canvas} role="img" aria-label={label} className={className} />;
}

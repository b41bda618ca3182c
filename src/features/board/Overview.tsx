'use client';
import type { Viewport } from '@xyflow/react';
import { useEffect, useRef } from 'react';
import type { Picture } from '@/core/evaluate/picture';
import type { OverviewDrawing } from './overview-drawing';
import { drawOverview } from './overview-drawing';

interface Props {
  readonly drawing: OverviewDrawing;
  readonly viewport: Viewport;
  readonly width: number;
  readonly height: number;
}

/** Pictures as the browser draws them, made once for each. */
const bitmaps = new WeakMap<Picture, ImageBitmap | 'coming'>();
/** Pictures are drawn this small here, pixels. */
const SIDE = 48;

function bitmapOf(picture: Picture, onReady: () => void): ImageBitmap | null {
  const known = bitmaps.get(picture);
  if (known) return known === 'coming' ? null : known;
  bitmaps.set(picture, 'coming');
  const pixels = new ImageData(picture.pixels, picture.width, picture.height);
  void createImageBitmap(pixels, {
    resizeWidth: SIDE,
    resizeHeight: SIDE,
    resizeQuality: 'medium',
  }).then((bitmap) => {
    bitmaps.set(picture, bitmap);
    onReady();
  });
  return null;
}

/** The colours of the look that is on; each is asked of the browser once. */
function coloursOf(element: HTMLElement): (name: string) => string {
  const style = getComputedStyle(element);
  const known = new Map<string, string>();
  return (name) => {
    const colour = known.get(name) ?? style.getPropertyValue(name);
    known.set(name, colour);
    return colour;
  };
}

/**
 * The whole board as one picture, for when it is seen from so far that its cards are only
 * pictures: their elements over it are empty, and are there to be chosen and moved.
 */
export function Overview({ drawing, viewport, width, height }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    // Drawn by the processor: asking the graphics processor would wait for the stage.
    const context = element?.getContext('2d', { willReadFrequently: true });
    if (!element || !context) return;
    let frame = 0;
    const draw = (): void => {
      frame = 0;
      const ratio = Math.min(2, window.devicePixelRatio);
      element.width = Math.round(width * ratio);
      element.height = Math.round(height * ratio);
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      const colour = coloursOf(element);
      drawOverview(context, drawing, {
        viewport,
        width,
        height,
        colour,
        bitmap: (picture) => bitmapOf(picture, later),
      });
    };
    const later = (): void => {
      frame ||= requestAnimationFrame(draw);
    };
    draw();
    return () => {
      cancelAnimationFrame(frame);
    };
  }, [drawing, viewport, width, height]);
  return (
    <canvas
      ref={canvas}
      aria-hidden
      data-testid="overview"
      className="pointer-events-none absolute inset-0 h-full w-full"
    />
  );
}

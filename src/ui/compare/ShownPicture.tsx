'use client';
import NextImage from 'next/image';
import type { Picture } from '@/core/evaluate/picture';
import { PictureCanvas } from '../PictureCanvas';

/** A picture to be compared: the address of a stored one, or the pixels of one drawn here. */
export type PictureSource = string | Picture;

const LOOK = 'aspect-square w-full bg-stage object-contain';

/** A picture as large as its place; a stored one needs the session's cookie. */
export function ShownPicture({
  source,
  label,
}: {
  readonly source: PictureSource;
  readonly label: string;
}) {
  if (typeof source !== 'string')
    return <PictureCanvas picture={source} label={label} className={`block ${LOOK}`} />;
  return (
    <NextImage unoptimized src={source} alt={label} width={192} height={192} className={LOOK} />
  );
}

/** The pixels of a picture. @throws DOMException where a stored one cannot be read */
export async function readPicture(source: PictureSource): Promise<Picture> {
  if (typeof source !== 'string') return source;
  const image = new Image();
  image.src = source;
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

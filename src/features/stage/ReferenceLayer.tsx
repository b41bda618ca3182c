'use client';
import NextImage from 'next/image';
import type { MouseEvent } from 'react';
import { toast } from 'sonner';
import { listReferences } from '@/core/edit/references';
import type { SceneReference } from '@/core/graph/document';
import { decodeSrgb } from '@/core/surface/colour-science';
import { colourText } from '@/core/surface/colour-models';
import { useDocument } from '@/state/use-stores';
import { copyColour } from '@/ui/colours';
import { imageAddress } from './ReferencesPanel';

/** Copies the colour of a shown picture where it was clicked. */
function copyFrom(event: MouseEvent<HTMLImageElement>): void {
  const { currentTarget: image, clientX, clientY } = event;
  const { left, top, width, height } = image.getBoundingClientRect();
  const canvas = document.createElement('canvas');
  canvas.width = image.naturalWidth;
  canvas.height = image.naturalHeight;
  const context = canvas.getContext('2d');
  context?.drawImage(image, 0, 0);
  const x = Math.floor(((clientX - left) / width) * canvas.width);
  const y = Math.floor(((clientY - top) / height) * canvas.height);
  const pixel = context?.getImageData(x, y, 1, 1).data;
  if (!pixel) return;
  const channel = (k: number): number => decodeSrgb((pixel[k] ?? 0) / 255);
  const colour = [channel(0), channel(1), channel(2)] as const;
  copyColour(colour);
  void navigator.clipboard.writeText(colourText(colour)).catch(() => undefined);
  toast('Copied the colour; paste it into any colour field.');
}

const nameOf = ({ image }: SceneReference): string => image.name || 'picture';

/** The references that stand behind the model, or over it. */
export function ReferenceLayer({ isBehind }: { readonly isBehind: boolean }) {
  const references = useDocument((state) => listReferences(state.document));
  return references
    .filter(({ place }) =>
      isBehind ? place === 'behind' : place === 'over' || place === 'difference',
    )
    .map((reference) => (
      <NextImage
        key={reference.id}
        unoptimized
        fill
        src={imageAddress(reference.image.image)}
        alt={`Reference ${nameOf(reference)}`}
        className="pointer-events-none object-contain"
        style={{
          opacity: reference.opacity,
          mixBlendMode: reference.place === 'difference' ? 'difference' : 'normal',
        }}
      />
    ));
}

/** The references beside the model. */
export function ReferencesBeside() {
  const references = useDocument((state) => listReferences(state.document));
  const beside = references.filter(({ place }) => place === 'beside');
  if (beside.length === 0) return null;
  return (
    <div className="absolute right-1 bottom-8 flex max-h-[60%] w-[34%] flex-col items-end gap-1">
      {beside.map((reference) => (
        <NextImage
          key={reference.id}
          unoptimized
          width={320}
          height={320}
          src={imageAddress(reference.image.image)}
          alt={`Reference ${nameOf(reference)}: a click copies its colour there`}
          className="h-auto max-h-full w-full min-w-0 cursor-crosshair object-contain"
          onClick={copyFrom}
        />
      ))}
    </div>
  );
}

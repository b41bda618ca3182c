'use client';
import Image from 'next/image';
import { useEffect, useState } from 'react';
import { readImage } from '@/contract/images';
import type { ImageValue, NodeInstance } from '@/core/graph/document';
import { getInputValue } from '@/core/compile/uniforms';
import { isTriple } from '@/core/graph/document';
import { routeAddress } from '@/state/api';
import { watchArriving } from '@/state/probe';
import { useProbe, useView } from '@/state/use-stores';

interface Props {
  readonly node: NodeInstance;
  readonly value: ImageValue;
  /** The input that says where the image is read. */
  readonly coordinates: string;
}
const HEIGHT = 96;

/** Where a coordinate falls in an image that repeats, 0–1. */
const fraction = (x: number): number => x - Math.floor(x);

/**
 * The image flat, with a mark where the surface under the pointer reads it. Formats that browsers
 * do not show stand as an empty sheet with the mark.
 */
export function FlatImage({ node, value, coordinates }: Props) {
  const path = useView((state) => state.path);
  const place = [...path, node.id].join('/');
  useEffect(
    () => watchArriving({ path: place.split('/'), input: coordinates }),
    [place, coordinates],
  );
  const [canShow, setCanShow] = useState(true);
  const at = useSampledPlace(node);
  return (
    <figure className="relative w-fit border border-line bg-stage" data-testid="flat-image">
      {canShow ? (
        <Image
          unoptimized
          width={HEIGHT}
          height={HEIGHT}
          alt={`${value.name}, flat`}
          src={routeAddress(readImage, { hash: value.image })}
          className="h-[96px] w-auto max-w-[220px] object-fill"
          onError={() => {
            setCanShow(false);
          }}
        />
      ) : (
        <div style={{ height: HEIGHT, width: HEIGHT }} />
      )}
      {at ? (
        <span
          className="sampled-place"
          data-testid="sampled-place"
          title={`u ${at[0].toFixed(4)}, v ${at[1].toFixed(4)}`}
          style={{
            left: `${String(fraction(at[0]) * 100)}%`,
            top: `${String(fraction(at[1]) * 100)}%`,
          }}
        />
      ) : null}
    </figure>
  );
}

/** Where the surface under the pointer reads the image, in image sides; null beside the model. */
function useSampledPlace(node: NodeInstance): readonly [number, number] | null {
  const reading = useProbe((state) => state.reading);
  const [u, v] = reading ?? [];
  if (u === undefined || v === undefined) return null;
  const repeat = getInputValue(node, 'repeat');
  const offset = getInputValue(node, 'offset');
  const times = typeof repeat === 'number' ? repeat : 1;
  const [right, up] = isTriple(offset) ? offset : [0, 0];
  return [u * times + right, v * times + up];
}

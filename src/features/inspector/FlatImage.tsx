'use client';
import Image from 'next/image';
import { useEffect, useState } from 'react';
import { readImage } from '@/contract/images';
import type { ImageValue, NodeInstance } from '@/core/graph/document';
import { getInputValue } from '@/core/compile/uniforms';
import { isTriple } from '@/core/graph/document';
import { routeAddress } from '@/state/api';
import { watchArriving } from '@/state/probe';
import { useBoard, useProbe, useResults, useView } from '@/state/use-stores';

interface Props {
  readonly node: NodeInstance;
  readonly value: ImageValue;
  /** The input that says where the image is read: a place, or how far along its row. */
  readonly coordinates: string;
  /** Whether rows of it are read, one for each setting of Row. */
  readonly isStrip: boolean;
}
const HEIGHT = 96;

/** Where a coordinate falls in an image that repeats, 0–1. */
const fraction = (x: number): number => x - Math.floor(x);

/**
 * The image flat, with a mark where the surface under the pointer reads it. Formats that browsers
 * do not show stand as an empty sheet with the mark.
 */
export function FlatImage({ node, value, coordinates, isStrip }: Props) {
  const path = useView((state) => state.path);
  const place = [...path, node.id].join('/');
  useEffect(
    () => watchArriving({ path: place.split('/'), input: coordinates }),
    [place, coordinates],
  );
  const [canShow, setCanShow] = useState(true);
  const spot = useSampledPlace(node);
  const strip = useSampledRow(node, value);
  const at = isStrip ? strip.place : spot;
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
      {isStrip && strip.row !== null ? (
        <span
          className="pointer-events-none absolute inset-x-0 h-0 border-t border-weld"
          data-testid="sampled-row"
          title={`Row ${String(strip.index)}`}
          style={{ top: `${String(strip.row * 100)}%` }}
        />
      ) : null}
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

interface SampledRow {
  /** Which row, from 0 at the top, and its middle, 0–1; null while either is unknown. */
  readonly index: number | null;
  readonly row: number | null;
  /** Where the surface under the pointer reads it; null beside the model. */
  readonly place: readonly [number, number] | null;
}

/** The row of a strip that is read, and where the surface under the pointer reads it. */
function useSampledRow(node: NodeInstance, { image }: ImageValue): SampledRow {
  const along = useProbe((state) => state.reading?.[0]);
  const state = useResults(({ images }) => images.get(image));
  const height = state?.state === 'ready' ? state.facts.height : null;
  const isWired = useBoard().network.strands.some(
    ({ to }) => to.node === node.id && to.input === 'row',
  );
  const typed = getInputValue(node, 'row');
  if (height === null || isWired || typeof typed !== 'number')
    return { index: null, row: null, place: null };
  const between = node.options['between'] === 'mix' ? typed : Math.floor(typed + 0.5);
  const index = Math.min(height - 1, Math.max(0, between));
  const row = (index + 0.5) / height;
  if (along === undefined) return { index, row, place: null };
  const outside = node.options['outside'] ?? 'hold';
  const back = Math.abs(along - 2 * Math.floor(along / 2 + 0.5));
  const t = outside === 'repeat' ? fraction(along) : outside === 'mirror' ? back : along;
  // The middle of the last texel and that of the first stand in for the ends.
  return { index, row, place: [Math.min(0.9999, Math.max(0, t)), row] };
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

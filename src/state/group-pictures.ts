'use client';
import { useEffect, useState } from 'react';
import type { DialValues } from '../core/edit/variants';
import type { SharedPicture } from '../core/notes/group-painter';
import type { GroupDefinition } from '../core/graph/document';
import { unwrap } from '../workers/answer';
import type { Evaluation } from './evaluation';
import { stores } from './stores';
import { useDocument, useView } from './use-stores';

/** How long nothing must change before pictures are painted, milliseconds. */
const REST = 250;

/**
 * Pictures of a group's card at settings of its dials, as the camera sees the current model; those
 * of before while new ones are painted.
 * @param path the nodes that lead to the card, it included
 * @param size of a picture, pixels a side
 */
export function useGroupPictures(
  evaluation: Evaluation | null,
  group: GroupDefinition,
  path: readonly string[],
  settings: readonly DialValues[],
  size: number,
): readonly SharedPicture[] {
  const [made, setMade] = useState<readonly SharedPicture[]>([]);
  const camera = useView((state) => state.camera);
  const modelId = useDocument((state) => state.modelId);
  const wanted = JSON.stringify(settings);
  const place = path.join('/');
  useEffect(() => {
    let live = true;
    const paint = async (): Promise<void> => {
      if (!camera || !evaluation || wanted === '[]') return;
      const { background, documents } = evaluation.pool;
      const found = await unwrap(
        background.paintGroup({
          document: documents.bring(background, stores.document.getState().document),
          path: place.split('/'),
          settings: JSON.parse(wanted) as DialValues[],
          model: modelId,
          size,
          camera: { ...camera, aspect: 1 },
        }),
      );
      if (live) setMade(found);
    };
    const timer = setTimeout(() => {
      // What a network does wrong is said elsewhere; the pictures of before stay.
      paint().catch(() => undefined);
    }, REST);
    return () => {
      live = false;
      clearTimeout(timer);
    };
  }, [camera, evaluation, group, modelId, place, size, wanted]);
  return made;
}

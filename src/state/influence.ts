'use client';
import { useEffect, useState } from 'react';
import type { Influence } from '../core/evaluate/influence';
import { unwrap } from '../workers/answer';
import type { Evaluation } from './evaluation';
import { useDocument, useProbe, useView } from './use-stores';

/** Columns of the grid that a region is found on. */
const GRID = 180;
/** How long a value is pointed at before its region is found, milliseconds. */
const REST = 60;

/** Where the value that is pointed at changes what the stage shows; null while none is. */
export function useInfluence(evaluation: Evaluation): Influence | null {
  const [found, setFound] = useState<Influence | null>(null);
  const place = useProbe((state) => state.pointedValue);
  const camera = useView((state) => state.camera);
  const pin = useView((state) => state.pin);
  const modelId = useDocument((state) => state.modelId);
  const document = useDocument((state) => (place ? state.document : null));
  useEffect(() => {
    if (!place || !camera || !document) return;
    let live = true;
    const { background, documents } = evaluation.pool;
    const ask = async (isQuick: boolean): Promise<void> => {
      const made = await unwrap(
        background.influence({
          document: documents.bring(background, document),
          model: modelId,
          place,
          pin,
          camera,
          width: GRID,
          isQuick,
        }),
      );
      if (live) setFound(made);
    };
    // What the value changes just now is there soon; what it could change takes longer.
    const find = async (): Promise<void> => {
      await ask(true);
      if (live) await ask(false);
    };
    const timer = setTimeout(() => {
      // The findings say what is wrong with the document; there is no region meanwhile.
      find().catch(() => {
        if (live) setFound(null);
      });
    }, REST);
    return () => {
      live = false;
      clearTimeout(timer);
      setFound(null);
    };
  }, [evaluation, place, camera, pin, modelId, document]);
  return place ? found : null;
}

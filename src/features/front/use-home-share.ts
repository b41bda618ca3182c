import { useState } from 'react';
import type { InputValue } from '@/core/graph/document';
import type { Evaluation } from '@/state/evaluation';
import { stores } from '@/state/stores';
import { shareText } from '@/ui/papers/SheetLines';
import { unwrap } from '@/workers/answer';

/** Of the pictures that are compared, pixels a side. */
const SIDE = 128;

/** Tells how much of the picture another home of a dial changes; asked before it is changed. */
export function useHomeShare(evaluation: Evaluation, path: readonly string[], dial: string) {
  const [said, setSaid] = useState('');
  const ask = (home: InputValue): void => {
    const { document, modelId } = stores.document.getState();
    const { camera } = stores.view.getState();
    const { background, documents } = evaluation.pool;
    unwrap(
      background.paintGroup({
        document: documents.bring(background, document),
        path,
        settings: [{ [dial]: home }],
        model: modelId,
        size: SIDE,
        ...(camera ? { camera: { ...camera, aspect: 1 } } : {}),
      }),
    ).then(
      ([made]) => {
        const share = made?.share ?? 0;
        setSaid(
          share === 0
            ? 'The new home changes nothing in the picture.'
            : `The new home changes ${shareText(share)} of the picture.`,
        );
      },
      () => {
        setSaid('');
      },
    );
  };
  return { said, ask };
}

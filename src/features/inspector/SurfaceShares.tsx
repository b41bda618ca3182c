'use client';
import { useEffect, useState } from 'react';
import { getNetwork } from '@/core/edit/board';
import type { SharePicture, SurfaceShare } from '@/core/evaluate/layer-stack';
import type { BoardId } from '@/core/graph/document';
import { percent } from '@/core/nodes/advice';
import { select } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import { readSharePictures, readShares } from '@/state/surface-shares';
import { useDocument, useMeasuring, useView } from '@/state/use-stores';
import { PictureCanvas } from '@/ui/PictureCanvas';
import { titleInList } from '@/core/compile/told-apart';

interface Props {
  readonly node: string;
  readonly board: BoardId;
  readonly evaluation: Evaluation;
}
/** How long the document rests before it is measured anew, milliseconds. */
const REST = 250;
/** Of a picture, pixels a side: drawn at half of that. */
const SIDE = 72;
/** Below this share nobody sees a surface. */
const UNSEEN = 0.001;

interface Shown {
  readonly shares: readonly SurfaceShare[];
  readonly pictures: readonly SharePicture[];
}
const NONE: Shown = { shares: [], pictures: [] };

function useShares(evaluation: Evaluation): Shown {
  const document = useDocument((state) => state.document);
  const camera = useView((state) => state.camera);
  const isMeasuring = useMeasuring(({ progress }) => progress !== null);
  const [shown, setShown] = useState(NONE);
  useEffect(() => {
    let isLate = false;
    const find = async (): Promise<void> => {
      const shares = await readShares(evaluation);
      if (!isLate) setShown((now) => ({ ...now, shares }));
      const pictures = shares.length < 2 ? [] : await readSharePictures(evaluation, SIDE);
      if (!isLate) setShown({ shares, pictures });
    };
    const timer = setTimeout(() => {
      find().catch(() => {
        // The findings say what is wrong with the document.
        if (!isLate) setShown(NONE);
      });
    }, REST);
    return () => {
      isLate = true;
      clearTimeout(timer);
    };
  }, [evaluation, document, camera, isMeasuring]);
  return shown;
}

/** What is seen in the end of each surface that is laid over or under others. */
export function SurfaceShares({ node, board, evaluation }: Props) {
  const { shares, pictures } = useShares(evaluation);
  const document = useDocument((state) => state.document);
  const network = getNetwork(document, board);
  if (shares.length < 2) return null;
  const nameOf = (id: string): string => {
    const found = network.nodes.find((each) => each.id === id);
    return found ? titleInList(document, network, found) : id;
  };
  return (
    <section className="mb-2 max-w-[520px] text-[12px]" data-testid="surface-shares">
      <h3 className="text-soft">
        What is seen of each surface through all layers, of what is laid of it
      </h3>
      <ul>
        {shares.map((each) => (
          <li key={each.node} className="grid grid-cols-[36px_1fr_120px_130px] items-center gap-2">
            <PictureCanvas
              picture={pictures.find(({ node: id }) => id === each.node)?.picture}
              label={`Where ${nameOf(each.node)} is still seen`}
              className="h-[36px] w-[36px] bg-stage"
            />
            <button
              type="button"
              className={
                'truncate text-left underline ' + (each.node === node ? 'font-semibold' : '')
              }
              onClick={() => {
                select([each.node]);
              }}
            >
              {nameOf(each.node)}
            </button>
            <span className="relative h-[7px] bg-line">
              <span
                className="absolute h-full bg-seam"
                style={{ width: `${String(each.covers * 100)}%` }}
              />
              <span
                className="absolute h-full bg-ink"
                style={{ width: `${String(each.share * 100)}%` }}
              />
            </span>
            <span
              className={`figures ${each.share < UNSEEN ? 'text-madder' : ''}`}
              title={`Laid on ${percent(each.covers)} of the model; seen on ${percent(each.share)}`}
            >
              {each.share < UNSEEN ? '0 %: hidden' : percent(each.share)} of {percent(each.covers)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

'use client';
import { useEffect, useState } from 'react';
import { findNodeDefinition } from '@/core/compile/catalogue';
import { getNetwork } from '@/core/edit/board';
import type { SurfaceShare } from '@/core/evaluate/layer-stack';
import type { BoardId } from '@/core/graph/document';
import { percent } from '@/core/nodes/advice';
import { select } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import { useDocument } from '@/state/use-stores';

interface Props {
  readonly node: string;
  readonly board: BoardId;
  readonly evaluation: Evaluation;
}
/** How long the document rests before it is measured anew, milliseconds. */
const REST = 250;
/** Below this share nobody sees a surface. */
const UNSEEN = 0.001;

function useShares(evaluation: Evaluation): readonly SurfaceShare[] {
  const document = useDocument((state) => state.document);
  const [shares, setShares] = useState<readonly SurfaceShare[]>([]);
  useEffect(() => {
    let isLate = false;
    const timer = setTimeout(() => {
      evaluation.surfaceShares().then(
        (found) => {
          if (!isLate) setShares(found);
        },
        () => {
          // The findings say what is wrong with the document.
          if (!isLate) setShares([]);
        },
      );
    }, REST);
    return () => {
      isLate = true;
      clearTimeout(timer);
    };
  }, [evaluation, document]);
  return shares;
}

/** What is seen in the end of each surface that is laid over or under others. */
export function SurfaceShares({ node, board, evaluation }: Props) {
  const shares = useShares(evaluation);
  const nodes = useDocument(({ document }) => getNetwork(document, board).nodes);
  if (shares.length < 2) return null;
  const nameOf = (id: string): string => {
    const found = nodes.find((each) => each.id === id);
    return found?.name ?? (found && findNodeDefinition(found)?.title) ?? id;
  };
  return (
    <section className="mb-2 max-w-[520px] text-[12px]" data-testid="surface-shares">
      <h3 className="text-soft">
        What is seen of each surface through all layers, of what is laid of it
      </h3>
      <ul>
        {shares.map((each) => (
          <li key={each.node} className="grid grid-cols-[1fr_120px_130px] items-center gap-2">
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

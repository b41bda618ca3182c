'use client';
import { useReactFlow } from '@xyflow/react';
import { useCallback, useEffect } from 'react';
import { getNetwork } from '@/core/edit/board';
import { currentBoard } from '@/state/editing';
import { stores } from '@/state/stores';
import { useBoard, useDocument, useView } from '@/state/use-stores';

/** The zoom below which a card that is gone to cannot be read. */
const READABLE = 0.6;
/** How long a board that was just opened takes to lay its cards out, milliseconds. */
const LAID_OUT = { all: 120, one: 180 };

function later(ms: number, run: () => void): () => void {
  const timer = setTimeout(run, ms);
  return () => {
    clearTimeout(timer);
  };
}

/**
 * Shows all cards of a board when it is opened or when that is asked for, and the one that a
 * finding leads to. @returns what shows all cards now
 */
export function useFraming(): () => void {
  const flow = useReactFlow();
  const { board } = useBoard();
  const materialId = useDocument((state) => state.materialId);
  const fitRequests = useView((state) => state.fitRequests);
  const revealed = useView((state) => state.revealed);
  const fit = useCallback(() => {
    const { document } = stores.document.getState();
    const cards = getNetwork(document, currentBoard()).nodes.map(({ id }) => ({ id }));
    if (cards.length > 0)
      void flow.fitView({
        nodes: cards,
        padding: { left: '112px', right: '112px', top: '16px', bottom: '24px' },
        maxZoom: 1.1,
        duration: 0,
      });
  }, [flow]);
  useEffect(() => later(LAID_OUT.all, fit), [fit, board, materialId, fitRequests]);
  useEffect(() => {
    if (revealed.length === 0) return;
    return later(LAID_OUT.one, () => {
      const card = revealed.map((id) => flow.getInternalNode(id)).find(Boolean);
      if (!card) return;
      const { x, y } = card.internals.positionAbsolute;
      const { width = 132, height = 180 } = card.measured;
      const zoom = Math.max(READABLE, flow.getZoom());
      void flow.setCenter(x + width / 2, y + height / 2, { zoom, duration: 0 });
    });
  }, [flow, revealed]);
  return fit;
}

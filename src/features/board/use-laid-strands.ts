import type { NodeHandle } from '@xyflow/react';
import { useEffect } from 'react';
import type { BoardNode } from './board-elements';
import { makeLayer } from './lay-strands';
import type { LaidStrand, LooseStrand, Obstacle } from './lay-strands';
import { useLaid } from './use-detour';
import type { StrandEdgeType } from './StrandEdge';

/** How long cards must rest before strands are laid around them, milliseconds. */
const REST = 140;
/** How long strands are laid before the page does something else, milliseconds. */
const SLICE = 5;

/**
 * Lays the strands of the board around its cards whenever these have come to rest, in slices, so
 * that nobody waits for it; what changes meanwhile begins it anew.
 */
export function useLaidStrands(
  cards: readonly BoardNode[],
  edges: readonly StrandEdgeType[],
): void {
  useEffect(() => {
    let timer = setTimeout(begin, REST);
    function begin(): void {
      const placed = new Map(cards.map((card) => [card.id, card]));
      const lay = makeLayer(
        cards.flatMap((card) => (card.type === 'card' ? [obstacleOf(card)] : [])),
      );
      const laid = new Map<string, LaidStrand>();
      let next = 0;
      const go = (): void => {
        const until = performance.now() + SLICE;
        for (; next < edges.length && performance.now() < until; next++)
          for (const strand of looseStrand(edges[next] as StrandEdgeType, placed)) {
            const found = lay(strand);
            if (found) laid.set(strand.id, found);
          }
        if (next < edges.length) timer = setTimeout(go);
        else useLaid.setState(laid, true);
      };
      go();
    }
    return () => {
      clearTimeout(timer);
    };
  }, [cards, edges]);
}

const obstacleOf = ({ id, position, width = 0, height = 0 }: BoardNode): Obstacle => ({
  id,
  left: position.x,
  top: position.y,
  right: position.x + width,
  bottom: position.y + height,
});

function looseStrand(
  { id, source, target, sourceHandle, targetHandle, data }: StrandEdgeType,
  placed: ReadonlyMap<string, BoardNode>,
): LooseStrand[] {
  const [start, end] = [placed.get(source), placed.get(target)];
  const out = start && portOf(start, 'source', sourceHandle);
  const into = end && portOf(end, 'target', targetHandle);
  if (!out || !into || (data?.bends.length ?? 0) > 0) return [];
  return [
    {
      id,
      source,
      target,
      from: [
        start.position.x + out.x + (out.width ?? 0),
        start.position.y + out.y + (out.height ?? 0) / 2,
      ],
      to: [end.position.x + into.x, end.position.y + into.y + (into.height ?? 0) / 2],
    },
  ];
}

const portOf = (
  { handles }: BoardNode,
  type: 'source' | 'target',
  id: string | null | undefined,
): NodeHandle | undefined => handles?.find((each) => each.type === type && each.id === id);

import type { NodeHandle } from '@xyflow/react';
import { useEffect } from 'react';
import type { BoardNode } from './board-elements';
import { layStrands } from './lay-strands';
import type { LaidStrand, LooseStrand, Obstacle } from './lay-strands';
import { useLaid } from './use-detour';
import type { StrandEdgeType } from './StrandEdge';

/** How long cards must rest before strands are laid around them, milliseconds. */
const REST = 140;
/** Boards with more strands than this are read as a whole; there strands stay straight. */
const MOST = 3000;

/** Lays the strands of the board around its cards, whenever these have come to rest. */
export function useLaidStrands(
  cards: readonly BoardNode[],
  edges: readonly StrandEdgeType[],
): void {
  useEffect(() => {
    const timer = setTimeout(() => {
      useLaid.setState(layAround(cards, edges), true);
    }, REST);
    return () => {
      clearTimeout(timer);
    };
  }, [cards, edges]);
}

function layAround(
  cards: readonly BoardNode[],
  edges: readonly StrandEdgeType[],
): ReadonlyMap<string, LaidStrand> {
  if (edges.length > MOST) return new Map();
  const placed = new Map(cards.map((card) => [card.id, card]));
  return layStrands(
    cards.flatMap((card) => (card.type === 'card' ? [obstacleOf(card)] : [])),
    edges.flatMap((edge) => looseStrand(edge, placed)),
  );
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

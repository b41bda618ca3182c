import { useMemo } from 'react';
import { INPUT_EDGE, OUTPUT_EDGE } from '@/core/graph/document';
import { keyOnBoard } from '@/state/editing';
import type { PlacedFinding } from '@/state/findings-state';
import { useBoardFindings } from '@/state/use-findings';
import { useOpenGroup, useResults, useView } from '@/state/use-stores';
import type { BoardNode } from './board-elements';
import type { CardNode } from './NodeCard';
import type { OverviewDrawing, OverviewStrand } from './overview-drawing';
import type { StrandEdgeType } from './StrandEdge';

const NOTHING: OverviewDrawing = { cards: [], strands: [] };
const isOfCard = ({ severity, place }: PlacedFinding): boolean =>
  severity !== 'note' && place.node !== undefined;

function placeOfPort(
  card: CardNode | undefined,
  port: string | null | undefined,
  end: 'source' | 'target',
): readonly [number, number] | null {
  const handle = card?.handles?.find((each) => each.id === port && each.type === end);
  if (!card || !handle) return null;
  const { width = 0, height = 0 } = handle;
  return [card.position.x + handle.x + width / 2, card.position.y + handle.y + height / 2];
}

/** A strand by the places of its ends; null where one has no place. */
function strandOf(
  edge: StrandEdgeType,
  cards: ReadonlyMap<string, CardNode>,
  selvedgePort: (end: 'in' | 'out', port: string) => number,
): OverviewStrand | null {
  const from =
    edge.source === INPUT_EDGE
      ? { selvedge: 'in' as const, port: selvedgePort('in', edge.sourceHandle ?? '') }
      : placeOfPort(cards.get(edge.source), edge.sourceHandle, 'source');
  const to =
    edge.target === OUTPUT_EDGE
      ? { selvedge: 'out' as const, port: selvedgePort('out', edge.targetHandle ?? '') }
      : placeOfPort(cards.get(edge.target), edge.targetHandle, 'target');
  if (!from || !to) return null;
  const tone = edge.data?.chosen ? 'chosen' : edge.data?.fault ? 'faulty' : 'plain';
  return { from, to, tone };
}

/** What the picture of the whole board is drawn from; nothing while cards draw themselves. */
export function useOverview(
  isShown: boolean,
  elements: readonly BoardNode[],
  edges: readonly StrandEdgeType[],
): OverviewDrawing | null {
  const path = useView((state) => state.path);
  const group = useOpenGroup();
  const taps = useResults((state) => (isShown ? state.taps : null));
  const findings = useBoardFindings(isOfCard);
  return useMemo(() => {
    if (!isShown || !taps) return null;
    const cards = new Map(
      elements.flatMap((each) => (each.type === 'card' ? [[each.id, each] as const] : [])),
    );
    if (cards.size === 0) return NOTHING;
    const faulty = new Set(findings.map(({ place }) => place.node));
    const ports = {
      in: [...(group?.inputs ?? []), ...(group?.dials ?? [])],
      out: group?.outputs ?? [],
    };
    const selvedgePort = (end: 'in' | 'out', port: string): number =>
      Math.max(
        0,
        ports[end].findIndex(({ id }) => id === port),
      );
    return {
      cards: [...cards.values()].map(({ id, position, measured, data: { output } }) => {
        const key = output === null ? null : keyOnBoard(path, id, output);
        return {
          at: [position.x, position.y] as const,
          height: measured?.height ?? 0,
          picture: (key !== null && taps.get(key)?.picture) || null,
          isFaulty: faulty.has(id),
        };
      }),
      strands: edges.flatMap((edge) => strandOf(edge, cards, selvedgePort) ?? []),
    };
  }, [isShown, taps, elements, edges, findings, path, group]);
}

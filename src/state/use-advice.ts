'use client';
import { useShallow } from 'zustand/react/shallow';
import { describePorts } from '@/core/compile/catalogue';
import { getNetwork } from '@/core/edit/board';
import { adviseNode, watchedKeys } from '@/core/evaluate/advice';
import type { NodeInstance } from '@/core/graph/document';
import type { Advice } from '@/core/nodes/advice';
import { keyOnBoard } from './editing';
import { boardAt } from './board-path';
import { useDocument, useResults, useView } from './use-stores';

/** What there is to say about the values of a node on the open board. */
export function useAdvice(node: NodeInstance | undefined): readonly Advice[] {
  const document = useDocument((state) => state.document);
  const path = useView((state) => state.path);
  const place = node && {
    document,
    network: getNetwork(document, boardAt(document, path)),
    path,
    node,
  };
  const keys = place
    ? [
        ...(describePorts(document, place.node)?.outputs ?? []).map(({ id }) =>
          keyOnBoard(path, place.node.id, id),
        ),
        ...watchedKeys(place),
      ]
    : [];
  // Results of other nodes may change without this one being looked at again.
  const taps = useResults(useShallow((state) => keys.map((key) => state.taps.get(key))));
  if (!place) return [];
  return adviseNode(place, (key) => {
    const tap = taps[keys.indexOf(key)];
    return tap?.statistics ? { ...tap.statistics, kind: tap.kind } : null;
  });
}

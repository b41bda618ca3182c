'use client';
import { useShallow } from 'zustand/react/shallow';
import { describePorts } from '@/core/compile/catalogue';
import { getNetwork } from '@/core/edit/board';
import { adviseNode } from '@/core/advice/advise';
import { watchedKeys } from '@/core/advice/watched';
import type { NodeInstance } from '@/core/graph/document';
import type { Advice } from '@/core/nodes/advice';
import { keyOnBoard } from './editing';
import { boardAt } from '../core/edit/board';
import { useResults, useView } from './use-stores';
import { stores } from './stores';

/**
 * What there is to say about the values of a node on the open board. It looks at the node, at its
 * strands and at its results; whoever draws it follows the first two (`useCard`).
 */
export function useAdvice(node: NodeInstance | undefined): readonly Advice[] {
  const path = useView((state) => state.path);
  const { document } = stores.document.getState();
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

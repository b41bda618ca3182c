'use client';
import { networkOf } from '@/core/edit/board';
import { adviseNode } from '@/core/evaluate/advice';
import type { NodeInstance } from '@/core/graph/document';
import type { Advice } from '@/core/nodes/advice';
import { boardAt } from './editor-store';
import { useEditor } from './use-editor';

/** What there is to say about the values of a node on the open board. */
export function useAdvice(node: NodeInstance | undefined): readonly Advice[] {
  const document = useEditor((state) => state.document);
  const path = useEditor((state) => state.path);
  const taps = useEditor((state) => state.taps);
  if (!node) return [];
  return adviseNode({ document, network: networkOf(document, boardAt(document, path)), path, node }, (key) => {
    const tap = taps.get(key);
    return tap?.statistics ? { ...tap.statistics, kind: tap.kind } : null;
  });
}

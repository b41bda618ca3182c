import { useCallback, useEffect, useState } from 'react';
import type { NodeId } from '../core/base/ids';
import { findGroupDefinition } from '../core/compile/catalogue';
import type { ExplainedPoints, PointedRay } from '../core/evaluate/point-explainer';
import { strandShareKey } from '../core/explain/branch-shares';
import type { BranchShares } from '../core/explain/branch-shares';
import type { StrongValue } from '../core/evaluate/strongest-values';
import type { Network, NetworkDocument } from '../core/graph/document';
import { outputKey } from '../core/graph/result-key';
import { unwrap } from '../workers/answer';
import type { Evaluation } from './evaluation';
import { stores } from './stores';
import { useFollowed } from './use-followed';
import type { Followed } from './use-followed';
import { useDocument, useView } from './use-stores';

/** Points that are explained beside each other, at most. */
export const MOST_POINTS = 4;

/** Explains one more point; of more than fit the earliest goes. */
export function explainMore(ray: PointedRay): void {
  stores.view.setState(({ explained }) => ({ explained: [...explained, ray].slice(-MOST_POINTS) }));
}

/** Explains one point less; without a place, none at all. */
export function explainLess(place?: number): void {
  stores.view.setState(({ explained }) => ({
    explained: place === undefined ? [] : explained.filter((_ray, k) => k !== place),
  }));
}

/** What makes the points that are kept, as the document is now; asked again with each edit. */
export function useExplanation(evaluation: Evaluation): Followed<ExplainedPoints | null> {
  const document = useDocument((state) => state.document);
  const rays = useView((state) => state.explained);
  const ask = useCallback(() => evaluation.questions.explain(rays), [evaluation, rays]);
  return useFollowed(ask, document);
}

/** What each branch contributes at the points that are kept; asked again with each edit. */
export function useBranchShares(evaluation: Evaluation): BranchShares | null {
  const document = useDocument((state) => state.document);
  const rays = useView((state) => state.explained);
  const ask = useCallback(async () => {
    const { background, documents } = evaluation.pool;
    const { document: now, modelId } = stores.document.getState();
    return unwrap(background.explainShares(modelId, documents.bring(background, now), rays));
  }, [evaluation, rays]);
  // The findings say what is wrong with the document; there are no shares meanwhile.
  return useFollowed(ask, document).found;
}

/** The values that would change the first point most; tried while they are asked for. */
export function useStrongest(evaluation: Evaluation): {
  readonly found: readonly StrongValue[] | null;
  readonly isAsked: boolean;
  readonly ask: (isAsked: boolean) => void;
} {
  const [isAsked, ask] = useState(false);
  const document = useDocument((state) => state.document);
  const ray = useView((state) => state.explained[0]);
  const find = useCallback(async () => {
    if (!isAsked || !ray) return null;
    const { background, documents } = evaluation.pool;
    const { document: now, modelId } = stores.document.getState();
    return unwrap(background.strongest(modelId, documents.bring(background, now), ray));
  }, [evaluation, ray, isAsked]);
  const { found } = useFollowed(find, document);
  return { found: isAsked ? found : null, isAsked, ask };
}

/** As much of a number as a strand has room for. */
const short = (value: number): string =>
  Number.isFinite(value) ? String(Number(value.toPrecision(3))) : 'no number';

/** What is told on each strand of the document: the value at the first point, and its share. */
function wordsOnStrands(
  document: NetworkDocument,
  points: ExplainedPoints,
  shares: BranchShares | null,
): ReadonlyMap<string, string> {
  const values = new Map(
    points.outputs
      .filter(({ kind }) => kind !== 'surface')
      .map(({ key, values: [first = []] }) => [key, first.map(short).join(' ')]),
  );
  const words = new Map<string, string>();
  const visit = (path: readonly NodeId[], { nodes, strands }: Network): void => {
    for (const { id, from } of strands) {
      const share = shares?.strands.get(strandShareKey(path, id))?.[0];
      const value = values.get(outputKey([...path, from.node], from.output));
      const percent = share === undefined ? undefined : `${String(Math.round(share * 100))} %`;
      const told = [value, percent].filter((each) => each !== undefined).join(', ');
      if (told !== '') words.set(strandShareKey(path, id), told);
    }
    for (const node of nodes) {
      const group = findGroupDefinition(document, node);
      if (group) visit([...path, node.id], group.network);
    }
  };
  visit([], document.network);
  return words;
}

/** Lets the strands of the board tell what passes them at the first point. */
export function useWordsOnStrands(
  points: ExplainedPoints | null,
  shares: BranchShares | null,
): void {
  const document = useDocument((state) => state.document);
  useEffect(() => {
    if (!points) return;
    stores.probe.setState({ strandWords: wordsOnStrands(document, points, shares) });
    return () => {
      stores.probe.setState({ strandWords: new Map() });
    };
  }, [document, points, shares]);
}

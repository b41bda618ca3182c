import type { NetworkDocument } from '@/core/graph/document';
import { emptyDocument } from '@/core/graph/document';
import { median, prepareEvaluation, timed } from './evaluate';

/**
 * What a cell noise costs with more of its outputs used, in times of the nearest distance alone;
 * medians of pairs.
 */
export interface CellFigures {
  readonly border: number;
  readonly three: number;
  readonly six: number;
}

const network = (): NetworkDocument => ({
  ...emptyDocument('Cells'),
  network: {
    nodes: [
      {
        id: 'c',
        type: 'patterns.cell-noise',
        version: 1,
        at: [0, 0],
        values: { scale: 9 },
        options: {},
      },
    ],
    strands: [],
    regions: [],
    notes: [],
  },
});

const prepare = (outputs: readonly string[]): (() => void) =>
  prepareEvaluation(network(), { surface: false, taps: outputs.map((output) => `c:${output}`) });

/** Each against nearest alone, in turn within each round. */
export function measureCells(rounds: number): CellFigures {
  const alone = prepare(['nearest']);
  const ratio = (outputs: readonly string[]): number => {
    const more = prepare(outputs);
    const ratios = Array.from({ length: rounds }, () => timed(more) / timed(alone));
    return median(ratios);
  };
  return {
    border: ratio(['border']),
    three: ratio(['nearest', 'border', 'cell']),
    six: ratio(['nearest', 'second', 'border', 'cell', 'colour', 'centre']),
  };
}

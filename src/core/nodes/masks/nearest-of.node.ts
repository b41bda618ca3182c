import { smoothMinimum } from '../lanes';
import type { F32 } from '../../ir/types';
import { defineNode, input, output } from '../define';

export const nearestOf = defineNode({
  id: 'masks.nearest-of',
  version: 1,
  title: 'Nearest of',
  family: 'masks',
  synonyms: ['union of distances', 'distance minimum', 'join shapes', 'smooth union'],
  help:
    'Of several distances the smallest: the union of the shapes they measure. A smoothing ' +
    'width rounds where two meet. With none wired it is 1.',
  formula: 'min dᵢ; with width w > 0 two meet as min(a, b) − max(w − |a − b|, 0)²/(4w)',
  inputs: {
    distances: input.scalars({ title: 'Distances', help: 'Distances in any number; not limited.' }),
    smoothing: input.scalar({
      title: 'Smoothing',
      help: 'Width over which two shapes flow together.',
      default: 0,
      soft: [0, 0.5],
      hard: [0, 1000],
      low: 'sharp crease',
      high: 'flowing',
    }),
  },
  outputs: {
    distance: output.scalar('Distance', 'The smallest.', {
      quantity: 'distance',
      low: 'near',
      high: 'far',
    }),
  },
  lower: (b, { distances, smoothing }) => {
    const [first, ...rest] = distances;
    const flat = b.le(smoothing, b.f(0));
    return {
      distance: first
        ? rest.reduce<F32>(
            (x, y) => b.select(flat, b.min(x, y), smoothMinimum(b, x, y, smoothing)),
            first,
          )
        : b.f(1),
    };
  },
});

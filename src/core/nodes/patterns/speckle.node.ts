import { latticeWord, seedWord } from '../../ir/library/hash';
import type { F32, I32 } from '../../ir/types';
import { defineNode, input, output } from '../define';
import { softStep } from '../edges';
import { PATTERN_INPUTS, chance, map3, patternCoordinates, perOption, reseed } from '../lanes';

export const speckle = defineNode({
  id: 'patterns.speckle',
  version: 1,
  title: 'Speckle',
  family: 'patterns',
  synonyms: ['spots', 'dots', 'flecks', 'spatter', 'freckles', 'drops', 'sparks'],
  help:
    'Scattered round spots of random size, at most one to a cell and never across its ' +
    'border. Two layers, one shifted by half a cell, hide the grid.',
  formula:
    'radius r = size/2·(1 − variation·random); mask of |p − centre| ≤ r, the ' +
    'border eased ' +
    'over softness·r',
  inputs: {
    ...PATTERN_INPUTS,
    size: input.scalar({
      title: 'Size',
      help: 'Diameter of the largest spots, in cells.',
      default: 0.6,
      hard: [0, 1],
      low: 'pinpoints',
      high: 'fills its cell',
    }),
    variation: input.scalar({
      title: 'Variation',
      help: 'How different the sizes are.',
      default: 0.7,
      hard: [0, 1],
      low: 'all alike',
      high: 'mixed',
    }),
    density: input.scalar({
      title: 'Density',
      help: 'Share of cells that have a spot.',
      default: 0.6,
      low: 'few',
      high: 'everywhere',
    }),
    softness: input.scalar({
      title: 'Softness',
      help: 'Softness of the border, in radii.',
      default: 0.1,
      low: 'hard',
      high: 'soft',
    }),
  },
  options: { per: perOption },
  outputs: {
    mask: output.scalar('Mask', '0 to 1.', { quantity: 'mask', low: 'between', high: 'in a spot' }),
    random: output.scalar('Random', 'A number per spot, 0 to 1; 0 between them.'),
  },
  tolerance: {
    value: 1e-3,
    reason: 'Distances are differences of coordinates that grow with the scale.',
  },
  lower: (b, { at, scale, seed, size, variation, density, softness }, { per }, model) => {
    const p = patternCoordinates(b, at, scale, per, model);
    const word = seedWord(b, b.toInt(seed));
    const largest = b.mul(b.saturate(size), b.f(0.5));
    const [mask, random] = b.loop(b.i(2), [b.f(0), b.f(0)], (index, carried) => {
      const [strongest, owner] = carried as [F32, F32];
      const shift = b.mul(b.toFloat(index), b.f(0.5));
      const moved = map3(p, (lane) => b.add(lane, shift));
      const cell = map3(moved, (lane) => b.floor(lane));
      const bits = latticeWord(
        b,
        cell.map((lane) => b.toInt(lane)) as unknown as readonly [I32, I32, I32],
        b.iadd(word, b.imul(index, b.i(0x3c6ef35f))),
      );
      const radius = b.mul(
        largest,
        b.sub(b.f(1), b.mul(b.saturate(variation), chance(b, reseed(b, bits, 3)))),
      );
      const room = b.sub(b.f(1), b.mul(radius, b.f(2)));
      const offset = map3(moved, (lane, k) =>
        b.sub(
          b.sub(lane, cell[k as 0]),
          b.add(radius, b.mul(room, chance(b, reseed(b, bits, 31 + k)))),
        ),
      );
      const distance = b.sqrt(b.dot(offset, offset));
      const inside = softStep(
        b,
        b.sub(radius, distance),
        b.mul(b.mul(radius, softness), b.f(0.5)),
        b.mul(radius, softness),
        model,
      );
      const there = b.and(b.lt(chance(b, bits), density), b.lt(distance, radius));
      const strength = b.select(there, inside, b.f(0));
      return [
        b.max(strongest, strength),
        b.select(b.lt(strongest, strength), chance(b, reseed(b, bits, 9)), owner),
      ];
    }) as [F32, F32];
    return { mask, random };
  },
});

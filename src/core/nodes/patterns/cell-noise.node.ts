import { searchCells } from '../../ir/library/cells';
import type { CellSearch, CellWants } from '../../ir/library/cells';
import { MAXIMUM_OCTAVES, octaveCount } from '../../ir/library/noise';
import { mixBits, seedWord } from '../../ir/library/hash';
import type { Builder } from '../../ir/builder';
import type { F32, I32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { PATTERN_INPUTS, map3, patternCoordinates, perOption, zip3 } from '../lanes';

export const cellNoise = defineNode({
  id: 'patterns.cell-noise',
  version: 1,
  title: 'Cell noise',
  family: 'patterns',
  synonyms: ['cells', 'pebbles', 'cracks', 'scales', 'barnacles', 'mosaic', 'crystals'],
  help:
    'Scattered points, one to a cell, and how far they are. Nearest and second are exact ' +
    'for any jitter in the straight and ' +
    'largest metrics: where it could matter, 125 cells are searched instead of 27.',
  formula:
    'nearest = min dᵢ; second = the next; border = second − nearest; over octaves Σ ' +
    'diminishᵏ·d(2ᵏ·p)/Σ diminishᵏ',
  inputs: {
    ...PATTERN_INPUTS,
    octaves: input.scalar({
      title: 'Octaves',
      help:
        'Layers of finer cells in the distances; a fraction weighs the last one. Values ' +
        'and colours of cells are those of the first.',
      default: 1,
      soft: [1, 6],
      hard: [1, 12],
      step: 0.1,
      low: 'plain cells',
      high: 'fine detail',
      section: 'Octaves',
    }),
    diminish: input.scalar({
      title: 'Diminish',
      help: 'How much each octave, of half the size, counts against the one before.',
      default: 0.5,
      low: 'hardly',
      high: 'alike',
      section: 'Octaves',
    }),
    jitter: input.scalar({
      title: 'Jitter',
      help: 'How far points stray from the middle of their cells.',
      default: 1,
      hard: [0, 1],
      low: 'regular grid',
      high: 'scattered',
    }),
  },
  options: {
    metric: option('Metric', 'How distance is counted.', {
      straight: ['Straight', 'As the crow flies: round cells.'],
      blocks: ['Blocks', 'Sum of the sides: diamonds.'],
      largest: ['Largest', 'The largest side: squares.'],
    }),
    per: perOption,
  },
  outputs: {
    nearest: output.scalar('Nearest', 'Distance to the nearest point, in cells.', {
      quantity: 'distance',
      low: 'at a point',
      high: 'between',
    }),
    second: output.scalar('Second', 'Distance to the second nearest, in cells.', {
      quantity: 'distance',
    }),
    border: output.scalar('Border', 'Second − nearest.', { low: 'on a border', high: 'inside' }),
    cell: output.scalar('Cell value', 'A random number per cell, 0 to 1.'),
    colour: output.colour('Cell colour', 'A random colour per cell.'),
    centre: output.vector('Cell centre', 'The nearest point, in the coordinates read.'),
  },
  tolerance: {
    value: 2e-4,
    reason: 'Distances are differences of coordinates that grow with the scale.',
  },
  lower: (b, { at, scale, seed, jitter, octaves, diminish }, { metric, per }, model) => {
    const p = patternCoordinates(b, at, scale, per, model);
    const word = seedWord(b, b.toInt(seed));
    const spread = b.saturate(jitter);
    const wants = {
      second: model.isUsed('second') || model.isUsed('border'),
      owner: model.isUsed('centre')
        ? 'place'
        : model.isUsed('cell') || model.isUsed('colour')
          ? 'bits'
          : 'nothing',
    } as const;
    const search = (size: F32, salt: I32, owner: CellWants['owner']): CellSearch =>
      searchCells(
        b,
        metric,
        map3(p, (lane) => b.mul(lane, size)),
        spread,
        b.iadd(word, salt),
        { second: wants.second, owner },
      );
    // The first octave also tells whose cell it is; the finer ones only add to the distances.
    const owner = search(b.f(1), b.i(0), wants.owner);
    const distances = ({ first, second }: CellSearch): F32[] =>
      wants.second ? [first, second] : [first];
    const [nearest, second] = overOctaves(b, octaves, diminish, distances(owner), (size, salt) =>
      distances(search(size, salt, 'nothing')),
    ) as [F32, F32 | undefined];
    const further = second ?? nearest;
    const chance = (bits: I32): F32 => b.mul(b.toFloat(b.ishrUnsigned(bits, 8)), b.f(1 / 16777216));
    const factor =
      per === 'object'
        ? b.div(b.max(model.size, b.f(1e-12)), b.max(scale, b.f(1e-12)))
        : b.div(b.f(1), b.max(scale, b.f(1e-12)));
    return {
      nearest,
      second: further,
      border: b.sub(further, nearest),
      cell: chance(owner.bits),
      colour: [0x51ed27, 0x2c7b91, 0x7f4a3d].map((salt) =>
        chance(mixBits(b, b.ixor(owner.bits, b.i(salt)))),
      ) as unknown as readonly [F32, F32, F32],
      centre: map3(
        zip3(p, owner.offset, (x, y) => b.add(x, y)),
        (lane) => b.mul(lane, factor),
      ),
    };
  },
});

const GOLDEN = 0x9e3779b9;
/**
 * The weighed mean of values over octaves: those of the first, of size 1 and salt 0, and of all
 * others, each with its size and a salt for its seed.
 */
function overOctaves(
  b: Builder,
  given: F32,
  diminish: F32,
  firsts: readonly F32[],
  values: (size: F32, salt: I32) => readonly F32[],
): F32[] {
  const octaves = b.clamp(given, b.f(1), b.f(MAXIMUM_OCTAVES));
  const others = b.isub(octaveCount(b, octaves), b.i(1));
  const shareOf = (weight: F32, index: F32): F32 =>
    b.mul(weight, b.saturate(b.sub(octaves, index)));
  const first = shareOf(b.f(1), b.f(0));
  const initial = [
    ...firsts.map((value) => b.mul(value, first)),
    first,
    b.saturate(diminish),
    b.f(2),
  ];
  const ended = b.loop(others, initial, (round, carried) => {
    const index = b.iadd(round, b.i(1));
    const [total, weight, size] = carried.slice(firsts.length) as [F32, F32, F32];
    const share = shareOf(weight, b.toFloat(index));
    const found = values(size, b.imul(index, b.i(GOLDEN)));
    const sums = firsts.map((_, k) => b.add(carried[k] as F32, b.mul(found[k] as F32, share)));
    return [...sums, b.add(total, share), b.mul(weight, b.saturate(diminish)), b.mul(size, b.f(2))];
  }) as F32[];
  const total = b.max(ended[firsts.length] as F32, b.f(1e-6));
  return firsts.map((_, k) => b.div(ended[k] as F32, total));
}

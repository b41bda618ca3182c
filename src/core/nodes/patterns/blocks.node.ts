import { latticeWord, seedWord } from '../../ir/library/hash';
import { defineNode, input, output } from '../define';
import { evenStep } from '../edges';
import {
  PATTERN_INPUTS,
  chance,
  inPlane,
  patternCoordinates,
  perOption,
  planeOption,
  reseed,
} from '../lanes';

export const blocks = defineNode({
  id: 'patterns.blocks',
  version: 1,
  title: 'Blocks',
  family: 'patterns',
  synonyms: ['bricks', 'masonry', 'tiles', 'planks', 'wall', 'courses'],
  help:
    'Courses of blocks with gaps between them. Scale counts courses; offset shifts every ' +
    'second one by a share of a block.',
  formula:
    'course ⌊y⌋, block ⌊x/length + offset·(course mod 2)⌋; d = distance to the ' +
    'block’s ' +
    'border; mask d ≥ gap/2; height (d − gap/2)/bevel',
  inputs: {
    at: PATTERN_INPUTS.at,
    scale: {
      ...PATTERN_INPUTS.scale,
      help: 'How many courses fit across the object.',
      unit: 'courses across the object',
    },
    seed: PATTERN_INPUTS.seed,
    length: input.scalar({
      title: 'Length',
      help: 'Length of a block in heights.',
      default: 2,
      soft: [0.5, 6],
      hard: [0.01, 1000],
      low: 'upright',
      high: 'long',
    }),
    offset: input.scalar({
      title: 'Offset',
      help: 'Shift of every second course, in blocks.',
      default: 0.5,
      low: 'stacked',
      high: 'shifted by a block',
    }),
    gap: input.scalar({
      title: 'Gap',
      help: 'Width of the joint, in heights.',
      default: 0.08,
      soft: [0, 0.5],
      hard: [0, 1],
      low: 'no joint',
      high: 'wide joint',
    }),
    bevel: input.scalar({
      title: 'Bevel',
      help: 'Width of the sloping border, in heights; 0 is sharp.',
      default: 0.08,
      soft: [0, 0.5],
      hard: [0, 1],
      low: 'sharp',
      high: 'rounded',
    }),
  },
  options: { plane: planeOption, per: perOption },
  outputs: {
    mask: output.scalar('Mask', 'Blocks and joints.', {
      quantity: 'mask',
      low: 'joint',
      high: 'block',
    }),
    height: output.scalar('Height', 'With its bevel, for bumps.', { low: 'joint', high: 'face' }),
    random: output.scalar('Random', 'A number per block, 0 to 1.'),
    u: output.scalar('U', '0 to 1 along a block.'),
    v: output.scalar('V', '0 to 1 up a block.'),
  },
  tolerance: {
    value: 1e-3,
    reason: 'Places within a block are differences of larger coordinates.',
  },
  lower: (b, { at, scale, seed, length, offset, gap, bevel }, { plane, per }, model) => {
    const [x, y] = inPlane(patternCoordinates(b, at, scale, per, model), plane);
    const course = b.floor(y);
    const half = b.mul(course, b.f(0.5));
    const isOdd = b.mul(b.sub(half, b.floor(half)), b.f(2));
    const stretch = b.max(length, b.f(0.01));
    const along = b.add(b.div(x, stretch), b.mul(offset, isOdd));
    const block = b.floor(along);
    const [u, v] = [b.sub(along, block), b.sub(y, course)];
    const side = (t: typeof u) => b.min(t, b.sub(b.f(1), t));
    const distance = b.sub(b.min(b.mul(side(u), stretch), side(v)), b.mul(gap, b.f(0.5)));
    const sharp = b.le(bevel, b.f(0));
    const inside = evenStep(b, distance, b.f(0), model);
    const sloped = b.saturate(b.div(distance, b.select(sharp, b.f(1), bevel)));
    const bits = reseed(
      b,
      latticeWord(b, [b.toInt(block), b.toInt(course), b.i(0)], seedWord(b, b.toInt(seed))),
      0,
    );
    return { mask: inside, height: b.select(sharp, inside, sloped), random: chance(b, bits), u, v };
  },
});

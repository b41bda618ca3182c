import type { Builder } from '../../ir/builder';
import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import type { ModelReads } from '../define';
import { sampleWidth } from '../edges';
import { PATTERN_INPUTS, map3, patternCoordinates, perOption, zip3 } from '../lanes';

export const checks = defineNode({
  id: 'patterns.checks',
  version: 1,
  title: 'Checks',
  family: 'patterns',
  synonyms: ['checker', 'chess', 'grid test', 'squares', 'cubes'],
  help:
    'Alternating cubes, or squares where the coordinates are flat; good for judging how ' +
    'coordinates lie.',
  formula: '(⌊x⌋ + ⌊y⌋ + ⌊z⌋) mod 2',
  inputs: {
    at: PATTERN_INPUTS.at,
    scale: PATTERN_INPUTS.scale,
    first: input.colour({
      title: 'First colour',
      help: 'Colour of the even cubes.',
      default: [0.1, 0.1, 0.1],
    }),
    second: input.colour({
      title: 'Second colour',
      help: 'Colour of the odd cubes.',
      default: [0.8, 0.8, 0.8],
    }),
  },
  options: {
    per: perOption,
    axes: option('Axes', 'Which coordinates alternate.', {
      three: ['All three', 'Cubes.'],
      two: ['First two', 'Squares: columns through the third.'],
    }),
  },
  outputs: {
    mask: output.scalar('Mask', '0 or 1.', { quantity: 'mask', low: 'first', high: 'second' }),
    colour: output.colour('Colour', 'The two colours.'),
  },
  lower: (b, { at, scale, first, second }, { per, axes }, model) => {
    const places = patternCoordinates(b, at, scale, per, model);
    const cells = map3(places, (lane) => b.floor(lane));
    const sum =
      axes === 'three' ? b.add(b.add(cells[0], cells[1]), cells[2]) : b.add(cells[0], cells[1]);
    const half = b.mul(sum, b.f(0.5));
    const hard = b.mul(b.sub(half, b.floor(half)), b.f(2));
    const mask = model.footprint('steps')
      ? evenChecks(b, axes === 'three' ? places : places.slice(0, 2), model)
      : hard;
    return { mask, colour: zip3(first, second, (x, y) => b.mix(x, y, mask)) };
  },
});

/**
 * Checks antialiased over a sample's width: along each axis a wave of ±1 that passes through 0
 * within that width of a border, and fades where whole cells are narrower; the checks are ½ −
 * ½·their product.
 */
function evenChecks(b: Builder, places: readonly F32[], model: ModelReads): F32 {
  const product = places.reduce<F32>((sum, place) => {
    const cell = b.floor(place);
    const inside = b.sub(place, cell);
    const border = b.min(inside, b.sub(b.f(1), inside));
    const halfCell = b.mul(cell, b.f(0.5));
    const sign = b.sub(b.f(1), b.mul(b.sub(halfCell, b.floor(halfCell)), b.f(4)));
    const width = sampleWidth(b, place, model) ?? b.f(0);
    const isSharp = b.le(width, b.f(1e-12));
    const near = b.select(
      isSharp,
      b.f(1),
      b.min(b.div(b.mul(border, b.f(2)), b.select(isSharp, b.f(1), width)), b.f(1)),
    );
    return b.mul(sum, b.mul(b.mul(sign, near), b.saturate(b.sub(b.f(2), width))));
  }, b.f(1));
  return b.sub(b.f(0.5), b.mul(product, b.f(0.5)));
}

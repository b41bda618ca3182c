import { defineNode, input, option, output } from '../define';
import { PATTERN_INPUTS, map3, patternCoordinates, perOption, zip3 } from '../lanes';

export const checks = defineNode({
  id: 'patterns.checks', version: 1, title: 'Checks', family: 'patterns',
  synonyms: ['checker', 'chess', 'grid test', 'squares', 'cubes'],
  help: 'Alternating cubes, or squares where the coordinates are flat; good for judging how coordinates lie.',
  formula: '(⌊x⌋ + ⌊y⌋ + ⌊z⌋) mod 2',
  inputs: {
    at: PATTERN_INPUTS.at, scale: PATTERN_INPUTS.scale,
    first: input.colour({ title: 'First colour', help: 'Colour of the even cubes.', default: [0.1, 0.1, 0.1] }),
    second: input.colour({ title: 'Second colour', help: 'Colour of the odd cubes.', default: [0.8, 0.8, 0.8] }),
  },
  options: {
    per: perOption,
    axes: option('Axes', 'Which coordinates alternate.', { three: ['All three', 'Cubes.'], two: ['First two', 'Squares: columns through the third.'] }),
  },
  outputs: { mask: output.scalar('Mask', '0 or 1.', { low: 'first', high: 'second' }), colour: output.colour('Colour', 'The two colours.') },
  lower: (b, { at, scale, first, second }, { per, axes }, model) => {
    const cells = map3(patternCoordinates(b, at, scale, per, model), (lane) => b.floor(lane));
    const sum = axes === 'three' ? b.add(b.add(cells[0], cells[1]), cells[2]) : b.add(cells[0], cells[1]);
    const half = b.mul(sum, b.f(0.5));
    const mask = b.mul(b.sub(half, b.floor(half)), b.f(2));
    return { mask, colour: zip3(first, second, (x, y) => b.mix(x, y, mask)) };
  },
});

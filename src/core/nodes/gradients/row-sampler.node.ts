import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { domainPlace } from '../domain';
import { readingOption, sampleImage } from '../image-lanes';
import { luminance } from '../lanes';

export const rowSampler = defineNode({
  id: 'gradients.row-sampler',
  version: 1,
  title: 'Row sampler',
  family: 'gradients',
  synonyms: ['strip image', 'ramp image', 'lookup', 'palette image', 'set of ramps'],
  help:
    'Reads a strip image: every row is a ramp, from left to right. Rows count from 0 at ' +
    'the top; beyond them the first and the last go on.',
  formula: 'c = image((t·(w − 1) + ½)/w, (row + ½)/h)',
  inputs: {
    image: input.image({ title: 'Strip image', help: 'Each row of texels is one ramp.' }),
    value: input.scalar({
      title: 'Value',
      help: 'Where along the row.',
      default: 0.5,
      low: 'left end',
      high: 'right end',
    }),
    row: input.scalar({
      title: 'Row',
      help: 'Which ramp.',
      default: 0,
      soft: [0, 16],
      hard: [-100000, 100000],
      step: 1,
    }),
  },
  outputs: {
    colour: output.colour('Colour', 'The ramp’s colour.'),
    alpha: output.scalar('Alpha', 'Its alpha.'),
    scalar: output.scalar('Scalar', 'Luminance of the colour.'),
  },
  options: {
    between: option('Between rows', 'What a row of, say, 1.5 gives.', {
      nearest: ['The nearest', 'One whole row.'],
      mix: ['A mix', 'Between the two.'],
    }),
    outside: option('Outside', 'What lies beyond the ends.', {
      hold: ['Holds', 'The end colours go on.'],
      repeat: ['Repeats', 'The row begins again.'],
      mirror: ['Mirrors', 'The row runs back and forth.'],
    }),
    reading: readingOption,
  },
  tolerance: {
    value: 2e-3,
    reason: 'Between texels of strong contrast a rounded place moves the mix.',
  },
  lower: (b, { image, value, row }, { between, outside }) => {
    const t = b.saturate(domainPlace(b, value, b.f(0), b.f(1), outside));
    const middle = (at: F32, count: F32): F32 => b.div(b.add(at, b.f(0.5)), count);
    const u = middle(b.mul(t, b.sub(image.width, b.f(1))), image.width);
    // A value halfway between two rows takes the one below.
    const v = middle(between === 'mix' ? row : b.floor(b.add(row, b.f(0.5))), image.height);
    const [red, green, blue, alpha] = sampleImage(b, image, u, v, null, {
      wrap: 'hold',
      filter: 'smooth',
    });
    return { colour: [red, green, blue], alpha, scalar: luminance(b, [red, green, blue]) };
  },
});

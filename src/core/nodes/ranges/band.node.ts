import { defineNode, input, output } from '../define';
import { softBand } from '../edges';

export const band = defineNode({
  id: 'ranges.band',
  version: 1,
  title: 'Band',
  family: 'ranges',
  fits: [{ kind: 'band', of: 'value', centre: 'centre', width: 'width', softness: 'softness' }],
  synonyms: ['select range', 'keep values', 'around', 'isolate', 'strip', 'between values'],
  help:
    'Keeps the values around a centre: white inside, black outside, with a soft border ' +
    'outwards. At softness 0 the border is hard.',
  formula: '1 − s((|x − centre| − width/2)/softness), s(t) = t²(3 − 2t) on 0–1',
  inputs: {
    value: input.scalar({ title: 'Value', help: 'What is judged.', default: 0.5 }),
    centre: input.scalar({ title: 'Centre', help: 'The middle of the band.', default: 0.5 }),
    width: input.scalar({
      title: 'Width',
      help: 'Width of what is fully kept; below 0 counts as 0.',
      default: 0.2,
      low: 'a line',
      high: 'everything',
    }),
    softness: input.scalar({
      title: 'Softness',
      help: 'Width of the border on each side; below 0 counts as 0.',
      default: 0.1,
      low: 'hard',
      high: 'soft',
    }),
  },
  outputs: {
    mask: output.scalar('Mask', '0 to 1.', { quantity: 'mask', low: 'outside', high: 'inside' }),
  },
  lower: (b, { value, centre, width, softness }, _options, model) => ({
    mask: softBand(b, b.abs(b.sub(value, centre)), width, softness, model),
  }),
});

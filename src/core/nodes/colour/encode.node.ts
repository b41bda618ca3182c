import { pow } from '../../ir/library/transcendental';
import type { F32 } from '../../ir/types';
import { decodeSrgbLane, encodeSrgbLane } from '../colour-lanes';
import { defineNode, input, option, output } from '../define';
import { eachLane } from '../lanes';

export const encode = defineNode({
  id: 'colour.encode',
  version: 1,
  title: 'Encode or decode',
  family: 'colour',
  synonyms: ['srgb', 'gamma', 'linear', 'transfer', 'colour space', 'degamma'],
  help:
    'Between linear light and stored values. Colours are linear everywhere in a network; ' +
    'this is for data that was stored otherwise. For a power, values below 0 count as 0.',
  formula: 'sRGB: IEC 61966-2-1; power: encode x^(1/gamma), decode x^gamma',
  inputs: {
    value: input.flex({ title: 'Value', help: 'What is converted.', default: 0.5 }),
    gamma: input.scalar({
      title: 'Gamma',
      help: 'The power.',
      default: 2.2,
      soft: [0.2, 4],
      hard: [0.01, 100],
    }),
  },
  options: {
    direction: option('Direction', 'Which way.', {
      decode: ['Decode', 'Stored to linear.'],
      encode: ['Encode', 'Linear to stored.'],
    }),
    curve: option('Curve', 'Which encoding.', {
      srgb: ['sRGB', 'As images for screens are.'],
      power: ['Power', 'A plain gamma.'],
    }),
  },
  idle: ({ curve }) => (curve === 'power' ? [] : ['gamma']),
  outputs: { value: output.flex('Value', 'The converted value.') },
  tolerance: { value: 1e-3, reason: 'Powers multiply the rounding of large values.' },
  lower: (b, { value, gamma }, { direction, curve }) => ({
    value: eachLane([value], ([given]) => {
      const x = given as F32;
      if (curve === 'srgb')
        return direction === 'encode' ? encodeSrgbLane(b, x) : decodeSrgbLane(b, x);
      const power = b.max(gamma, b.f(0.01));
      return pow(b, b.max(x, b.f(0)), direction === 'encode' ? b.div(b.f(1), power) : power);
    }),
  }),
});

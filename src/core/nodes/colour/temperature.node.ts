import type { Builder } from '../../ir/builder';
import type { F32, Lanes3 } from '../../ir/types';
import { largestOf } from '../colour-lanes';
import { defineNode, input, option, output } from '../define';
import { luminance, map3 } from '../lanes';

const polynomial = (b: Builder, x: F32, [first = 0, ...rest]: readonly number[]): F32 =>
  rest.reduce<F32>((sum, c) => b.add(b.mul(sum, x), b.f(c)), b.f(first));

/**
 * Chromaticity of a black body, 1667–25,000 K. Source: B. Kang et al., J. Korean Phys. Soc. 41
 * (2002), cubic pieces in 1000/T.
 */
function chromaticity(b: Builder, kelvin: F32): readonly [F32, F32] {
  const inverse = b.div(b.f(1000), kelvin);
  const x = b.select(
    b.le(kelvin, b.f(4000)),
    polynomial(b, inverse, [-0.2661239, -0.2343589, 0.8776956, 0.17991]),
    polynomial(b, inverse, [-3.0258469, 2.1070379, 0.2226347, 0.24039]),
  );
  const low = b.select(
    b.le(kelvin, b.f(2222)),
    polynomial(b, x, [-1.1063814, -1.3481102, 2.18555832, -0.20219683]),
    polynomial(b, x, [-0.9549476, -1.37418593, 2.09137015, -0.16748867]),
  );
  return [
    x,
    b.select(
      b.le(kelvin, b.f(4000)),
      low,
      polynomial(b, x, [3.081758, -5.8733867, 3.75112997, -0.37001483]),
    ),
  ];
}

/** CIE XYZ (D65) to linear Rec. 709. Source: IEC 61966-2-1:1999. */
const FROM_XYZ = [
  [3.2406, -1.5372, -0.4986],
  [-0.9689, 1.8758, 0.0415],
  [0.0557, -0.204, 1.057],
] as const;

export const temperature = defineNode({
  id: 'colour.temperature',
  version: 1,
  title: 'Temperature',
  family: 'colour',
  synonyms: ['kelvin', 'warm', 'cool', 'black body', 'glow', 'lamp', 'ember'],
  help:
    'The colour of a glowing body at a temperature, from ember through lamp light to blue ' +
    'sky. Limited to 1667–25,000 K. Wire it into an emission, or multiply a colour by it ' +
    'to warm it.',
  formula:
    'black body chromaticity (cubic pieces in 1000/T), in linear Rec. 709, below 0 cut, ' +
    'scaled so that the largest channel or the luminance is 1',
  inputs: {
    kelvin: input.scalar({
      title: 'Temperature',
      help: 'In kelvin.',
      default: 2700,
      soft: [1700, 12000],
      hard: [1667, 25000],
      step: 10,
      unit: 'K',
      low: 'ember',
      high: 'blue sky',
    }),
  },
  options: {
    hold: option('Scaled to', 'What is 1.', {
      largest: ['Largest channel', 'Never above 1.'],
      luminance: ['Luminance', 'All temperatures equally bright.'],
    }),
  },
  outputs: { colour: output.colour('Colour', 'The colour of the glow.') },
  lower: (b, { kelvin }, { hold }) => {
    const [x, y] = chromaticity(b, b.clamp(kelvin, b.f(1667), b.f(25000)));
    const xyz: Lanes3 = [b.div(x, y), b.f(1), b.div(b.sub(b.sub(b.f(1), x), y), y)];
    const cut = FROM_XYZ.map((row) =>
      b.max(b.f(0), b.dot(row.map((value) => b.f(value)) as unknown as Lanes3, xyz)),
    ) as unknown as Lanes3;
    const unit = hold === 'largest' ? largestOf(b, cut) : luminance(b, cut);
    return { colour: map3(cut, (lane) => b.div(lane, unit)) };
  },
});

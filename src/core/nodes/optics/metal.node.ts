import { defineNode, input, output } from '../define';
import { map3 } from '../lanes';

export const metal = defineNode({
  id: 'optics.metal',
  version: 1,
  title: 'Metal reflectance',
  family: 'optics',
  synonyms: ['complex index', 'n and k', 'conductor', 'f0', 'extinction', 'metal colour'],
  help:
    'The colour of a metal, out of its refractive index and extinction at three ' +
    'wavelengths (red, green, blue). Wire it into a base colour with metalness 1.',
  formula: 'F0 = ((n − 1)² + k²)/((n + 1)² + k²), channel by channel',
  inputs: {
    index: input.vector({
      title: 'Refractive index n',
      help: 'For red, green and blue light.',
      default: [0.22, 1.02, 1.17],
      soft: [0, 4],
    }),
    extinction: input.vector({
      title: 'Extinction k',
      help: 'For red, green and blue light.',
      default: [3.747, 2.577, 2.397],
      soft: [0, 8],
    }),
  },
  outputs: { colour: output.colour('Colour', 'Share reflected straight on, 0 to 1.') },
  lower: (b, { index, extinction }) => ({
    colour: map3(index, (n, k) => {
      const absorbed = b.mul(extinction[k as 0], extinction[k as 0]);
      const [below, above] = [b.sub(n, b.f(1)), b.add(n, b.f(1))];
      const divisor = b.add(b.mul(above, above), absorbed);
      const none = b.eq(divisor, b.f(0));
      return b.select(
        none,
        b.f(1),
        b.div(b.add(b.mul(below, below), absorbed), b.select(none, b.f(1), divisor)),
      );
    }),
  }),
});

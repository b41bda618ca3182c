import { defineNode, input, option, output } from '../define';
import { cross, map3, normalise, turnAbout, zip3 } from '../lanes';

export const vectorMath = defineNode({
  id: 'math.vector',
  version: 1,
  title: 'Vector math',
  family: 'math',
  synonyms: [
    'cross product',
    'normalise',
    'reflect',
    'rotate',
    'unit length',
    'mirror direction',
    'project',
  ],
  help: 'One operation on directions or places that gives a vector.',
  formula: 'depends on the operation; each choice tells its own',
  inputs: {
    a: input.vector({ title: 'A', help: 'What is worked on.', default: 'normal', soft: [-1, 1] }),
    b: input.vector({
      title: 'B',
      help: 'The second vector, the mirror’s normal, or the axis.',
      default: [0, 1, 0],
      soft: [-1, 1],
    }),
    degrees: input.scalar({
      title: 'Degrees',
      help: 'How far it turns.',
      default: 90,
      soft: [-180, 180],
      step: 1,
      unit: '°',
    }),
  },
  options: {
    operation: option('Operation', 'What is done.', {
      cross: ['Cross', 'A vector across both: a × b'],
      normalise: ['Normalise', 'The same direction with length 1; 0 stays 0'],
      reflect: ['Reflect', 'Mirrored at a plane with normal b: a − 2(a·n)n'],
      rotate: ['Rotate', 'Turned about the axis b by degrees; an axis of 0 turns nothing'],
      project: ['Project', 'The part of a along b: (a·n)n'],
      flatten: ['Flatten', 'The part of a across b: a − (a·n)n'],
    }),
  },
  idle: ({ operation }) =>
    operation === 'normalise' ? ['b', 'degrees'] : operation === 'rotate' ? [] : ['degrees'],
  outputs: { vector: output.vector('Vector', 'The result.') },
  lower: (builder, { a, b, degrees }, { operation }) => {
    const zero = map3(a, () => builder.f(0));
    if (operation === 'cross') return { vector: cross(builder, a, b) };
    if (operation === 'normalise') return { vector: normalise(builder, a, zero) };
    const n = normalise(builder, b, zero);
    if (operation === 'rotate') {
      const turned = turnAbout(
        builder,
        a,
        normalise(builder, b, [builder.f(0), builder.f(1), builder.f(0)]),
        degrees,
      );
      const noAxis = builder.eq(builder.dot(b, b), builder.f(0));
      return { vector: zip3(a, turned, (still, lane) => builder.select(noAxis, still, lane)) };
    }
    const along = builder.dot(a, n);
    const part = map3(n, (lane) => builder.mul(lane, along));
    if (operation === 'project') return { vector: part };
    return {
      vector: zip3(a, part, (x, y) =>
        builder.sub(x, operation === 'reflect' ? builder.add(y, y) : y),
      ),
    };
  },
});

import { atan2 } from '../../ir/library/transcendental';
import { defineNode, input, option, output } from '../define';
import { cross, zip3 } from '../lanes';

export const measure = defineNode({
  id: 'math.measure',
  version: 1,
  title: 'Measure',
  family: 'math',
  synonyms: ['dot product', 'length', 'distance', 'angle between', 'magnitude', 'radius'],
  help: 'One number out of vectors: how long, how far apart, how alike.',
  formula: 'dot a·b; length |a|; distance |a − b|; angle atan2(|a × b|, a·b) in degrees',
  inputs: {
    a: input.vector({ title: 'A', help: 'First vector.', default: 'position', soft: [-1, 1] }),
    b: input.vector({ title: 'B', help: 'Second vector.', default: [0, 0, 0], soft: [-1, 1] }),
  },
  options: {
    operation: option('Operation', 'What is measured.', {
      distance: ['Distance', 'How far a lies from b: |a − b|'],
      length: ['Length', '|a|'],
      dot: ['Dot', 'a·b: alike, for unit vectors from −1 to 1'],
      angle: ['Angle', 'Between a and b, 0° to 180°; 0 where one has no length'],
    }),
  },
  idle: ({ operation }) => (operation === 'length' ? ['b'] : []),
  outputs: { value: output.scalar('Value', 'The result.', { quantity: 'coordinate' }) },
  tolerance: { value: 1e-3, reason: 'Degrees multiply the rounding of the angle by 57.' },
  lower: (builder, { a, b }, { operation }) => {
    const length = (v: typeof a) => builder.sqrt(builder.dot(v, v));
    switch (operation) {
      case 'dot':
        return { value: builder.dot(a, b) };
      case 'length':
        return { value: length(a) };
      case 'distance':
        return { value: length(zip3(a, b, (x, y) => builder.sub(x, y))) };
      case 'angle':
        return {
          value: builder.mul(
            atan2(builder, length(cross(builder, a, b)), builder.dot(a, b)),
            builder.f(180 / Math.PI),
          ),
        };
    }
  },
});

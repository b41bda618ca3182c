import { gradient } from '../../ir/differentiate';
import { defineNode, input, output } from '../define';
import { map3, normalise, zip3 } from '../lanes';

export const bump = defineNode({
  id: 'surface.bump',
  version: 1,
  title: 'Bump',
  family: 'surface',
  synonyms: ['relief', 'height', 'dents', 'emboss', 'normal detail'],
  help:
    'Makes relief out of a height. The slope is exact: it is found by differentiating the ' +
    'height network itself.',
  formula: 'n′ = n − s·(∇h − (∇h·n)·n), made unit; s = strength·relief·size',
  inputs: {
    height: input.scalar({
      title: 'Height',
      help: 'Wire a pattern or mask here; a constant has no slope.',
      default: 0,
      low: 'deep',
      high: 'high',
    }),
    strength: input.scalar({
      title: 'Strength',
      help: '1 is the relief as designed.',
      default: 1,
      soft: [-2, 2],
      hard: [-1000, 1000],
      low: 'inverted',
      high: 'strong',
    }),
    relief: input.scalar({
      title: 'Relief',
      help: 'How high a height of 1 stands.',
      default: 0.01,
      soft: [0, 0.05],
      hard: [0, 10],
      step: 0.001,
      unit: 'of the object’s size',
      low: 'flat',
      high: 'deep',
    }),
    normal: input.vector({
      title: 'Normal',
      help: 'The direction the relief starts from.',
      default: 'normal',
      soft: [-1, 1],
    }),
  },
  outputs: { normal: output.vector('Normal', 'Wire it to a surface’s normal.') },
  tolerance: {
    value: 5e-3,
    reason: 'Slopes of fine patterns are large differences of rounded values.',
  },
  lower: (b, { height, strength, relief, normal }, _options, model) => {
    const start = normalise(b, normal, model.normal);
    const slope = gradient(b, height);
    const scale = b.mul(b.mul(strength, relief), model.size);
    const outward = b.dot(slope, start);
    const along = map3(slope, (lane, k) => b.sub(lane, b.mul(start[k as 0], outward)));
    return {
      normal: normalise(
        b,
        zip3(start, along, (n, g) => b.sub(n, b.mul(g, scale))),
        start,
      ),
    };
  },
});

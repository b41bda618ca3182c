import { defineNode, input, option, output } from '../define';
import { LEVEL_ONE, MOST_REFLECTANCE } from '../quantities';

export const reflectance = defineNode({
  id: 'optics.reflectance',
  version: 1,
  title: 'Index and reflectance',
  family: 'optics',
  synonyms: ['ior', 'refractive index', 'f0', 'specular level', 'normal incidence', 'reflectivity'],
  help:
    'Refractive index, reflectance at normal incidence and specular level say the same in ' +
    'three ways; give one, read all. ' +
    'An index below 1, a reflectance outside 0–0.9 or a level that means such a one is ' +
    'limited, and Outside marks it.',
  formula: 'F0 = ((n − 1)/(n + 1))²; n = (1 + √F0)/(1 − √F0); F0 = 0.08·level',
  inputs: {
    index: input.scalar({
      quantity: 'refractive index',
      title: 'Refractive index',
      help: 'Against air.',
      default: 1.5,
      soft: [1, 3],
      hard: [0, 100],
      low: 'air',
      high: 'diamond and beyond',
    }),
    reflectance: input.scalar({
      quantity: 'reflectance',
      title: 'Reflectance',
      help: 'Share reflected straight on.',
      default: 0.04,
      soft: [0, 0.2],
      hard: [-1, 10],
      step: 0.001,
      low: 'none',
      high: 'strong',
    }),
    level: input.scalar({
      quantity: 'specular level',
      title: 'Specular level',
      help: '0.5 is the usual dielectric.',
      default: 0.5,
      soft: [0, 1],
      hard: [-10, 100],
      low: 'none',
      high: 'gemstone',
    }),
  },
  options: {
    from: option('Given', 'Which of the three is given.', {
      index: ['Refractive index', 'n'],
      reflectance: ['Reflectance', 'F0'],
      level: ['Specular level', 'F0/0.08'],
    }),
  },
  idle: ({ from }) => (['index', 'reflectance', 'level'] as const).filter((name) => name !== from),
  outputs: {
    index: output.scalar('Refractive index', '1 and above.', { quantity: 'refractive index' }),
    reflectance: output.scalar('Reflectance', '0 to 0.9.', { quantity: 'reflectance' }),
    level: output.scalar('Specular level', 'The reflectance divided by 0.08.', {
      quantity: 'specular level',
    }),
    outside: output.scalar('Outside', '1 where what is given had to be limited.', {
      low: 'possible',
      high: 'limited',
    }),
  },
  watches: [':outside'],
  advise: (reads) => {
    const outside = reads.result('outside');
    if (!outside || outside.maximum <= 0) return [];
    const where = outside.minimum > 0 ? 'everywhere' : 'on a part of the surface';
    return [
      {
        code: 'range.left',
        mark: 'limits',
        message:
          `What is given is limited ${where}: no clear body has it. An index is 1 or more, a ` +
          'reflectance 0 to 0.9, a specular level 0 to 11.25. Is it in another unit?',
      },
    ];
  },
  tolerance: { value: 1e-3, reason: 'Near a reflectance of 0.9 the index changes fast.' },
  lower: (b, { index, reflectance: given, level }, { from }) => {
    const one = b.f(1);
    // √F0, which all three are simple functions of; √0.9 is the most.
    const greatest = Math.sqrt(MOST_REFLECTANCE);
    const raw =
      from === 'index'
        ? b.div(b.sub(index, one), b.add(b.max(index, b.f(0)), one))
        : from === 'reflectance'
          ? given
          : b.mul(level, b.f(LEVEL_ONE));
    const root = b.clamp(
      from === 'index' ? raw : b.sqrt(b.max(raw, b.f(0))),
      b.f(0),
      b.f(greatest),
    );
    const outside = b.or(
      b.lt(raw, b.f(0)),
      b.lt(b.f(from === 'index' ? greatest : MOST_REFLECTANCE), raw),
    );
    const share =
      from === 'index' ? b.mul(root, root) : b.clamp(raw, b.f(0), b.f(MOST_REFLECTANCE));
    const above = b.add(one, root);
    return {
      // (1 + r)/(1 − r), with 1 − r² from the share that is given: near 0.9 the root has lost
      // digits.
      index:
        from === 'index'
          ? b.div(above, b.sub(one, root))
          : b.div(b.mul(above, above), b.sub(one, share)),
      reflectance: share,
      level: b.mul(share, b.f(1 / LEVEL_ONE)),
      outside: b.select(outside, one, b.f(0)),
    };
  },
});

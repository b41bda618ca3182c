import { defineNode, input, output } from '../define';

export const fresnel = defineNode({
  id: 'optics.fresnel',
  version: 1,
  title: 'Fresnel',
  family: 'optics',
  synonyms: ['grazing', 'rim', 'reflection by angle', 'glass edge', 'schlick'],
  help:
    'The share of light a clear body reflects at an angle, unpolarised and exact. The ' +
    'cosine is 1 straight on and 0 at the rim; wire a facing into it. ' +
    'An index below 1 is the view from inside, with total reflection.',
  formula:
    'c = |cosine|, g² = n² − 1 + c²; ½((g − c)/(g + c))²·(1 + ((c(g + c) − ' +
    '1)/(c(g − c) + ' +
    '1))²); 1 where g² < 0, 0 where n = 1',
  inputs: {
    index: input.scalar({
      quantity: 'refractive index',
      title: 'Refractive index',
      help: 'Of the body against its surroundings.',
      default: 1.5,
      soft: [1, 3],
      hard: [0.01, 100],
      low: 'air',
      high: 'diamond and beyond',
    }),
    cosine: input.scalar({
      title: 'Cosine',
      help:
        'Of the angle between the look and the normal; its sign does not matter, above 1 ' +
        'counts as 1.',
      default: 1,
      low: 'at the rim',
      high: 'straight on',
    }),
  },
  outputs: {
    reflectance: output.scalar('Reflectance', '0 to 1.', {
      low: 'passes',
      high: 'mirror',
      quantity: 'reflectance',
    }),
  },
  tolerance: {
    value: 1e-3,
    reason: 'Near the angle of total reflection the value changes with the root of the angle.',
  },
  // Source: R. Cook and K. Torrance, A Reflectance Model for Computer Graphics, 1982.
  lower: (b, { index, cosine }) => {
    const one = b.f(1);
    const n = b.max(index, b.f(0.01));
    const c = b.min(b.abs(cosine), one);
    const squared = b.add(b.sub(b.mul(n, n), one), b.mul(c, c));
    const total = b.le(squared, b.f(0));
    const g = b.sqrt(b.select(total, one, squared));
    const [sum, difference] = [b.add(g, c), b.sub(g, c)];
    const across = b.div(difference, sum);
    const along = b.div(b.sub(b.mul(c, sum), one), b.add(b.mul(c, difference), one));
    const share = b.mul(b.mul(b.mul(across, across), b.f(0.5)), b.add(one, b.mul(along, along)));
    // An index of 1 is no surface at all, not even at the rim.
    const whole = b.select(b.eq(n, one), b.f(0), one);
    return { reflectance: b.select(total, whole, share) };
  },
});

import { defineNode, input, output } from '../define';
import { map3, normalise, zip3 } from '../lanes';
import { distanceBetween, givenPlace, measureOption, measured } from '../places';

export const between = defineNode({
  id: 'model.between',
  version: 1,
  title: 'Between',
  family: 'model',
  synonyms: ['measure distance', 'span', 'separation', 'two points', 'how far'],
  help:
    'How far two places are from each other, where the middle of the way is, and which way ' +
    'it goes. Wire the centres of beacons or parts into it. With typed places it is the ' +
    'same ' +
    'all over the surface. For the distance of the surface itself, take Proximity.',
  formula: '|b − a|; unit(b − a); (a + b)/2',
  inputs: {
    a: input.vector({
      title: 'From',
      help: 'The first place; wired, in metres of object space.',
      default: [0, -0.25, 0],
      soft: [-1, 1],
      picks: 'place',
    }),
    b: input.vector({
      title: 'To',
      help: 'The second place; wired, in metres of object space.',
      default: [0, 0.25, 0],
      soft: [-1, 1],
      picks: 'place',
    }),
  },
  options: { measure: measureOption },
  outputs: {
    distance: output.scalar('Distance', 'In object sizes or metres.', {
      quantity: 'distance',
      low: 'together',
      high: 'far apart',
    }),
    direction: output.vector('Direction', 'From the first to the second; up where they coincide.'),
    middle: output.vector('Middle', 'Half-way, metres in object space.'),
  },
  lower: (b, given, { measure }, model) => {
    const from = givenPlace(b, 'a', given.a, measure, model),
      to = givenPlace(b, 'b', given.b, measure, model);
    const way = zip3(to, from, (x, y) => b.sub(x, y));
    return {
      distance: measured(b, distanceBetween(b, from, to), measure, model),
      direction: normalise(b, way, [b.f(0), b.f(1), b.f(0)]),
      middle: map3(from, (lane, k) => b.mul(b.add(lane, to[k as 0]), b.f(0.5))),
    };
  },
});

import type { Builder } from '../../ir/builder';
import type { F32, Lanes3 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { evenStep } from '../edges';
import { map3, smooth, turnInOrder, zip3 } from '../lanes';
import { givenPlace, lengthOf, measureOption } from '../places';

type Shape = 'sphere' | 'box' | 'cylinder' | 'half-space';

/** 0 in the middle, 1 on the drawn boundary. */
function distanceIn(b: Builder, [x, y, z]: Lanes3, shape: Shape): F32 {
  switch (shape) {
    case 'sphere':
      return b.sqrt(b.dot([x, y, z], [x, y, z]));
    case 'box':
      return b.max(b.max(b.abs(x), b.abs(y)), b.abs(z));
    case 'cylinder':
      return b.max(b.sqrt(b.add(b.mul(x, x), b.mul(z, z))), b.abs(y));
    case 'half-space':
      return b.max(b.add(y, b.f(1)), b.f(0));
  }
}

export const beacon = defineNode({
  id: 'model.beacon',
  version: 1,
  title: 'Beacon',
  family: 'model',
  synonyms: [
    'helper',
    'locator',
    'gizmo',
    'region',
    'place a mask',
    'falloff shape',
    'volume',
    'tide line',
    'local coordinates',
  ],
  help:
    'A shape that is placed on the stage and gives a mask: white inside, fading from the ' +
    'inner share of it to its boundary, which is where it is drawn. ' +
    'Everything about it can be typed, wired, or driven by a dial; its coordinates place ' +
    'patterns. The half-space is white below its plane.',
  formula:
    'q = R⁻¹·(p − place)/extent; distance |q| (sphere), largest |q_i| (box), ' +
    'max(√(q_x² + ' +
    'q_z²), |q_y|) (cylinder), max(q_y + 1, 0) (half-space); mask 1 − s((distance − ' +
    'inner)/(1 − inner))',
  inputs: {
    place: input.vector({
      title: 'Place',
      help: 'Where its middle is.',
      default: [0, 0.25, 0],
      soft: [-1, 1],
      picks: 'place',
    }),
    turn: input.vector({
      title: 'Turn',
      help: 'Degrees about X, then Y, then Z.',
      default: [0, 0, 0],
      soft: [-180, 180],
      step: 1,
      unit: '°',
    }),
    extent: input.vector({
      title: 'Extent',
      help: 'From its middle to its boundary along each of its axes; 0 counts as very thin.',
      default: [0.3, 0.3, 0.3],
      soft: [0, 1],
    }),
    inner: input.scalar({
      title: 'Inner',
      help: 'Up to which share of it the mask is fully white.',
      default: 0.5,
      hard: [0, 1],
      low: 'fades from the middle',
      high: 'hard boundary',
    }),
  },
  options: {
    shape: option('Shape', 'Its form.', {
      sphere: ['Sphere', 'Round; an ellipsoid where the extents differ.'],
      box: ['Box', 'Six flat sides.'],
      cylinder: ['Cylinder', 'Round about its Y axis, flat at both ends.'],
      'half-space': ['Half-space', 'All that lies below a plane.'],
    }),
    measure: measureOption,
  },
  outputs: {
    mask: output.scalar('Mask', '1 inside, 0 from the boundary on.', {
      quantity: 'mask',
      low: 'outside',
      high: 'inside',
    }),
    distance: output.scalar('Distance', '0 in the middle, 1 at its boundary, more outside.', {
      quantity: 'distance',
      low: 'middle',
      high: 'boundary',
    }),
    coordinates: output.vector('Coordinates', 'Its own: −1 to 1 inside it.'),
    centre: output.vector(
      'Centre',
      'Its middle, metres in object space; for Proximity and Between.',
    ),
  },
  tolerance: {
    value: 1e-3,
    reason: 'Turns and thin extents multiply the rounding of the position.',
  },
  lower: (b, { place, turn, extent, inner }, { shape, measure }, model) => {
    const centre = givenPlace(b, 'place', place, measure, model);
    const back = turnInOrder(
      b,
      zip3(model.position, centre, (x, y) => b.sub(x, y)),
      map3(turn, (lane) => b.neg(lane)),
      [2, 1, 0],
    );
    const coordinates = zip3(back, extent, (x, e) =>
      b.div(
        x,
        b.max(
          lengthOf(b, b.abs(e), measure, model),
          b.mul(b.max(model.size, b.f(1e-12)), b.f(1e-6)),
        ),
      ),
    );
    const distance = distanceIn(b, coordinates, shape);
    const edge = b.saturate(inner);
    const hard = b.eq(edge, b.f(1));
    const eased = smooth(
      b,
      b.saturate(b.div(b.sub(distance, edge), b.select(hard, b.f(1), b.sub(b.f(1), edge)))),
    );
    const mask = b.sub(b.f(1), b.select(hard, evenStep(b, distance, b.f(1), model), eased));
    return { mask, distance, coordinates, centre };
  },
});

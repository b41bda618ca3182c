import { defineNode, input, openOption, option, output } from '../define';
import { position01 } from '../lanes';
import { distanceBetween, givenPlace, lengthOf, measureOption, measured } from '../places';

export const proximity = defineNode({
  id: 'model.proximity',
  version: 1,
  title: 'Proximity',
  family: 'model',
  synonyms: ['distance to', 'near', 'contact', 'distance field', 'touching', 'close to', 'falloff'],
  help:
    'How near the surface is to the other parts of the model, to one part of your choice, ' +
    'or to a place: a value that passes from one result at the near distance to another ' +
    'at the far one. For a beacon’s own shape take the beacon’s distance; wired places are ' +
    'in metres of object space.',
  formula:
    't = limit((d − near)/(far − near)); value = at near + (at far − at near)·t; equal ' +
    'ends give a step',
  inputs: {
    place: input.vector({
      title: 'Place',
      help: 'From where distances count; wire a centre here.',
      default: [0, 0, 0],
      soft: [-1, 1],
      picks: 'place',
    }),
    near: input.scalar({
      title: 'Near',
      help: 'Up to here the first result stands.',
      default: 0,
      soft: [0, 0.5],
      hard: [0, 100000],
      step: 0.005,
      low: 'touching',
      high: 'far',
    }),
    far: input.scalar({
      title: 'Far',
      help: 'From here on the second result stands.',
      default: 0.2,
      soft: [0, 1],
      hard: [0, 100000],
      step: 0.005,
      low: 'touching',
      high: 'far',
    }),
    atNear: input.scalar({ title: 'At near', help: 'The result near by.', default: 1 }),
    atFar: input.scalar({ title: 'At far', help: 'The result far away.', default: 0 }),
  },
  options: {
    to: option('To', 'What the distance is to.', {
      others: ['Other parts', 'The nearest point of any part but the point’s own.'],
      part: ['A part', 'The nearest point of the part chosen.'],
      place: ['A place', 'A typed or wired place.'],
    }),
    part: openOption('Part', 'Which part, by its name.', 'parts', ['None', 'Counts as far away.']),
    measure: measureOption,
  },
  idle: ({ to }) => (to === 'place' ? [] : ['place']),
  outputs: {
    value: output.scalar('Value', 'From the near to the far result.', { low: 'far', high: 'near' }),
    t: output.scalar('T', '0 at near, 1 at far.', { low: 'near', high: 'far' }),
    distance: output.scalar(
      'Distance',
      'In object sizes or metres; 2 object sizes where there is nothing to measure to.',
      { quantity: 'distance' },
    ),
  },
  lower: (b, { place, near, far, atNear, atFar }, { to, measure }, model) => {
    const metres =
      to === 'place'
        ? distanceBetween(b, model.position, givenPlace(b, 'place', place, measure, model))
        : model.meshMap('proximity', { to: 'to', part: 'part' });
    const t = b.saturate(
      position01(b, metres, lengthOf(b, near, measure, model), lengthOf(b, far, measure, model)),
    );
    return { value: b.mix(atNear, atFar, t), t, distance: measured(b, metres, measure, model) };
  },
});

import { defineNode, input, option, output } from '../define';
import { map3 } from '../lanes';

export const occlusion = defineNode({
  id: 'model.occlusion',
  version: 1,
  title: 'Occlusion',
  family: 'model',
  synonyms: ['ambient occlusion', 'crevice', 'dirt', 'shadow', 'contact', 'openness', 'grime'],
  help:
    'How much of the sky over the point is free of the model itself within a reach, ' +
    'cosine-weighted. Open surfaces give openness 1.',
  formula:
    'openness = mean over cosine-weighted rays of 1, or of (distance/reach)^falloff where ' +
    'a ray meets the model',
  inputs: {
    reach: input.fixed({
      title: 'Reach',
      help: 'How far a ray looks. Changing it measures the model again.',
      default: 0.25,
      soft: [0.02, 1],
      hard: [0.0001, 100],
      step: 0.005,
      low: 'contacts only',
      high: 'the whole form',
      unit: 'of the object’s size',
    }),
    cone: input.fixed({
      title: 'Cone',
      help: 'Half angle of the cone of rays.',
      default: 90,
      soft: [10, 90],
      hard: [1, 90],
      step: 1,
      low: 'straight ahead',
      high: 'all around',
      unit: '°',
    }),
    falloff: input.fixed({
      title: 'Falloff',
      help: 'How distant hits count less; 0 counts every hit alike.',
      default: 0,
      soft: [0, 4],
      hard: [0, 16],
      step: 0.1,
      low: 'all hits alike',
      high: 'only near hits',
    }),
    detail: input.vector({
      title: 'Detail',
      help:
        'Normals to look along in place of the surface’s own: wire a bump or a normal map ' +
        'here. What the surface itself then hides counts as covered.',
      default: 'normal',
      soft: [-1, 1],
    }),
    open: input.colour({
      title: 'Open colour',
      help: 'Colour where nothing is in the way.',
      default: [1, 1, 1],
    }),
    deep: input.colour({
      title: 'Deep colour',
      help: 'Colour where all is covered.',
      default: [0, 0, 0],
    }),
  },
  options: {
    floor: option('Floor', 'Whether the model stands on something.', {
      none: ['None', 'It hangs free.'],
      ground: ['Ground', 'It stands on a plane at its lowest point.'],
    }),
    side: option('Side', 'Which side of the surface is looked at.', {
      open: ['Open', 'Outwards.'],
      solid: ['Solid', 'Inwards, through the body.'],
      both: ['Both', 'The mean of the two.'],
    }),
    measure: option('Reach in', 'What the reach counts in.', {
      relative: ['Object size', 'A share of the diameter of the smallest enclosing sphere.'],
      units: ['Metres', 'A real length.'],
    }),
  },
  outputs: {
    openness: output.scalar('Openness', 'Free share.', {
      quantity: 'mask',
      low: 'covered',
      high: 'open',
    }),
    occlusion: output.scalar('Occlusion', '1 − openness.', {
      quantity: 'mask',
      low: 'open',
      high: 'covered',
    }),
    colour: output.colour('Colour', 'From the deep to the open colour.'),
  },
  lower: (b, { reach, cone, falloff, open, deep }, _options, model) => {
    const openness = model.meshMap(
      'occlusion',
      { reach, cone, falloff, side: 'side', floor: 'floor', measure: 'measure' },
      { detail: 'detail' },
    );
    return {
      openness,
      occlusion: b.sub(b.f(1), openness),
      colour: map3(deep, (lane, k) => b.mix(lane, open[k as 0], openness)),
    };
  },
});

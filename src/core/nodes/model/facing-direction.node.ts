import { defineNode, input, option, output } from '../define';
import { softBand } from '../edges';
import { normalise } from '../lanes';

export const facingDirection = defineNode({
  id: 'model.facing-direction',
  version: 1,
  title: 'Facing direction',
  family: 'model',
  fits: [
    {
      kind: 'facing',
      direction: 'direction',
      centre: 'centre',
      width: 'width',
      softness: 'softness',
      when: ['smoothing', 'smooth'],
    },
  ],
  synonyms: ['side', 'windward', 'towards', 'direction mask', 'front', 'lee', 'sun side'],
  help:
    'How far the surface looks towards a direction of your choice, and a mask of a part of ' +
    'that: 1 straight at it, 0 across, −1 away.',
  formula: 'f = n·direction; mask 1 − s((|f − centre| − width/2)/softness), s(t) = t²(3 − 2t)',
  inputs: {
    direction: input.vector({
      title: 'Direction',
      help: 'Where to look; its length does not matter.',
      default: [0, 0, 1],
      soft: [-1, 1],
      picks: 'direction',
    }),
    centre: input.scalar({
      title: 'Centre',
      help: 'Which facing the mask keeps: 1 straight at it, 0 across.',
      default: 1,
      soft: [-1, 1],
      low: 'away',
      high: 'towards',
    }),
    width: input.scalar({
      title: 'Width',
      help: 'Width of what is fully kept.',
      default: 0.5,
      soft: [0, 2],
      low: 'a line',
      high: 'all round',
    }),
    softness: input.scalar({
      title: 'Softness',
      help: 'Width of the border on each side.',
      default: 0.3,
      soft: [0, 1],
      low: 'hard',
      high: 'soft',
    }),
  },
  options: {
    smoothing: option('Smoothing', 'Which normal is read.', {
      smooth: ['Smooth', 'As shaded, blended between corners.'],
      face: ['Per face', 'Flat on each triangle.'],
    }),
  },
  outputs: {
    mask: output.scalar('Mask', '0 to 1.', {
      quantity: 'mask',
      low: 'other sides',
      high: 'this side',
    }),
    facing: output.scalar('Facing', '−1 to 1.', { low: 'away', high: 'towards' }),
  },
  lower: (b, { direction, centre, width, softness }, { smoothing }, model) => {
    const n = smoothing === 'smooth' ? model.normal : model.faceNormal;
    const facing = b.dot(n, normalise(b, direction, [b.f(0), b.f(0), b.f(1)]));
    return { mask: softBand(b, b.abs(b.sub(facing, centre)), width, softness, model), facing };
  },
});

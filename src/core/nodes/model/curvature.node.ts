import { defineNode, input, option, output } from '../define';

export const curvature = defineNode({
  id: 'model.curvature',
  version: 1,
  title: 'Curvature',
  family: 'model',
  synonyms: ['edge', 'edges', 'wear', 'chips', 'cavity', 'crevice', 'convex', 'concave'],
  help:
    'Edges and hollows of the model, measured over a radius. Signed is ρ times the mean ' +
    'curvature: ρ/R on a sphere of radius R, ' +
    'ρ/2R on a cylinder, 0 on a plane, about ½ on a sharp right-angled edge; convex is positive.',
  formula:
    'signed = ρ·H + bias; convex = limit((signed − threshold)·gain); concave = ' +
    'limit((−signed − threshold)·gain)',
  inputs: {
    radius: input.fixed({
      title: 'Radius',
      help: 'How far around the point is looked at. Changing it measures the model again.',
      default: 0.03,
      soft: [0.005, 0.15],
      hard: [0.0001, 10],
      step: 0.001,
      low: 'fine edges only',
      high: 'broad forms',
      unit: 'of the object’s size',
    }),
    gain: input.scalar({
      title: 'Gain',
      help: 'Strength of convex and concave.',
      default: 2,
      soft: [0, 8],
      step: 0.05,
      low: 'nothing',
      high: 'hard mask',
    }),
    threshold: input.scalar({
      title: 'Threshold',
      help: 'Weaker bends than this are left out.',
      default: 0.02,
      soft: [0, 0.5],
      step: 0.005,
      low: 'every bend',
      high: 'sharp edges only',
    }),
    detail: input.vector({
      title: 'Detail',
      help:
        'Normals that are measured in place of the surface’s own: wire a bump or a normal ' +
        'map here, and its edges and hollows count.',
      default: 'normal',
      soft: [-1, 1],
    }),
    bias: input.scalar({
      title: 'Bias',
      help: 'Shifts the balance of edges and hollows.',
      default: 0,
      soft: [-0.5, 0.5],
      step: 0.005,
      low: 'towards hollows',
      high: 'towards edges',
    }),
  },
  options: {
    measure: option('Radius in', 'What the radius counts in.', {
      relative: ['Object size', 'A share of the diameter of the smallest enclosing sphere.'],
      units: ['Metres', 'A real length.'],
    }),
  },
  outputs: {
    convex: output.scalar('Convex', 'How far it bends outwards, as on edges.', {
      quantity: 'mask',
      low: 'flat or hollow',
      high: 'edge',
    }),
    concave: output.scalar('Concave', 'How far it bends inwards, as in hollows.', {
      quantity: 'mask',
      low: 'flat or edge',
      high: 'hollow',
    }),
    signed: output.scalar('Signed', 'ρ·H, unlimited.', { low: 'hollow', high: 'edge' }),
  },
  lower: (b, { radius, gain, threshold, bias }, _options, model) => {
    const signed = b.add(
      model.meshMap('curvature', { radius, measure: 'measure' }, { detail: 'detail' }),
      bias,
    );
    return {
      convex: b.saturate(b.mul(b.sub(signed, threshold), gain)),
      concave: b.saturate(b.mul(b.sub(b.neg(signed), threshold), gain)),
      signed,
    };
  },
});

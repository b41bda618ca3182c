import { defineNode, input, option, output } from '../define';
import { evenStep } from '../edges';
import { position01, smooth } from '../lanes';

export const smoothstep = defineNode({
  id: 'ranges.smoothstep',
  version: 1,
  title: 'Smoothstep',
  family: 'ranges',
  fits: [
    { kind: 'edge', of: 'value', edge: 'edge', width: 'width', when: ['form', 'centred'] },
    {
      kind: 'edge',
      of: 'value',
      edge: 'edge',
      width: 'width',
      begins: true,
      when: ['form', 'from'],
    },
    { kind: 'edges', of: 'value', lower: 'edge', upper: 'upper', when: ['form', 'edges'] },
  ],
  synonyms: ['soft edge', 'ease', 's curve', 'soft threshold', 'mask edge'],
  help:
    'A soft edge from 0 to 1, given by its place and its width, so that it cannot turn ' +
    'over; at width 0 it is the step x ≥ edge.',
  formula: 't²(3 − 2t), t = limit((x − start)/width)',
  inputs: {
    value: input.scalar({ title: 'Value', help: 'What is judged.', default: 0.5 }),
    edge: input.scalar({
      title: 'Edge',
      help: 'Where the edge lies.',
      default: 0.5,
      low: 'wide mask',
      high: 'narrow mask',
    }),
    width: input.scalar({
      title: 'Width',
      help: 'How soft it is; below 0 counts as 0.',
      default: 0.2,
      low: 'hard',
      high: 'soft',
    }),
    upper: input.scalar({
      title: 'Upper edge',
      help:
        'Where 1 is reached, for the two-edge form. May lie below the edge; then the mask ' +
        'is turned over.',
      default: 0.7,
    }),
  },
  options: {
    form: option('Form', 'How the edge is given.', {
      centred: ['Centred', 'Half the width on each side of the edge.'],
      from: ['From the edge', 'Starts at the edge.'],
      edges: ['Two edges', 'From the edge to the upper edge.'],
    }),
  },
  idle: ({ form }) => (form === 'edges' ? ['width'] : ['upper']),
  outputs: {
    mask: output.scalar('Mask', '0 to 1.', {
      quantity: 'mask',
      low: 'below the edge',
      high: 'above',
    }),
  },
  lower: (b, { value, edge, width, upper }, { form }, model) => {
    if (form === 'edges') return { mask: smooth(b, b.saturate(position01(b, value, edge, upper))) };
    const soft = b.max(width, b.f(0));
    const hard = b.eq(soft, b.f(0));
    const start = form === 'centred' ? b.sub(edge, b.mul(soft, b.f(0.5))) : edge;
    const t = b.saturate(b.div(b.sub(value, start), b.select(hard, b.f(1), soft)));
    return { mask: b.select(hard, evenStep(b, value, edge, model), smooth(b, t)) };
  },
});

import { toOklab } from '../colour-lanes';
import { defineNode, input, output } from '../define';
import { smooth, stepAt, zip3 } from '../lanes';

export const replace = defineNode({
  id: 'colour.replace',
  version: 1,
  title: 'Replace colour',
  family: 'colour',
  synonyms: ['swap colour', 'key', 'pick colour', 'select colour', 'recolour', 'similar'],
  help:
    'Finds what looks like a colour and puts another in its place. Up to the fine ' +
    'tolerance it is fully replaced, from the coarse one on not at all. ' +
    'Likeness is measured as seen: black and white lie 1 apart. If the coarse tolerance is ' +
    'not above the fine one, the border is hard.',
  formula:
    'd = |Oklab(colour) − Oklab(from)|; selection 1 − s((d − fine)/(coarse − ' +
    'fine)), s(t) ' +
    '= t²(3 − 2t)',
  inputs: {
    colour: input.colour({
      title: 'Colour',
      help: 'Where it is looked for.',
      default: [0.5, 0.2, 0.1],
    }),
    from: input.colour({ title: 'From', help: 'What is looked for.', default: [0.5, 0.2, 0.1] }),
    to: input.colour({ title: 'To', help: 'What is put there.', default: [0.1, 0.25, 0.5] }),
    fine: input.scalar({
      title: 'Fine tolerance',
      help: 'As alike as this is fully replaced.',
      default: 0.05,
      soft: [0, 0.5],
      low: 'only this colour',
      high: 'similar ones',
    }),
    coarse: input.scalar({
      title: 'Coarse tolerance',
      help: 'As unlike as this is left alone.',
      default: 0.15,
      soft: [0, 1],
      low: 'only this colour',
      high: 'everything',
    }),
  },
  outputs: {
    colour: output.colour('Colour', 'With the replacement.'),
    selection: output.scalar('Selection', 'What was found.', {
      quantity: 'mask',
      low: 'other colours',
      high: 'found',
    }),
  },
  tolerance: {
    value: 5e-3,
    reason: 'Roots of nearly black colours, and a narrow passage, magnify rounding.',
  },
  lower: (b, { colour, from, to, fine, coarse }) => {
    const apart = zip3(toOklab(b, colour), toOklab(b, from), (x, y) => b.sub(x, y));
    const distance = b.sqrt(b.dot(apart, apart));
    const width = b.sub(coarse, fine);
    const hard = b.le(width, b.f(0));
    const eased = b.sub(
      b.f(1),
      smooth(b, b.saturate(b.div(b.sub(distance, fine), b.select(hard, b.f(1), width)))),
    );
    const selection = b.select(hard, stepAt(b, fine, distance), eased);
    return { colour: zip3(colour, to, (x, y) => b.mix(x, y, selection)), selection };
  },
});

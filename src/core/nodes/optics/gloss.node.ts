import { defineNode, input, option, output } from '../define';

export const gloss = defineNode({
  id: 'optics.gloss',
  version: 1,
  title: 'Roughness and gloss',
  family: 'optics',
  synonyms: ['glossiness', 'smoothness', 'invert roughness', 'shininess', 'exponent'],
  help:
    'Turns gloss into roughness and back, or the exponent of an older reflection model ' +
    'into roughness. Limited to 0–1 first.',
  formula:
    'roughness = 1 − gloss; gloss = 1 − roughness; from an exponent: roughness = ' +
    '(2/(exponent + 2))^¼',
  inputs: {
    value: input.scalar({ title: 'Value', help: 'What is converted.', default: 0.5 }),
    exponent: input.scalar({
      title: 'Exponent',
      help: 'Of the cosine lobe.',
      default: 50,
      soft: [1, 1000],
      hard: [0, 1000000],
      step: 1,
      low: 'matt',
      high: 'mirror',
    }),
  },
  options: {
    from: option('Given', 'What is given.', {
      gloss: ['Gloss', 'Gives roughness.'],
      roughness: ['Roughness', 'Gives gloss.'],
      exponent: ['Exponent', 'Gives roughness.'],
    }),
  },
  idle: ({ from }) => (from === 'exponent' ? ['value'] : ['exponent']),
  outputs: {
    value: output.scalar('Value', 'Roughness, or gloss where roughness is given.'),
    roughness: output.scalar('Roughness', 'Whatever is given.', {
      low: 'mirror',
      high: 'matt',
      quantity: 'roughness',
    }),
    gloss: output.scalar('Gloss', 'Whatever is given.', {
      low: 'matt',
      high: 'mirror',
      quantity: 'gloss',
    }),
  },
  lower: (b, { value, exponent }, { from }) => {
    // The roughness is the square root of the lobe's width α = √(2/(exponent + 2)). Source: B.
    // Walter et al., EGSR 2007.
    const turned =
      from === 'exponent'
        ? b.sqrt(b.sqrt(b.div(b.f(2), b.add(b.max(exponent, b.f(0)), b.f(2)))))
        : b.sub(b.f(1), b.saturate(value));
    const given = from === 'exponent' ? b.sub(b.f(1), turned) : b.saturate(value);
    return from === 'roughness'
      ? { value: turned, roughness: given, gloss: turned }
      : { value: turned, roughness: turned, gloss: given };
  },
});

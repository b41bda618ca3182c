import { defineNode, input, output } from '../define';

export const number = defineNode({
  id: 'constants.number',
  version: 1,
  title: 'Number',
  family: 'constants',
  synonyms: ['constant', 'value', 'scalar', 'float', 'slider'],
  help: 'One number for several places.',
  formula: 'value',
  inputs: { value: input.scalar({ title: 'Value', help: 'The number.', default: 0.5 }) },
  outputs: { value: output.scalar('Value', 'The number.', { quantity: 'count' }) },
  lower: (_b, { value }) => ({ value }),
});

import { defineNode, input, output } from '../define';

const mask = (title: string, help: string, value: number) =>
  input.scalar({ title, help, default: value });

export const pack = defineNode({
  id: 'colour.pack',
  version: 1,
  title: 'Pack',
  family: 'colour',
  synonyms: ['channels', 'merge masks', 'combine channels', 'mask set', 'r g b a'],
  help:
    'Three or four masks as one colour with alpha, for one image in place of four. Where ' +
    'it is wired into data, nothing is encoded.',
  formula: '(red, green, blue), alpha',
  inputs: {
    red: mask('Red', 'First mask.', 0),
    green: mask('Green', 'Second mask.', 0),
    blue: mask('Blue', 'Third mask.', 0),
    alpha: mask('Alpha', 'Fourth mask.', 1),
  },
  outputs: {
    colour: output.colour('Colour', 'The first three.'),
    alpha: output.scalar('Alpha', 'The fourth.'),
  },
  lower: (_b, { red, green, blue, alpha }) => ({ colour: [red, green, blue], alpha }),
});

import { hueOf } from '../colour-lanes';
import { defineNode, input, output } from '../define';
import { divide, luminance } from '../lanes';

export const splitColour = defineNode({
  id: 'colour.split',
  version: 1,
  title: 'Split colour',
  family: 'colour',
  synonyms: ['channels', 'separate', 'r g b', 'hue', 'saturation', 'value', 'luminance'],
  help:
    'The channels of a colour, and its hue, saturation, value and luminance. A grey has ' +
    'hue 0 and saturation 0.',
  formula:
    'hue in turns of the hexagonal wheel; saturation (max − min)/max; value max; luminance ' +
    '0.2126 r + 0.7152 g + 0.0722 b',
  inputs: {
    colour: input.colour({
      title: 'Colour',
      help: 'What is taken apart.',
      default: [0.5, 0.2, 0.1],
    }),
  },
  outputs: {
    red: output.scalar('Red', 'Linear light.'),
    green: output.scalar('Green', 'Linear light.'),
    blue: output.scalar('Blue', 'Linear light.'),
    hue: output.scalar('Hue', '0 red, ⅓ green, ⅔ blue.', { low: 'red', high: 'red again' }),
    saturation: output.scalar('Saturation', '0 to 1.', { low: 'grey', high: 'pure' }),
    value: output.scalar('Value', 'The largest channel.', { low: 'black', high: 'bright' }),
    luminance: output.scalar('Luminance', 'As bright as it looks.', { low: 'dark', high: 'light' }),
  },
  tolerance: {
    value: 1e-3,
    reason: 'Hue and saturation of nearly grey or black colours are ratios of small numbers.',
  },
  lower: (b, { colour }) => {
    const { sixths, isGrey, chroma, largest } = hueOf(b, colour);
    const turns = b.mul(sixths, b.f(1 / 6));
    return {
      red: colour[0],
      green: colour[1],
      blue: colour[2],
      hue: b.select(isGrey, b.f(0), b.sub(turns, b.floor(turns))),
      saturation: divide(b, chroma, largest),
      value: largest,
      luminance: luminance(b, colour),
    };
  },
});

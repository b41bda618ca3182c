import { largestOf, saturateFrom, turnHue } from '../colour-lanes';
import { defineNode, input, option, output } from '../define';
import { luminance, map3 } from '../lanes';

export const hueSaturationValue = defineNode({
  id: 'colour.hue-saturation-value',
  version: 1,
  title: 'Hue, saturation, value',
  family: 'colour',
  synonyms: ['hsv', 'colour shift', 'desaturate', 'vivid', 'darken', 'brighten', 'hue'],
  help: 'Turns the hue, strengthens or greys the colour, and brightens or darkens it.',
  formula:
    'hue turned on the hexagonal colour wheel; s: grey + (c − grey)·s, grey the largest ' +
    'channel or the luminance; then c·v',
  inputs: {
    colour: input.colour({ title: 'Colour', help: 'What is adjusted.', default: [0.5, 0.2, 0.1] }),
    hue: input.scalar({
      title: 'Hue',
      help: 'Turn of the colour wheel.',
      default: 0,
      soft: [-180, 180],
      step: 1,
      unit: '°',
      low: 'towards red',
      high: 'towards blue',
      neutral: 0,
    }),
    saturation: input.scalar({
      title: 'Saturation',
      help: '1 leaves it as it is.',
      default: 1,
      soft: [0, 2],
      hard: [0, 100],
      low: 'grey',
      high: 'vivid',
      neutral: 1,
    }),
    value: input.scalar({
      title: 'Value',
      help: '1 leaves it as it is.',
      default: 1,
      soft: [0, 2],
      hard: [0, 100],
      low: 'black',
      high: 'bright',
      neutral: 1,
    }),
  },
  options: {
    hold: option('Saturation holds', 'What greying keeps.', {
      value: ['Value', 'The largest channel stays.'],
      luminance: ['Luminance', 'The perceived brightness stays.'],
    }),
  },
  outputs: { colour: output.colour('Colour', 'The adjusted colour.') },
  lower: (b, { colour, hue, saturation, value }, { hold }) => {
    const turned = turnHue(b, colour, hue);
    const grey = hold === 'value' ? largestOf(b, colour) : luminance(b, turned);
    return {
      colour: map3(saturateFrom(b, turned, grey, saturation), (lane) => b.mul(lane, value)),
    };
  },
});

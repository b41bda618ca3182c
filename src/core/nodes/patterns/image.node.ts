import { defineNode, input, output } from '../define';
import {
  filterOption,
  imageLevel,
  placedAt,
  readingOption,
  sampleImage,
  wrapOption,
} from '../image-lanes';

export const image = defineNode({
  id: 'patterns.image',
  version: 1,
  title: 'Image',
  family: 'patterns',
  synonyms: ['texture', 'bitmap', 'picture', 'photo', 'scan', 'file', 'map'],
  help:
    'Reads an image: PNG of 8 or 16 bits, JPEG, OpenEXR or Radiance HDR. Values above 1 ' +
    'are kept. Whether it is read as colour or as data ' +
    'follows from what it is wired into, unless you say. Without an image: grey.',
  formula:
    'bilinear in the size whose texels are as large as what a sample stands for; (u, v) = ' +
    'coordinates·repeat + offset',
  inputs: {
    image: input.image({ title: 'Image', help: 'The file.' }),
    at: input.vector({
      title: 'Coordinates',
      help: 'Where the image is read, 0–1 over it; unwired, the texture coordinates.',
      default: 'texture coordinates',
      soft: [0, 1],
    }),
    repeat: input.scalar({
      title: 'Repeat',
      help: 'How often it stands side by side over coordinates 0–1.',
      default: 1,
      soft: [0.25, 8],
      hard: [-10000, 10000],
      low: 'enlarged',
      high: 'many',
    }),
    offset: input.vector({
      title: 'Offset',
      help: 'Moves it, in images.',
      default: [0, 0, 0],
      soft: [-1, 1],
    }),
  },
  outputs: {
    colour: output.colour('Colour', 'Red, green and blue, linear, not premultiplied.'),
    red: output.scalar('Red', 'One channel.'),
    green: output.scalar('Green', 'One channel.'),
    blue: output.scalar('Blue', 'One channel.'),
    alpha: output.scalar('Alpha', '1 where the image has none.', {
      low: 'clear',
      high: 'opaque',
      quantity: 'opacity',
    }),
  },
  options: { wrap: wrapOption, filter: filterOption, reading: readingOption },
  tolerance: {
    value: 2e-2,
    reason:
      'Between texels of strong contrast a rounded coordinate moves the mix: up to the ' +
      'number of texels across the coordinates times 1e-7 of it.',
  },
  lower: (b, { image: table, at, repeat, offset }, { wrap, filter }, model) => {
    const [u, v] = placedAt(b, at, repeat, offset);
    const [red, green, blue, alpha] = sampleImage(
      b,
      table,
      u,
      v,
      imageLevel(b, table, u, v, model),
      { wrap, filter },
    );
    return { colour: [red, green, blue], red, green, blue, alpha };
  },
});

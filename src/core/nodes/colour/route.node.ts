import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { luminance } from '../lanes';

const SOURCES = {
  red: ['Red', 'The red channel.'],
  green: ['Green', 'The green channel.'],
  blue: ['Blue', 'The blue channel.'],
  alpha: ['Alpha', 'The alpha that is wired in.'],
  zero: ['0', 'Nothing.'],
  one: ['1', 'Full.'],
  luminance: ['Luminance', 'Rec. 709 luminance.'],
  redInverted: ['Red inverted', '1 − red'],
  greenInverted: ['Green inverted', '1 − green'],
  blueInverted: ['Blue inverted', '1 − blue'],
  alphaInverted: ['Alpha inverted', '1 − alpha'],
  luminanceInverted: ['Luminance inverted', '1 − luminance'],
} as const;
type Source = keyof typeof SOURCES;
/** The choices with the one that leaves the channel alone first, so that it is the default. */
function choices(first: Source): Record<Source, readonly [string, string]> {
  return Object.fromEntries(
    [first, ...(Object.keys(SOURCES) as Source[]).filter((name) => name !== first)].map((name) => [
      name,
      SOURCES[name],
    ]),
  ) as Record<Source, readonly [string, string]>;
}

export const route = defineNode({
  id: 'colour.route',
  version: 1,
  title: 'Route channels',
  family: 'colour',
  synonyms: ['shuffle', 'swizzle', 'swap channels', 'channel mixer', 'reorder'],
  help: 'Decides for every channel of a colour, and its alpha, where it comes from.',
  formula: 'each: red, green, blue, alpha, luminance, one of these inverted, 0 or 1',
  inputs: {
    colour: input.colour({
      title: 'Colour',
      help: 'Where the channels come from.',
      default: [0.5, 0.2, 0.1],
    }),
    alpha: input.scalar({
      title: 'Alpha',
      help: 'A fourth channel.',
      default: 1,
      low: 'transparent',
      high: 'opaque',
    }),
  },
  options: {
    red: option('Red from', 'What becomes red.', choices('red')),
    green: option('Green from', 'What becomes green.', choices('green')),
    blue: option('Blue from', 'What becomes blue.', choices('blue')),
    alpha: option('Alpha from', 'What becomes alpha.', choices('alpha')),
  },
  outputs: {
    colour: output.colour('Colour', 'The new colour.'),
    alpha: output.scalar('Alpha', 'The new alpha.'),
  },
  lower: (b, { colour, alpha }, options) => {
    const channels: Record<string, () => F32> = {
      red: () => colour[0],
      green: () => colour[1],
      blue: () => colour[2],
      alpha: () => alpha,
      zero: () => b.f(0),
      one: () => b.f(1),
      luminance: () => luminance(b, colour),
    };
    const from = (source: Source): F32 => {
      const plain = channels[source.replace('Inverted', '')] as () => F32;
      return source.endsWith('Inverted') ? b.sub(b.f(1), plain()) : plain();
    };
    return {
      colour: [from(options.red), from(options.green), from(options.blue)],
      alpha: from(options.alpha),
    };
  },
});

import { cos, sin } from '../../ir/library/transcendental';
import type { F32, Lanes3 } from '../../ir/types';
import { fromOklab, toOklab } from '../colour-lanes';
import { defineNode, input, option, output } from '../define';
import { map3 } from '../lanes';

const MOST = 6;
/**
 * Turns of hue in degrees of each colour, and a factor of lightness; the spread scales the first
 * kind.
 */
const HARMONIES = {
  similar: {
    title: 'Similar',
    help: 'Neighbours on the wheel, spread to both sides.',
    turns: [0, 1, -1, 2, -2, 3],
    unit: 30,
  },
  opposite: {
    title: 'Opposite',
    help: 'The colour and its opposite, in pairs.',
    turns: [0, 6, 1, 7, -1, 5],
    unit: 30,
  },
  split: {
    title: 'Split opposite',
    help: 'The two neighbours of the opposite.',
    turns: [0, 5, 7, 1, -1, 6],
    unit: 30,
  },
  three: {
    title: 'Three ways',
    help: 'Thirds of the wheel.',
    turns: [0, 4, 8, 2, 6, 10],
    unit: 30,
  },
  four: {
    title: 'Four ways',
    help: 'Quarters of the wheel.',
    turns: [0, 3, 6, 9, 1.5, 4.5],
    unit: 30,
  },
  tones: {
    title: 'Tones',
    help: 'One hue, darker and lighter.',
    turns: [0, 0, 0, 0, 0, 0],
    unit: 0,
  },
} as const;
type Harmony = keyof typeof HARMONIES;
const TONES = [0, -1, 1, -2, 2, -3] as const;

export const palette = defineNode({
  id: 'gradients.palette',
  version: 1,
  title: 'Palette',
  family: 'gradients',
  synonyms: [
    'harmony',
    'colour scheme',
    'complementary',
    'triad',
    'analogous',
    'swatches',
    'variations',
  ],
  help:
    'Colours that go with a base colour, up to six. Hues turn in a space even to the eye, ' +
    'at the same lightness; what the screen cannot show is cut at 0. ' +
    'Number picks one: whole numbers from 0, counted round and round, so that any number ' +
    'gives a colour of the palette.',
  formula:
    'Oklab(base) turned by the harmony’s angles × spread, or its lightness × (1 + ' +
    '0.2·step·spread); picked by ⌊number⌋ mod count',
  inputs: {
    base: input.colour({
      title: 'Base colour',
      help: 'The first of the palette.',
      default: [0.45, 0.12, 0.06],
    }),
    number: input.scalar({
      title: 'Number',
      help: 'Which one is picked; wire a part, a block or a random number times the count.',
      default: 0,
      soft: [0, 5],
      step: 1,
    }),
    count: input.scalar({
      title: 'Count',
      help: 'How many take part; whole numbers.',
      default: 4,
      soft: [1, MOST],
      hard: [1, MOST],
      counts: 'whole',
    }),
    spread: input.scalar({
      title: 'Spread',
      help: '1 is the harmony as named.',
      default: 1,
      soft: [0, 2],
      hard: [-10, 10],
      low: 'all alike',
      high: 'far apart',
    }),
  },
  options: {
    harmony: option(
      'Harmony',
      'How the colours lie on the wheel.',
      Object.fromEntries(
        Object.entries(HARMONIES).map(([name, { title, help }]) => [name, [title, help]]),
      ) as unknown as Record<Harmony, readonly [string, string]>,
    ),
  },
  outputs: {
    colour: output.colour('Colour', 'The one picked.'),
    first: output.colour('First', 'The base colour.'),
    second: output.colour('Second', 'The second.'),
    third: output.colour('Third', 'The third.'),
    fourth: output.colour('Fourth', 'The fourth.'),
    fifth: output.colour('Fifth', 'The fifth.'),
    sixth: output.colour('Sixth', 'The sixth.'),
  },
  tolerance: { value: 2e-3, reason: 'Cubes of turned coordinates magnify rounding.' },
  lower: (b, { base, number, count, spread }, { harmony }) => {
    const [lightness, red, blue] = toOklab(b, base);
    const { turns, unit } = HARMONIES[harmony];
    const turned = (k: number): Lanes3 => {
      if (k === 0) return base;
      if (harmony === 'tones') {
        const factor = b.max(b.f(0), b.add(b.f(1), b.mul(spread, b.f((TONES[k] ?? 0) * 0.2))));
        return map3(
          fromOklab(b, [b.mul(lightness, factor), b.mul(red, factor), b.mul(blue, factor)]),
          (lane) => b.max(lane, b.f(0)),
        );
      }
      const angle = b.mul(spread, b.f(((turns[k] ?? 0) * unit * Math.PI) / 180));
      const [s, c] = [sin(b, angle), cos(b, angle)];
      const lab: Lanes3 = [
        lightness,
        b.sub(b.mul(red, c), b.mul(blue, s)),
        b.add(b.mul(red, s), b.mul(blue, c)),
      ];
      return map3(fromOklab(b, lab), (lane) => b.max(lane, b.f(0)));
    };
    const colours = Array.from({ length: MOST }, (_, k) => turned(k));
    const many = b.clamp(b.floor(count), b.f(1), b.f(MOST));
    const whole = b.floor(number);
    const at = b.sub(whole, b.mul(many, b.floor(b.div(whole, many))));
    const pick = (axis: 0 | 1 | 2): F32 =>
      colours
        .slice(1)
        .reduce<F32>(
          (chosen, colour, k) => b.select(b.le(b.f(k + 1), at), colour[axis], chosen),
          base[axis],
        );
    const [first, second, third, fourth, fifth, sixth] = colours as unknown as readonly [
      Lanes3,
      Lanes3,
      Lanes3,
      Lanes3,
      Lanes3,
      Lanes3,
    ];
    return { colour: [pick(0), pick(1), pick(2)], first, second, third, fourth, fifth, sixth };
  },
});

import type { Builder } from '../../ir/builder';
import type { F32, Lanes3 } from '../../ir/types';
import type { Advice, AdviceReads, LaneRange } from '../advice';
import { largestOf, smallestOf, withLuminance, withSaturation } from '../colour-lanes';
import { defineNode, input, option, output } from '../define';
import { luminance, map3 } from '../lanes';

type ByLane = (b: Builder, under: F32, over: F32) => F32;
type ByColour = (b: Builder, under: Lanes3, over: Lanes3) => Lanes3;
interface Mode {
  readonly title: string;
  readonly help: string;
  readonly lane?: ByLane;
  readonly colour?: ByColour;
}

const double = (b: Builder, x: F32): F32 => b.mul(b.f(2), x);
const screen: ByLane = (b, under, over) => b.sub(b.add(under, over), b.mul(under, over));
const hardLight: ByLane = (b, under, over) =>
  b.select(
    b.le(over, b.f(0.5)),
    b.mul(under, double(b, over)),
    screen(b, under, b.sub(double(b, over), b.f(1))),
  );
const span = (b: Builder, colour: Lanes3): F32 =>
  b.sub(largestOf(b, colour), smallestOf(b, colour));
/** The brightest a whole-colour mode may give: 1, or the brightest channel that arrives. */
const most = (b: Builder, under: Lanes3, over: Lanes3): F32 =>
  b.max(b.f(1), b.max(largestOf(b, under), largestOf(b, over)));

const softLight: ByLane = (b, under, over) => {
  const bend = b.sub(double(b, over), b.f(1));
  const curve = b.mul(b.add(b.mul(b.sub(b.mul(b.f(16), under), b.f(12)), under), b.f(4)), under);
  const lifted = b.select(b.le(under, b.f(0.25)), curve, b.sqrt(b.max(under, b.f(0))));
  return b.add(
    under,
    b.mul(
      bend,
      b.select(b.le(over, b.f(0.5)), b.mul(under, b.sub(b.f(1), under)), b.sub(lifted, under)),
    ),
  );
};
const dodge: ByLane = (b, under, over) => {
  const full = b.le(b.f(1), over);
  const cap = b.max(b.f(1), under);
  const light = b.select(
    full,
    cap,
    b.min(cap, b.div(under, b.sub(b.f(1), b.select(full, b.f(0), over)))),
  );
  return b.select(b.le(under, b.f(0)), b.f(0), light);
};
const burn: ByLane = (b, under, over) => {
  const none = b.le(over, b.f(0));
  const dark = b.select(
    none,
    b.f(0),
    b.sub(b.f(1), b.min(b.f(1), b.div(b.sub(b.f(1), under), b.select(none, b.f(1), over)))),
  );
  return b.select(b.le(b.f(1), under), under, dark);
};

/**
 * Source where it has the mode: W3C, Compositing and Blending Level 1, 2024; here in linear light.
 * Values above 1 follow the same formulas.
 */
const MODES = {
  normal: { title: 'Normal', help: 'over', lane: (_b, _under, over) => over },
  multiply: {
    title: 'Multiply',
    help: 'under × over: darker',
    lane: (b, under, over) => b.mul(under, over),
  },
  screen: { title: 'Screen', help: 'under + over − under × over: lighter', lane: screen },
  overlay: {
    title: 'Overlay',
    help: 'multiply in the darks of under, screen in its lights',
    lane: (b, under, over) => hardLight(b, over, under),
  },
  softLight: { title: 'Soft light', help: 'a gentle overlay that follows over', lane: softLight },
  hardLight: {
    title: 'Hard light',
    help: 'multiply in the darks of over, screen in its lights',
    lane: hardLight,
  },
  add: {
    title: 'Add',
    help: 'under + over, may pass 1',
    lane: (b, under, over) => b.add(under, over),
  },
  subtract: {
    title: 'Subtract',
    help: 'under − over, not below 0',
    lane: (b, under, over) => b.max(b.f(0), b.sub(under, over)),
  },
  difference: {
    title: 'Difference',
    help: '|under − over|',
    lane: (b, under, over) => b.abs(b.sub(under, over)),
  },
  darken: {
    title: 'Darken',
    help: 'the smaller, channel by channel',
    lane: (b, under, over) => b.min(under, over),
  },
  lighten: {
    title: 'Lighten',
    help: 'the larger, channel by channel',
    lane: (b, under, over) => b.max(under, over),
  },
  dodge: { title: 'Dodge', help: 'under / (1 − over), at most 1 or under itself', lane: dodge },
  burn: {
    title: 'Burn',
    help: '1 − (1 − under)/over, at least 0; under at 1 and above stays',
    lane: burn,
  },
  linearLight: {
    title: 'Linear light',
    help: 'under + 2·over − 1',
    lane: (b, under, over) => b.sub(b.add(under, double(b, over)), b.f(1)),
  },
  hue: {
    title: 'Hue',
    help: 'hue of over, saturation and luminance of under',
    colour: (b, under, over) =>
      withLuminance(
        b,
        withSaturation(b, over, span(b, under)),
        luminance(b, under),
        most(b, under, over),
      ),
  },
  saturation: {
    title: 'Saturation',
    help: 'saturation of over, hue and luminance of under',
    colour: (b, under, over) =>
      withLuminance(
        b,
        withSaturation(b, under, span(b, over)),
        luminance(b, under),
        most(b, under, over),
      ),
  },
  colour: {
    title: 'Colour',
    help: 'hue and saturation of over, luminance of under',
    colour: (b, under, over) => withLuminance(b, over, luminance(b, under), most(b, under, over)),
  },
  value: {
    title: 'Value',
    help: 'luminance of over, hue and saturation of under',
    colour: (b, under, over) => withLuminance(b, under, luminance(b, over), most(b, under, over)),
  },
} as const satisfies Record<string, Mode>;
type ModeName = keyof typeof MODES;
const NAMES = Object.keys(MODES) as ModeName[];
const entryOf = (name: ModeName): Mode => MODES[name];

function blended(b: Builder, name: ModeName, under: Lanes3, over: Lanes3): Lanes3 {
  const { lane, colour } = entryOf(name);
  return colour
    ? colour(b, under, over)
    : map3(under, (x, k) => (lane as ByLane)(b, x, over[k as 0]));
}

/** Modes that take a hue or a saturation of the upper colour. */
const HUE_TAKEN: ReadonlySet<string> = new Set<ModeName>(['hue', 'saturation', 'colour']);

/** A colour that is grey or black at every point has no hue that could be taken. */
function noHue(reads: AdviceReads): readonly Advice[] {
  const side = reads.choice('order') === 'given' ? 'over' : 'under';
  const range = reads.arriving(side);
  const [first, ...others] = range?.lanes ?? [];
  if (!HUE_TAKEN.has(reads.choice('mode')) || !range || !first) return [];
  const isAlike = (lane: LaneRange): boolean =>
    (['minimum', 'mean', 'maximum'] as const).every((of) => Math.abs(lane[of] - first[of]) < 1e-6);
  if (!others.every(isAlike)) return [];
  const title = side === 'over' ? 'Over' : 'Under';
  const name = first.maximum <= 0 ? 'black' : 'grey';
  return [
    {
      code: 'hue.none',
      mark: name,
      message: `${title} is ${name} and has no hue to give: in this mode the result is grey.`,
      cure: { title: 'Take the mode Multiply', option: 'mode', choice: 'multiply' },
    },
  ];
}

export const blend = defineNode({
  id: 'colour.blend',
  version: 1,
  title: 'Blend',
  family: 'colour',
  synonyms: [
    'mix colour',
    'overlay',
    'multiply',
    'screen',
    'composite',
    'tint',
    'linear light',
    'dodge',
    'burn',
    'soft light',
    'difference',
  ],
  help:
    'Lays one colour over another where a mask says so. The whole-colour modes (hue, ' +
    'saturation, colour, value) draw what leaves 0–1 towards grey; ' +
    'where a channel above 1 arrives, up to that channel. They keep the luminance of ' +
    'linear Rec. 709, 0.2126 R + 0.7152 G + 0.0722 B, in which colours are ' +
    'blended here; programs that blend encoded colours weigh 0.3, 0.59, 0.11 and give other tones.',
  formula:
    'under + (mode(under, over) − under)·limit(where·amount); luminance = 0.2126 R + ' +
    '0.7152 G + 0.0722 B',
  inputs: {
    under: input.colour({ title: 'Under', help: 'The colour below.', default: [0.18, 0.18, 0.18] }),
    over: input.colour({ title: 'Over', help: 'The colour above.', default: [0.6, 0.6, 0.6] }),
    where: input.scalar({
      title: 'Where',
      help: 'Mask of the upper colour.',
      quantity: 'mask',
      default: 1,
      low: 'only under',
      high: 'fully over',
    }),
    amount: input.scalar({
      title: 'Amount',
      help: 'Overall strength.',
      default: 1,
      low: 'nothing',
      high: 'full',
      neutral: 0,
    }),
  },
  options: {
    mode: option(
      'Mode',
      'How the two colours meet.',
      Object.fromEntries(
        NAMES.map((name) => [name, [entryOf(name).title, entryOf(name).help]]),
      ) as unknown as Record<ModeName, readonly [string, string]>,
    ),
    order: option('Order', 'Which colour the mode takes for the lower one.', {
      given: ['As wired', 'Over acts on under.'],
      swapped: [
        'Swapped',
        'Under acts on over; where and amount still say how much of the result is seen.',
      ],
    }),
  },
  presets: { option: 'mode', synonyms: {} },
  sides: () => ['under', 'over'],
  outputs: { colour: output.colour('Colour', 'The two together.') },
  tolerance: {
    value: 1e-3,
    reason: 'Dodge, burn and the whole-colour modes divide by small differences.',
  },
  watches: ({ mode, order }) => (HUE_TAKEN.has(mode) ? [order === 'given' ? 'over' : 'under'] : []),
  advise: noHue,
  lower: (b, { under, over, where, amount }, { mode, order }) => {
    const share = b.saturate(b.mul(where, amount));
    const met = order === 'given' ? blended(b, mode, under, over) : blended(b, mode, over, under);
    return { colour: map3(under, (lane, k) => b.mix(lane, met[k as 0], share)) };
  },
});

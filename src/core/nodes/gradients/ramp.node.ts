import type { Advice, AdviceReads } from '../advice';
import { defineNode, input, option, output } from '../define';
import { luminance } from '../lanes';
import { domainPlace } from '../domain';
import { sampleWidth } from '../edges';
import { readRamp } from '../ramp-lanes';

export const ramp = defineNode({
  id: 'gradients.ramp',
  version: 1,
  title: 'Ramp',
  family: 'gradients',
  fits: [
    {
      kind: 'stops',
      of: 'value',
      stops: 'stops',
      from: 'from',
      to: 'to',
      when: ['layout', 'placed'],
    },
  ],
  synonyms: [
    'colour ramp',
    'gradient map',
    'stops',
    'bands',
    'tone curve',
    'recolour',
    'equal bands',
    'proportions',
    'strata',
  ],
  help:
    'Turns a value into a colour by stops. Each stop says how the way to the next is ' +
    'shaped: hold, linear, smooth, or a spline that ' +
    'never swings beyond its stops. Of stops at one place the right one wins from there ' +
    'on. A stop’s place, colour or alpha can be opened as ' +
    'an input, to be wired or driven; a driven stop never passes the one before it. ' +
    'Colours are blended premultiplied by alpha.',
  formula:
    'c = c₀; for each stop i: c ← c + (cᵢ − c)·k((t − ' +
    'pᵢ₋₁)/(pᵢ − pᵢ₋₁)); t = (value − ' +
    'from)/(to − from)',
  inputs: {
    value: input.scalar({
      title: 'Value',
      help: 'What is looked up.',
      default: 0.5,
      low: 'first stop',
      high: 'last stop',
    }),
    stops: input.ramp({
      title: 'Stops',
      help: 'Positions and colours, at least two and at most 32.',
      default: [
        { position: 0, colour: [0.02, 0.02, 0.02] },
        { position: 1, colour: [0.9, 0.9, 0.9] },
      ],
    }),
    from: input.scalar({
      title: 'From',
      help: 'The value at which the ramp begins, in the units of what is wired in.',
      default: 0,
      soft: [-1, 1],
      section: 'Domain',
    }),
    to: input.scalar({
      title: 'To',
      help:
        'The value at which the ramp ends. Equal ends make a step; reversed ends turn the ' +
        'ramp.',
      default: 1,
      soft: [-1, 2],
      section: 'Domain',
    }),
  },
  outputs: {
    colour: output.colour('Colour', 'The colour, not premultiplied.'),
    alpha: output.scalar('Alpha', 'The stops’ alpha.', { quantity: 'opacity' }),
    scalar: output.scalar('Scalar', 'Luminance of the colour.'),
  },
  options: {
    layout: option('Layout', 'What a stop’s position means.', {
      placed: ['As placed', 'Where on the ramp the stop stands.'],
      bands: ['Equal bands', 'Nothing: every stop holds for an equal part.'],
      proportions: [
        'Proportions',
        'Its share of the ramp, for which it holds; shares are taken of their sum.',
      ],
    }),
    outside: option('Outside', 'What lies beyond the ends.', {
      hold: ['Holds', 'The end colours go on.'],
      repeat: ['Repeats', 'The ramp begins again.'],
      mirror: ['Mirrors', 'The ramp runs back and forth.'],
    }),
    blend: option('Blending', 'What colours are mixed in.', {
      light: ['Light', 'As light adds up.'],
      perceptual: ['Perceptual', 'In Oklab: even steps to the eye, no grey in the middle.'],
    }),
  },
  tolerance: {
    value: 1e-3,
    reason:
      'Driven stops that come close together make steep pieces, and Oklab raises rounding ' +
      'to the third power.',
  },
  watches: ['value'],
  advise: (reads) => unreachedStops(reads),
  lower: (b, { value, stops, from, to }, { layout, outside, blend }, model) => {
    const t = domainPlace(b, value, from, to, outside);
    const { colour, alpha } = readRamp(b, stops, t, { layout, blend }, sampleWidth(b, t, model));
    return { colour, alpha, scalar: luminance(b, colour) };
  },
});

function unreachedStops(reads: AdviceReads): readonly Advice[] {
  const value = reads.arriving('value');
  const stops = reads.stops('stops');
  const [from, to] = [reads.number('from') ?? 0, reads.number('to') ?? 1];
  if (
    !value ||
    value.notANumber === 1 ||
    reads.choice('outside') !== 'hold' ||
    reads.isWired('from') ||
    reads.isWired('to') ||
    from === to
  )
    return [];
  const ends = [value.minimum, value.maximum].map((x) => (x - from) / (to - from));
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  // A stop that blends is reached where a value lies between its neighbours; one that holds, only
  // between itself and the next.
  const isUnreached = (k: number): boolean => {
    const before = stops[k - 1];
    const begins = !before ? -Infinity : before.holds ? (stops[k]?.place ?? 0) : before.place;
    return high < begins || low > (stops[k + 1]?.place ?? Infinity);
  };
  const unreached = stops.map((_, k) => k).filter(isUnreached);
  if (unreached.length === 0) return [];
  const which = unreached.map((k) => String(k + 1)).join(', ');
  return [
    {
      code: 'ramp.unreached',
      mark: 'stops',
      message:
        `No arriving value reaches stop ${which} of ${String(stops.length)}: the values ` +
        `run from ${value.minimum.toFixed(2)} to ${value.maximum.toFixed(2)}. Stretch them ` +
        'to the range, or move the stops.',
    },
  ];
}

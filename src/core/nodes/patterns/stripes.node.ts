import { sin } from '../../ir/library/transcendental';
import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { softStep } from '../edges';
import { PATTERN_INPUTS, fraction, normalise, patternCoordinates, perOption } from '../lanes';

export const stripes = defineNode({
  id: 'patterns.stripes',
  version: 2,
  former: {
    1: { what: '“Duty” is called by its title, white share.', inputs: { duty: 'whiteShare' } },
  },
  title: 'Stripes',
  family: 'patterns',
  synonyms: ['lines', 'bars', 'bands', 'rings', 'wave', 'grating', 'rope'],
  help:
    'Parallel stripes across a direction. Phase moves them by whole stripes; the square ' +
    'form has a share that is white.',
  formula:
    't = at·direction·scale + phase; sine ½ + ½·sin 2πt; saw fraction(t); triangle 1 − ' +
    '|2·fraction(t) − 1|; square fraction(t) < white share',
  inputs: {
    at: PATTERN_INPUTS.at,
    scale: PATTERN_INPUTS.scale,
    direction: input.vector({
      title: 'Direction',
      help: 'Across which way they repeat; its length does not matter.',
      default: [0, 1, 0],
      soft: [-1, 1],
      picks: 'direction',
    }),
    phase: input.scalar({
      title: 'Phase',
      help: 'Moves the stripes; 1 is one stripe.',
      default: 0,
      soft: [-1, 1],
    }),
    whiteShare: input.scalar({
      title: 'White share',
      help: 'How much of each stripe is white, for the square form.',
      default: 0.5,
      low: 'thin lines',
      high: 'thin gaps',
    }),
    softness: input.scalar({
      title: 'Softness',
      help: 'Width of the border of the square form, in stripes.',
      default: 0,
      soft: [0, 0.5],
      hard: [0, 1],
      low: 'hard',
      high: 'soft',
    }),
  },
  options: {
    shape: option('Form', 'The profile across a stripe.', {
      sine: ['Sine', 'Smooth waves.'],
      saw: ['Saw', 'Rising, then a jump.'],
      triangle: ['Triangle', 'There and back.'],
      square: ['Square', 'Black and white.'],
    }),
    per: perOption,
  },
  idle: ({ shape }) => (shape === 'square' ? [] : ['whiteShare', 'softness']),
  outputs: {
    value: output.scalar('Value', '0 to 1.'),
    number: output.scalar(
      'Number',
      'Which stripe this is, counted from the middle: whole numbers.',
      { quantity: 'count' },
    ),
  },
  tolerance: { value: 1e-3, reason: 'The phase of fine stripes is a difference of large numbers.' },
  lower: (b, { at, scale, direction, phase, whiteShare, softness }, { shape, per }, model) => {
    const n = normalise(b, direction, [b.f(0), b.f(1), b.f(0)]);
    const t = b.add(b.dot(patternCoordinates(b, at, scale, per, model), n), phase);
    const f = fraction(b, t);
    const triangle = (): F32 => b.sub(b.f(1), b.abs(b.sub(b.mul(f, b.f(2)), b.f(1))));
    // Distance from the middle of the white part, both borders softened alike.
    const square = (): F32 => {
      const share = b.saturate(whiteShare);
      const off = b.abs(
        b.sub(fraction(b, b.add(b.sub(f, b.mul(share, b.f(0.5))), b.f(0.5))), b.f(0.5)),
      );
      return softStep(b, b.sub(b.mul(share, b.f(0.5)), off), b.f(0), softness, model);
    };
    const value =
      shape === 'saw'
        ? f
        : shape === 'triangle'
          ? triangle()
          : shape === 'square'
            ? square()
            : b.add(b.mul(sin(b, b.mul(f, b.f(2 * Math.PI))), b.f(0.5)), b.f(0.5));
    return { value, number: b.floor(t) };
  },
});

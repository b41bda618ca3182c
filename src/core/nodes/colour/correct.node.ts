import { pow } from '../../ir/library/transcendental';
import { hueOf, largestOf, saturateFrom, turnHue } from '../colour-lanes';
import { defineNode, input, option, output } from '../define';
import { softBand } from '../edges';
import { luminance, map3, smooth, zip3 } from '../lanes';

const factor = (title: string, help: string, low: string, high: string) =>
  input.scalar({ title, help, default: 1, soft: [0, 2], hard: [0, 100], low, high, neutral: 1 });

export const correct = defineNode({
  id: 'colour.correct',
  version: 1,
  title: 'Correct',
  family: 'colour',
  fits: [
    {
      kind: 'band',
      of: 'colour',
      centre: 'centre',
      width: 'width',
      softness: 'softness',
      wheel: 360,
    },
  ],
  synonyms: [
    'grade',
    'adjust',
    'brightness',
    'contrast',
    'gamma',
    'gain',
    'tone',
    'tint',
    'shadows',
    'highlights',
    'selective colour',
  ],
  help:
    'Corrects a colour in this order: gain, brightness, contrast, gamma, hue, saturation, ' +
    'tint, tones. It acts only on the band of hues chosen, ' +
    'which is the whole wheel at width 360; greys have no hue and are left out of a ' +
    'narrower band. At home it changes nothing.',
  formula:
    'c·gain + brightness; ½ + (c − ½)·contrast; max(c, 0)^(1/gamma); hue and saturation; c ' +
    '+ (Y·tint − c)·strength; c·(darks·w₁ + middles·w₂ + lights·w₃); ' +
    'then mixed in by amount·selection',
  inputs: {
    colour: input.colour({
      title: 'Colour',
      help: 'What is corrected.',
      default: [0.5, 0.35, 0.2],
    }),
    gain: input.colour({ title: 'Gain', help: 'Factor for each channel.', default: [1, 1, 1] }),
    brightness: input.scalar({
      title: 'Brightness',
      help: 'Added to every channel.',
      default: 0,
      soft: [-0.5, 0.5],
      low: 'darker',
      high: 'lighter',
      neutral: 0,
    }),
    contrast: factor('Contrast', 'About one half; 1 leaves it.', 'flat', 'hard'),
    gamma: input.scalar({
      title: 'Gamma',
      help: 'Lifts or lowers the middle; 1 leaves it.',
      default: 1,
      soft: [0.2, 4],
      hard: [0.01, 100],
      low: 'darker middle',
      high: 'lighter middle',
      neutral: 1,
    }),
    hue: input.scalar({
      title: 'Hue',
      help: 'Turn of the colour wheel.',
      default: 0,
      soft: [-180, 180],
      step: 1,
      unit: '°',
      neutral: 0,
    }),
    saturation: factor('Saturation', '1 leaves it.', 'grey', 'vivid'),
    tint: input.colour({
      title: 'Tint',
      help: 'The colour everything is drawn to, brightness kept.',
      default: [1, 0.8, 0.6],
    }),
    strength: input.scalar({
      title: 'Tint strength',
      help: 'How far; at 0 the tint does nothing.',
      default: 0,
      low: 'no tint',
      high: 'one colour',
      neutral: 0,
    }),
    darks: factor('Darks', 'Factor in the dark tones.', 'black', 'lifted'),
    middles: factor('Middles', 'Factor in the middle tones.', 'darker', 'lighter'),
    lights: factor('Lights', 'Factor in the light tones.', 'dimmed', 'bright'),
    middle: input.scalar({
      title: 'Mid point',
      help: 'The luminance where the middle tones are purest.',
      default: 0.4,
      hard: [0.01, 0.99],
      low: 'darks are few',
      high: 'lights are few',
    }),
    centre: input.scalar({
      title: 'Hue band centre',
      help: 'The hue it acts on: 0 red, 120 green, 240 blue.',
      default: 0,
      soft: [0, 360],
      step: 1,
      unit: '°',
    }),
    width: input.scalar({
      title: 'Hue band width',
      help: '360 is the whole wheel, greys too.',
      default: 360,
      soft: [0, 360],
      hard: [0, 360],
      step: 1,
      unit: '°',
      low: 'one hue',
      high: 'all',
    }),
    softness: input.scalar({
      title: 'Hue band softness',
      help: 'Width of its border on each side.',
      default: 30,
      soft: [0, 180],
      hard: [0, 360],
      step: 1,
      unit: '°',
      low: 'hard',
      high: 'soft',
    }),
    amount: input.scalar({
      title: 'Amount',
      help: 'Of the whole correction.',
      quantity: 'mask',
      default: 1,
      low: 'untouched',
      high: 'full',
      neutral: 0,
    }),
  },
  options: {
    power: option('Gamma acts', 'Which way round the power is.', {
      plain: ['Plain', 'c^(1/gamma)'],
      inverse: ['Inverse', 'c^gamma: undoes the plain one'],
    }),
    hold: option('Saturation holds', 'What greying keeps.', {
      luminance: ['Luminance', 'The perceived brightness stays.'],
      value: ['Value', 'The largest channel stays.'],
    }),
    bypass: option('Correction', 'A quick look at the colour as it came.', {
      on: ['On', 'It acts.'],
      off: ['Bypassed', 'The colour passes untouched.'],
    }),
  },
  outputs: {
    colour: output.colour(
      'Colour',
      'The corrected colour; not limited unless the switch on the node says so.',
    ),
    selection: output.scalar('Selection', 'Where the hue band lies.', {
      quantity: 'mask',
      low: 'other hues',
      high: 'chosen',
    }),
  },
  tolerance: {
    value: 2e-3,
    reason: 'Hues and powers magnify the rounding of nearly grey colours.',
  },
  watches: ['strength'],
  advise: (reads) => {
    const strength = reads.arriving('strength');
    const isOff = strength
      ? strength.constant && strength.minimum === 0
      : reads.number('strength') === 0 && !reads.isWired('strength');
    if (!isOff || !(reads.isWired('tint') || reads.isTyped('tint'))) return [];
    return [
      {
        code: 'tint.idle',
        mark: 'tint',
        message: 'The tint does nothing: its strength is 0.',
        ...(reads.isWired('strength')
          ? {}
          : { cure: { title: 'Set its strength to 0.5', input: 'strength', value: 0.5 } }),
      },
    ];
  },
  lower: (b, given, { power, hold, bypass }, model) => {
    const one = b.f(1);
    const { colour, gamma } = given;
    const { sixths, isGrey } = hueOf(b, colour);
    const away = b.sub(b.mul(sixths, b.f(60)), given.centre);
    const wrapped = b.abs(b.sub(away, b.mul(b.f(360), b.nearest(b.mul(away, b.f(1 / 360))))));
    const band = b.select(isGrey, b.f(0), softBand(b, wrapped, given.width, given.softness, model));
    const selection = b.select(b.le(b.f(360), given.width), one, band);
    if (bypass === 'off') return { colour, selection };
    const gained = map3(
      zip3(colour, given.gain, (x, g) => b.mul(x, g)),
      (lane) =>
        b.add(b.f(0.5), b.mul(b.sub(b.add(lane, given.brightness), b.f(0.5)), given.contrast)),
    );
    const exponent =
      power === 'plain' ? b.div(one, b.max(gamma, b.f(0.01))) : b.max(gamma, b.f(0.01));
    const bent = map3(gained, (lane) =>
      b.select(b.eq(gamma, one), lane, pow(b, b.max(lane, b.f(0)), exponent)),
    );
    const turned = turnHue(b, bent, given.hue);
    const grey = hold === 'value' ? largestOf(b, turned) : luminance(b, turned);
    const vivid = saturateFrom(b, turned, grey, given.saturation);
    const brightness = luminance(b, vivid);
    const tinted = zip3(vivid, given.tint, (x, t) =>
      b.add(x, b.mul(b.sub(b.mul(brightness, t), x), given.strength)),
    );
    const tone = b.saturate(luminance(b, tinted));
    const middle = b.clamp(given.middle, b.f(0.01), b.f(0.99));
    const dark = b.sub(one, smooth(b, b.saturate(b.div(tone, middle))));
    const light = smooth(b, b.saturate(b.div(b.sub(tone, middle), b.sub(one, middle))));
    const weight = b.add(
      b.add(b.mul(dark, b.sub(given.darks, one)), b.mul(light, b.sub(given.lights, one))),
      b.add(one, b.mul(b.sub(b.sub(one, dark), light), b.sub(given.middles, one))),
    );
    const share = b.mul(selection, given.amount);
    return {
      colour: zip3(
        colour,
        map3(tinted, (lane) => b.mul(lane, weight)),
        (x, y) => b.mix(x, y, share),
      ),
      selection,
    };
  },
});

import { latticeWord, seedWord } from '../../ir/library/hash';
import { cos, sin } from '../../ir/library/transcendental';
import type { F32, I32 } from '../../ir/types';
import { defineNode, input, output } from '../define';
import {
  PATTERN_INPUTS,
  chance,
  inPlane,
  patternCoordinates,
  perOption,
  planeOption,
  reseed,
  smooth,
} from '../lanes';

const MOST_LAYERS = 12;

export const scratches = defineNode({
  id: 'patterns.scratches',
  version: 1,
  title: 'Scratches',
  family: 'patterns',
  synonyms: ['scuffs', 'hairlines', 'brushed', 'wear lines', 'claw'],
  help:
    'Fine straight marks in layers; each layer has a direction of its own within the ' +
    'spread. Marks thin out towards their ends.',
  formula:
    'per layer: turned by angle + spread·(2r − 1), cells length × 1; mask 1 − |y − ' +
    'centre|/(width/2), times 4s(1 − s) along it; the strongest layer wins',
  inputs: {
    at: PATTERN_INPUTS.at,
    scale: {
      ...PATTERN_INPUTS.scale,
      default: 12,
      help: 'How many marks stand beside each other across the object.',
    },
    seed: PATTERN_INPUTS.seed,
    length: input.scalar({
      title: 'Length',
      help: 'Length of a mark, in its spacing.',
      default: 5,
      soft: [1, 20],
      hard: [0.1, 1000],
      low: 'nicks',
      high: 'long drags',
    }),
    width: input.scalar({
      title: 'Width',
      help: 'Width of a mark, in its spacing.',
      default: 0.06,
      soft: [0, 0.5],
      hard: [0, 1],
      low: 'hairline',
      high: 'gouge',
    }),
    density: input.scalar({
      title: 'Density',
      help: 'Share of places that have a mark.',
      default: 0.5,
      low: 'few',
      high: 'everywhere',
    }),
    angle: input.scalar({
      title: 'Angle',
      help: 'Main direction.',
      default: 20,
      soft: [-180, 180],
      step: 1,
      unit: '°',
    }),
    spread: input.scalar({
      title: 'Spread',
      help: 'How far the layers turn from it.',
      default: 60,
      soft: [0, 180],
      step: 1,
      unit: '°',
      low: 'brushed',
      high: 'all ways',
    }),
    layers: input.scalar({
      title: 'Layers',
      help: 'How many lie over each other; whole numbers.',
      default: 4,
      soft: [1, 12],
      hard: [1, MOST_LAYERS],
      counts: 'whole',
      low: 'few',
      high: 'many',
    }),
  },
  options: { plane: planeOption, per: perOption },
  outputs: {
    mask: output.scalar('Mask', '0 to 1.', {
      quantity: 'mask',
      low: 'unmarked',
      high: 'in a mark',
    }),
    random: output.scalar('Random', 'A number per mark, 0 to 1; 0 where there is none.'),
  },
  tolerance: {
    value: 2e-3,
    reason: 'A mark is thin: its profile magnifies the rounding of coordinates.',
  },
  lower: (
    b,
    { at, scale, seed, length, width, density, angle, spread, layers },
    { plane, per },
    model,
  ) => {
    const [x, y] = inPlane(patternCoordinates(b, at, scale, per, model), plane);
    const word = seedWord(b, b.toInt(seed));
    const count = b.clamp(b.floor(layers), b.f(1), b.f(MOST_LAYERS));
    const [long, thin] = [b.max(length, b.f(0.1)), b.max(width, b.f(1e-4))];
    const rounds: I32 = layers.laneUniform ? b.toInt(count) : b.i(MOST_LAYERS);
    const [mask, random] = b.loop(rounds, [b.f(0), b.f(0)], (index, carried) => {
      const [strongest, owner] = carried as [F32, F32];
      const layerBits = latticeWord(b, [index, b.i(77), b.i(0)], word);
      const turn = b.mul(
        b.add(angle, b.mul(spread, b.sub(b.mul(chance(b, layerBits), b.f(2)), b.f(1)))),
        b.f(Math.PI / 180),
      );
      const [s, c] = [sin(b, turn), cos(b, turn)];
      const along = b.add(
        b.div(b.add(b.mul(x, c), b.mul(y, s)), long),
        b.mul(chance(b, reseed(b, layerBits, 11)), b.f(7)),
      );
      const aside = b.add(
        b.sub(b.mul(y, c), b.mul(x, s)),
        b.mul(chance(b, reseed(b, layerBits, 23)), b.f(7)),
      );
      const [i, j] = [b.floor(along), b.floor(aside)];
      const bits = latticeWord(b, [b.toInt(i), b.toInt(j), index], word);
      // A mark keeps half its width from the border of its cell, so that no neighbour need be
      // asked.
      const centre = b.add(
        b.mul(chance(b, reseed(b, bits, 5)), b.sub(b.f(1), thin)),
        b.mul(thin, b.f(0.5)),
      );
      const reach = b.sub(
        b.f(1),
        b.div(b.abs(b.sub(b.sub(aside, j), centre)), b.mul(thin, b.f(0.5))),
      );
      const t = b.sub(along, i);
      const fade = b.mul(b.mul(t, b.sub(b.f(1), t)), b.f(4));
      const there = b.and(b.lt(chance(b, bits), density), b.lt(b.toFloat(index), count));
      const strength = b.select(there, b.mul(smooth(b, b.saturate(reach)), fade), b.f(0));
      return [
        b.max(strongest, strength),
        b.select(b.lt(strongest, strength), chance(b, reseed(b, bits, 9)), owner),
      ];
    }) as [F32, F32];
    return { mask, random };
  },
});

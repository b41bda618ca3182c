import { latticeWord, seedWord } from '../../ir/library/hash';
import { cos } from '../../ir/library/transcendental';
import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import {
  PATTERN_INPUTS,
  chance,
  inPlane,
  patternCoordinates,
  perOption,
  planeOption,
  reseed,
} from '../lanes';

export const weave = defineNode({
  id: 'patterns.weave',
  version: 1,
  title: 'Weave',
  family: 'patterns',
  synonyms: ['cloth', 'fabric', 'textile', 'threads', 'basket', 'canvas', 'twill'],
  help:
    'Threads over and under each other. Height rises and falls with the thread and is ' +
    'round across it; thread ids serve to colour or vary them.',
  formula:
    'cross profile 1 − (2d/width)², undulation ±cos πs along the thread; height ½ + ' +
    '¼·undulation + ¼·profile of the upper thread present',
  inputs: {
    at: PATTERN_INPUTS.at,
    scale: {
      ...PATTERN_INPUTS.scale,
      default: 24,
      help: 'How many threads fit across the object.',
      unit: 'threads across the object',
    },
    seed: PATTERN_INPUTS.seed,
    width: input.scalar({
      title: 'Thread width',
      help: 'Width of a thread in its own spacing.',
      default: 0.85,
      soft: [0.2, 1],
      hard: [0.01, 1],
      low: 'open mesh',
      high: 'dense',
    }),
  },
  options: {
    binding: option('Binding', 'Which thread lies over which.', {
      plain: ['Plain', 'Over one, under one.'],
      twill: ['Twill', 'Over two, under two, a step further in each row.'],
    }),
    plane: planeOption,
    per: perOption,
  },
  outputs: {
    height: output.scalar('Height', '0 to 1; 0 where there is no thread.', {
      low: 'hole',
      high: 'crest',
    }),
    mask: output.scalar('Mask', 'Threads and holes.', {
      quantity: 'mask',
      low: 'hole',
      high: 'thread',
    }),
    upright: output.scalar('Upright', '1 where the upper thread runs along the second coordinate.'),
    random: output.scalar('Random', 'A number per thread, 0 to 1.'),
  },
  tolerance: {
    value: 1e-3,
    reason: 'Places within a thread are differences of larger coordinates.',
  },
  lower: (b, { at, scale, seed, width }, { binding, plane, per }, model) => {
    const [x, y] = inPlane(patternCoordinates(b, at, scale, per, model), plane);
    const [i, j] = [b.floor(x), b.floor(y)];
    const [fx, fy] = [b.sub(b.sub(x, i), b.f(0.5)), b.sub(b.sub(y, j), b.f(0.5))];
    const period = binding === 'plain' ? 2 : 4;
    const turn = b.mul(b.sub(i, j), b.f(1 / period));
    const step = b.mul(b.sub(turn, b.floor(turn)), b.f(period));
    const isOver = b.lt(step, b.f(period / 2 - 0.25));
    const present = b.max(width, b.f(0.01));
    const profile = (d: F32): F32 => {
      const t = b.div(b.mul(d, b.f(2)), present);
      return b.sub(b.f(1), b.mul(t, t));
    };
    const wave = (along: F32, up: boolean): F32 => {
      const c = cos(b, b.mul(along, b.f(Math.PI)));
      return b.select(isOver, up ? c : b.neg(c), up ? b.neg(c) : c);
    };
    const height = (across: F32, along: F32, up: boolean): F32 => {
      const round = profile(across);
      return b.select(
        b.le(b.f(0), round),
        b.add(b.f(0.5), b.mul(b.add(wave(along, up), round), b.f(0.25))),
        b.f(0),
      );
    };
    // The upright thread is over where `isOver` holds; of two threads at a point the higher one is
    // seen.
    const [upright, lying] = [height(fx, fy, true), height(fy, fx, false)];
    const seesUpright = b.le(lying, upright);
    const top = b.max(upright, lying);
    const word = seedWord(b, b.toInt(seed));
    const bits = latticeWord(
      b,
      [b.toInt(b.select(seesUpright, i, j)), b.select(seesUpright, b.i(1), b.i(2)), b.i(0)],
      word,
    );
    return {
      height: top,
      mask: b.select(b.lt(b.f(0), top), b.f(1), b.f(0)),
      upright: b.select(seesUpright, b.f(1), b.f(0)),
      random: chance(b, reseed(b, bits, 0)),
    };
  },
});

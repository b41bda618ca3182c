import { cos, sin } from '../../ir/library/transcendental';
import type { F32 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { softStep } from '../edges';
import {
  PATTERN_INPUTS,
  fraction,
  inPlane,
  patternCoordinates,
  perOption,
  planeOption,
} from '../lanes';

export const hatch = defineNode({
  id: 'patterns.hatch',
  version: 1,
  title: 'Hatch and dots',
  family: 'patterns',
  synonyms: ['halftone', 'crosshatch', 'engraving', 'screen print', 'ink', 'shading lines'],
  help:
    'Turns a tone into ink: lines, crossed lines or dots that grow as the tone darkens. ' +
    'The share of paper left white is the tone, exactly for lines and for dots.',
  formula:
    'lines: ink where |2·fraction(y) − 1| < 1 − tone; dots: ink within radius √((1 − ' +
    'tone)/π), beyond a half the same with white dots; crossed: lines both ways, each ' +
    'leaving √tone white',
  inputs: {
    tone: input.scalar({
      title: 'Tone',
      help: 'How light it is to look; limited to 0–1.',
      default: 0.5,
      low: 'all ink',
      high: 'all paper',
    }),
    at: PATTERN_INPUTS.at,
    scale: {
      ...PATTERN_INPUTS.scale,
      default: 40,
      help: 'How many lines or dots fit across the object.',
    },
    angle: input.scalar({
      title: 'Angle',
      help: 'Direction of the lines.',
      default: 45,
      soft: [-180, 180],
      step: 1,
      unit: '°',
    }),
    softness: input.scalar({
      title: 'Softness',
      help: 'Softness of the ink’s border.',
      default: 0,
      soft: [0, 0.5],
      hard: [0, 1],
      low: 'hard',
      high: 'soft',
    }),
  },
  options: {
    mark: option('Mark', 'What is drawn.', {
      lines: ['Lines', 'Parallel.'],
      crossed: ['Crossed', 'Two ways.'],
      dots: ['Dots', 'On a square lattice.'],
    }),
    plane: planeOption,
    per: perOption,
  },
  outputs: {
    paper: output.scalar('Paper', '1 on paper, 0 in ink.', { low: 'ink', high: 'paper' }),
  },
  tolerance: { value: 1e-3, reason: 'Places between lines are differences of larger coordinates.' },
  lower: (b, { tone, at, scale, angle, softness }, { mark, plane, per }, model) => {
    const [x, y] = inPlane(patternCoordinates(b, at, scale, per, model), plane);
    const turn = b.mul(angle, b.f(Math.PI / 180));
    const [s, c] = [sin(b, turn), cos(b, turn)];
    const [u, v] = [b.add(b.mul(x, c), b.mul(y, s)), b.sub(b.mul(y, c), b.mul(x, s))];
    const light = b.saturate(tone);
    const lines = (t: F32, white: F32): F32 =>
      softStep(
        b,
        b.abs(b.sub(b.mul(fraction(b, t), b.f(2)), b.f(1))),
        b.sub(b.f(1), white),
        softness,
        model,
      );
    if (mark === 'lines') return { paper: lines(v, light) };
    if (mark === 'crossed') {
      const root = b.sqrt(light);
      return { paper: b.mul(lines(v, root), lines(u, root)) };
    }
    // Dark tones turn round: white dots at the corners of the lattice, so that dots never run into
    // each other.
    const dark = b.lt(light, b.f(0.5));
    const share = b.select(dark, light, b.sub(b.f(1), light));
    const off = (t: F32): F32 => {
      const moved = b.sub(fraction(b, b.add(t, b.select(dark, b.f(0.5), b.f(0)))), b.f(0.5));
      return b.mul(moved, moved);
    };
    const outside = softStep(
      b,
      b.sqrt(b.add(off(u), off(v))),
      b.sqrt(b.mul(share, b.f(1 / Math.PI))),
      softness,
      model,
    );
    return { paper: b.select(dark, b.sub(b.f(1), outside), outside) };
  },
});

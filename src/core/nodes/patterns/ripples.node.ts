import { latticeWord, seedWord } from '../../ir/library/hash';
import { sin } from '../../ir/library/transcendental';
import type { F32, I32 } from '../../ir/types';
import { defineNode, input, output } from '../define';
import { PATTERN_INPUTS, chance, fraction, map3, perOption, reseed, zip3 } from '../lanes';

const MOST_SOURCES = 16;

export const ripples = defineNode({
  id: 'patterns.ripples',
  version: 1,
  title: 'Ripples',
  family: 'patterns',
  synonyms: ['waves', 'water', 'rings', 'wood rings', 'interference'],
  help:
    'Rings around sources, added and averaged. One source lies at the centre; more are ' +
    'scattered around it within the spread.',
  formula: '½ + ½·mean over sources of sin 2π(|at − cᵢ|·scale − phase)',
  inputs: {
    at: PATTERN_INPUTS.at,
    scale: {
      ...PATTERN_INPUTS.scale,
      help: 'How many rings fit across the object.',
      unit: 'rings across the object',
    },
    seed: PATTERN_INPUTS.seed,
    centre: input.vector({
      title: 'Centre',
      help: 'Where the sources lie.',
      default: [0, 0, 0],
      soft: [-1, 1],
    }),
    sources: input.scalar({
      title: 'Sources',
      help: 'How many; whole numbers.',
      default: 1,
      soft: [1, 8],
      hard: [1, MOST_SOURCES],
      counts: 'whole',
      low: 'rings',
      high: 'choppy',
    }),
    spread: input.scalar({
      title: 'Spread',
      help: 'How far the sources lie apart.',
      default: 0.5,
      soft: [0, 2],
      hard: [0, 1000],
      unit: 'of the object’s size',
      low: 'together',
      high: 'far apart',
    }),
    phase: input.scalar({
      title: 'Phase',
      help: 'Moves the rings outwards; 1 is one ring.',
      default: 0,
      soft: [-1, 1],
    }),
  },
  options: { per: perOption },
  outputs: { value: output.scalar('Value', '0 to 1.', { low: 'trough', high: 'crest' }) },
  tolerance: { value: 2e-3, reason: 'The phase of fine rings is a difference of large numbers.' },
  lower: (b, { at, scale, seed, centre, sources, spread, phase }, { per }, model) => {
    const unit = per === 'object' ? b.max(model.size, b.f(1e-12)) : b.f(1);
    const count = b.clamp(b.floor(sources), b.f(1), b.f(MOST_SOURCES));
    const alone = b.le(count, b.f(1));
    const word = seedWord(b, b.toInt(seed));
    const rounds: I32 = sources.laneUniform ? b.toInt(count) : b.i(MOST_SOURCES);
    const [sum] = b.loop(rounds, [b.f(0)], (index, [total]) => {
      const bits = latticeWord(b, [index, b.i(5), b.i(9)], word);
      const shift = map3(centre, (lane, k) =>
        b.add(
          lane,
          b.select(
            alone,
            b.f(0),
            b.mul(b.mul(b.sub(chance(b, reseed(b, bits, 41 + k)), b.f(0.5)), spread), unit),
          ),
        ),
      );
      const away = map3(
        zip3(at, shift, (x, y) => b.sub(x, y)),
        (lane) => b.div(lane, unit),
      );
      const turns = fraction(b, b.sub(b.mul(b.sqrt(b.dot(away, away)), scale), phase));
      const wave = sin(b, b.mul(turns, b.f(2 * Math.PI)));
      return [b.add(total as F32, b.select(b.lt(b.toFloat(index), count), wave, b.f(0)))];
    }) as [F32];
    return { value: b.saturate(b.add(b.mul(b.div(sum, count), b.f(0.5)), b.f(0.5))) };
  },
});

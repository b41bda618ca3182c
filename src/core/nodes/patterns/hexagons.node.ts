import { latticeWord, seedWord } from '../../ir/library/hash';
import type { F32 } from '../../ir/types';
import { defineNode, input, output } from '../define';
import { evenStep } from '../edges';
import {
  PATTERN_INPUTS,
  chance,
  inPlane,
  patternCoordinates,
  perOption,
  planeOption,
  reseed,
} from '../lanes';

const ROW = Math.sqrt(3);

export const hexagons = defineNode({
  id: 'patterns.hexagons',
  version: 1,
  title: 'Hexagons',
  family: 'patterns',
  synonyms: ['honeycomb', 'hex tiles', 'scales', 'six sides'],
  help:
    'Regular hexagons, upright, one unit wide. Border is the distance to the nearest side: ' +
    '0 there, ½ in the middle.',
  formula:
    'nearest of two lattices of 1 × √3; border = ½ − max(|x|, |x|/2 + |y|·√3/2); mask ' +
    'border ≥ gap/2',
  inputs: {
    at: PATTERN_INPUTS.at,
    scale: PATTERN_INPUTS.scale,
    seed: PATTERN_INPUTS.seed,
    gap: input.scalar({
      title: 'Gap',
      help: 'Width of the joint, in hexagons.',
      default: 0.08,
      soft: [0, 0.5],
      hard: [0, 1],
      low: 'no joint',
      high: 'wide joint',
    }),
    bevel: input.scalar({
      title: 'Bevel',
      help: 'Width of the sloping border, in hexagons; 0 is sharp.',
      default: 0.1,
      soft: [0, 0.5],
      hard: [0, 1],
      low: 'sharp',
      high: 'rounded',
    }),
  },
  options: { plane: planeOption, per: perOption },
  outputs: {
    mask: output.scalar('Mask', 'Hexagons and joints.', {
      quantity: 'mask',
      low: 'joint',
      high: 'hexagon',
    }),
    height: output.scalar('Height', 'With its bevel, for bumps.', { low: 'joint', high: 'face' }),
    border: output.scalar('Border', 'Distance to the nearest side, 0 to ½.', {
      low: 'on a side',
      high: 'in the middle',
    }),
    random: output.scalar('Random', 'A number per hexagon, 0 to 1.'),
  },
  tolerance: {
    value: 1e-3,
    reason: 'Places within a hexagon are differences of larger coordinates.',
  },
  lower: (b, { at, scale, seed, gap, bevel }, { plane, per }, model) => {
    const [x, y] = inPlane(patternCoordinates(b, at, scale, per, model), plane);
    // The centres stand on two rectangular lattices; the nearer centre owns the point.
    const lattice = (shift: number): { dx: F32; dy: F32; i: F32; j: F32 } => {
      const [i, j] = [
        b.nearest(b.sub(x, b.f(shift * 0.5))),
        b.nearest(b.div(b.sub(y, b.f((shift * ROW) / 2)), b.f(ROW))),
      ];
      return {
        dx: b.sub(x, b.add(i, b.f(shift * 0.5))),
        dy: b.sub(y, b.add(b.mul(j, b.f(ROW)), b.f((shift * ROW) / 2))),
        i,
        j,
      };
    };
    const [one, two] = [lattice(0), lattice(1)];
    const far = (l: typeof one): F32 => b.add(b.mul(l.dx, l.dx), b.mul(l.dy, l.dy));
    const first = b.le(far(one), far(two));
    const [dx, dy] = [
      b.abs(b.select(first, one.dx, two.dx)),
      b.abs(b.select(first, one.dy, two.dy)),
    ];
    const border = b.max(
      b.f(0),
      b.sub(b.f(0.5), b.max(dx, b.add(b.mul(dx, b.f(0.5)), b.mul(dy, b.f(ROW / 2))))),
    );
    const distance = b.sub(border, b.mul(gap, b.f(0.5)));
    const sharp = b.le(bevel, b.f(0));
    const inside = evenStep(b, distance, b.f(0), model);
    const cell = [
      b.toInt(b.select(first, one.i, two.i)),
      b.toInt(b.select(first, one.j, two.j)),
      b.select(first, b.i(0), b.i(1)),
    ] as const;
    return {
      mask: inside,
      height: b.select(sharp, inside, b.saturate(b.div(distance, b.select(sharp, b.f(1), bevel)))),
      border,
      random: chance(b, reseed(b, latticeWord(b, cell, seedWord(b, b.toInt(seed))), 0)),
    };
  },
});

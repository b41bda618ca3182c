import { defineNode, input, option, output } from '../define';
import { map3, turnInOrder, zip3 } from '../lanes';

export const transform = defineNode({
  id: 'coordinates.transform',
  version: 1,
  title: 'Transform',
  family: 'coordinates',
  synonyms: ['move', 'rotate', 'scale', 'turn', 'offset', 'mapping', 'place'],
  help:
    'Scales, turns and moves coordinates about a pivot, in this order: scale, turn about ' +
    'X, then Y, then Z, then the offset. ' +
    'Moving the coordinates one way moves what reads them the other way; undo does the ' +
    'opposite, step by step, so that what reads them moves as named.',
  formula:
    'apply: R_z·R_y·R_x·((at − pivot)∘scale) + pivot + offset; undo: its inverse; a scale ' +
    'of 0 counts as 1e−6 when undone',
  inputs: {
    at: input.vector({
      title: 'Coordinates',
      help: 'What is transformed; unwired, the position on the object.',
      default: 'position',
      soft: [-1, 1],
    }),
    scale: input.vector({
      title: 'Scale',
      help: 'Factor along each axis.',
      default: [1, 1, 1],
      soft: [0, 4],
    }),
    turn: input.vector({
      title: 'Turn',
      help: 'Degrees about X, then Y, then Z.',
      default: [0, 0, 0],
      soft: [-180, 180],
      step: 1,
      unit: '°',
    }),
    offset: input.vector({
      title: 'Offset',
      help: 'Added at the end.',
      default: [0, 0, 0],
      soft: [-1, 1],
    }),
    pivot: input.vector({
      title: 'Pivot',
      help: 'The point that scaling and turning leave alone.',
      default: [0, 0, 0],
      soft: [-1, 1],
    }),
  },
  options: {
    direction: option('Direction', 'Which way round.', {
      apply: ['Apply', 'As stated.'],
      undo: ['Undo', 'The inverse: a pattern moves, grows and turns as named.'],
    }),
    kind: option('Kind', 'What the vector is.', {
      point: ['A point', 'Moves with pivot and offset.'],
      direction: ['A direction', 'Only scale and turn act.'],
    }),
  },
  idle: ({ kind }) => (kind === 'direction' ? ['offset', 'pivot'] : []),
  outputs: { coordinates: output.vector('Coordinates', 'The transformed coordinates.') },
  tolerance: {
    value: 1e-3,
    reason: 'Offsets and turns of large coordinates lose their lowest digits.',
  },
  lower: (b, { at, scale, turn, offset, pivot }, { direction, kind }) => {
    const point = kind === 'point';
    if (direction === 'apply') {
      const centred = point ? zip3(at, pivot, (x, y) => b.sub(x, y)) : at;
      const turned = turnInOrder(
        b,
        zip3(centred, scale, (x, s) => b.mul(x, s)),
        turn,
      );
      return {
        coordinates: point
          ? map3(turned, (lane, k) => b.add(b.add(lane, pivot[k as 0]), offset[k as 0]))
          : turned,
      };
    }
    const centred = point
      ? map3(at, (lane, k) => b.sub(b.sub(lane, pivot[k as 0]), offset[k as 0]))
      : at;
    const back = turnInOrder(
      b,
      centred,
      map3(turn, (lane) => b.neg(lane)),
      [2, 1, 0],
    );
    const shrunk = zip3(back, scale, (x, s) => b.div(x, b.select(b.eq(s, b.f(0)), b.f(1e-6), s)));
    return { coordinates: point ? zip3(shrunk, pivot, (x, y) => b.add(x, y)) : shrunk };
  },
});

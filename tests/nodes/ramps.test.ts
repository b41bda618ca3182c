import fc from 'fast-check';
import { compileNetwork, uniformsFor } from '@/core/compile/compile';
import { structureKey } from '@/core/compile/structure';
import { describePorts } from '@/core/compile/catalogue';
import { checkReferences } from '@/core/compile/check/check';
import { curveValue, rampColour, stopPlaces } from '@/core/compile/ramp-rows';
import { setOption, setValue } from '@/core/edit/nodes';
import {
  distribute,
  mirrored,
  reverse,
  toggleOpen,
  widestGap,
  withSegments,
} from '@/core/edit/ramps';
import type { RampStop, Segment, Triple } from '@/core/graph/document';
import type { RampModes } from '@/core/nodes/ramp-table';
import { fromOklabColour, toOklabColour } from '@/core/surface/colour-science';
import { TEST_SCALE, documentOf, node } from '../support/networks';
import { curveOf, outputAt, valueAt } from '../support/evaluate';

const close = (actual: readonly number[], expected: readonly number[], tolerance = 1e-5): void => {
  expect(actual).toHaveLength(expected.length);
  actual.forEach((value, k) => {
    expect(Math.abs(value - (expected[k] ?? NaN))).toBeLessThanOrEqual(tolerance);
  });
};
const grey = (value: number): Triple => [value, value, value];
const stop = (
  id: string,
  position: number,
  colour: Triple,
  segment: Segment = 'linear',
  more: Partial<RampStop> = {},
): RampStop => ({ id, position, colour, alpha: 1, segment, ...more });
const rampAt = (
  at: readonly number[],
  stops: readonly RampStop[],
  options: Record<string, string> = {},
  values: Record<string, number> = {},
): number[] =>
  curveOf('gradients.ramp', 'value', 'scalar', at, { stops: { stops }, ...values }, options);
const TWO = [stop('a', 0, grey(0)), stop('b', 1, grey(1))];

describe('the domain of a ramp', () => {
  it('counts in the units given, and turns with reversed ends', () => {
    close(rampAt([2, 3, 4, 9], TWO, {}, { from: 2, to: 4 }), [0, 0.5, 1, 1]);
    close(rampAt([2, 3, 4], TWO, {}, { from: 4, to: 2 }), [1, 0.5, 0]);
    close(rampAt([1.99, 2], TWO, {}, { from: 2, to: 2 }), [0, 1]);
  });
  it('repeats and mirrors', () => {
    close(rampAt([-0.25, 0.25, 1.25], TWO, { outside: 'repeat' }), [0.75, 0.25, 0.25]);
    close(rampAt([-0.25, 0.25, 1.25, 2.25], TWO, { outside: 'mirror' }), [0.25, 0.25, 0.75, 0.25]);
  });
});

describe('stops that are added or changed together', () => {
  const placed: RampModes = { layout: 'placed', blend: 'light' };
  it('go into the widest gap, beyond the ends, too', () => {
    const gap = (...places: readonly number[]): number =>
      widestGap({ stops: places.map((at, k) => stop(`s${String(k)}`, at, grey(at))) }, placed);
    expect(gap(0, 1)).toBe(0.5);
    expect(gap(0, 0.5, 1)).toBe(0.25);
    expect(gap(0, 0.2, 1)).toBe(0.6);
    expect(gap(0.9, 0.1, 0.5)).toBeCloseTo(0.3, 12);
    expect(gap(0, 0.1, 0.2)).toBeCloseTo(0.6, 12);
  });
  it('take one way', () => {
    const ways = withSegments({ stops: TWO }, 'hold').stops.map(({ segment }) => segment);
    expect(ways).toEqual(['hold', 'hold']);
  });
});

describe('layouts', () => {
  const stops = [
    stop('a', 0.1, grey(0.1)),
    stop('b', 0.15, grey(0.5)),
    stop('c', 0.9, grey(0.9)),
    stop('d', 0.95, grey(1)),
  ];
  it('equal bands give every stop the same room', () => {
    close(
      rampAt([0, 0.2499, 0.25, 0.6, 0.99], stops, { layout: 'bands' }),
      [0.1, 0.1, 0.5, 0.9, 1],
    );
  });
  it('proportions are taken of their sum, in the order of the list', () => {
    const shares = [stop('a', 60, grey(0.3)), stop('b', 30, grey(0.6)), stop('c', 10, grey(0.9))];
    close(
      rampAt([0.59, 0.61, 0.89, 0.91], shares, { layout: 'proportions' }),
      [0.3, 0.6, 0.6, 0.9],
    );
    const halved = shares.map((each) => ({ ...each, position: each.position * 7 }));
    close(rampAt([0.59, 0.61, 0.91], halved, { layout: 'proportions' }), [0.3, 0.6, 0.9]);
    close(
      stopPlaces(
        shares.map((each) => ({ ...each, position: 0 })),
        'proportions',
      ),
      [0, 1 / 3, 2 / 3],
    );
  });
  it('keep what was seen when one becomes the other', () => {
    const placed = documentOf([
      node('r', 'gradients.ramp', {
        stops: { stops: TWO.map((each, k) => ({ ...each, position: k * 0.4 })) },
      }),
    ]);
    const shared = setOption(placed, null, 'r', 'layout', 'proportions').network.nodes[0]?.values[
      'stops'
    ];
    expect(shared).toMatchObject({ stops: [{ position: 40 }, { position: 60 }] });
  });
});

describe('segments and blending', () => {
  it('a spline passes its stops, never leaves them, and meets smoothly', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.float({ min: 0, max: 1, noNaN: true }),
            fc.float({ min: 0, max: 1, noNaN: true }),
          ),
          { minLength: 3, maxLength: 9 },
        ),
        (given) => {
          const stops = given.map(([, value], k) =>
            stop(`s${String(k)}`, k / (given.length - 1), grey(value), 'spline'),
          );
          close(
            rampAt(
              stops.map((each) => each.position),
              stops,
            ),
            stops.map((each) => each.colour[0]),
            1e-5,
          );
          for (let k = 0; k + 1 < stops.length; k++) {
            const [from, to] = [stops[k] as RampStop, stops[k + 1] as RampStop];
            const inside = rampAt(
              [0.2, 0.5, 0.8].map((u) => from.position + (to.position - from.position) * u),
              stops,
            );
            for (const value of inside) {
              expect(value).toBeGreaterThanOrEqual(Math.min(from.colour[0], to.colour[0]) - 1e-5);
              expect(value).toBeLessThanOrEqual(Math.max(from.colour[0], to.colour[0]) + 1e-5);
            }
          }
        },
      ),
      { numRuns: 20, seed: 11 },
    );
    // Evenly rising stops make a straight line.
    close(
      rampAt(
        [0.1, 0.3, 0.77],
        [
          stop('a', 0, grey(0), 'spline'),
          stop('b', 0.5, grey(0.5), 'spline'),
          stop('c', 1, grey(1)),
        ],
      ),
      [0.1, 0.3, 0.77],
    );
  });
  it('perceptual blending is the middle of Oklab, and the ends stay exact', () => {
    const [blue, yellow]: [Triple, Triple] = [
      [0.02, 0.03, 0.7],
      [0.9, 0.8, 0.05],
    ];
    const stops = { stops: [stop('a', 0, blue), stop('b', 1, yellow)] };
    const at = (value: number): number[] =>
      valueAt('gradients.ramp', 'colour', { stops, value }, { blend: 'perceptual' });
    const [p, q] = [toOklabColour(blue), toOklabColour(yellow)];
    close(
      at(0.5),
      fromOklabColour(p.map((x, k) => (x + (q[k] ?? 0)) / 2) as unknown as Triple),
      2e-5,
    );
    close(at(0), blue, 2e-5);
    close(at(1), yellow, 2e-5);
    close(toOklabColour([1, 1, 1]), [1, 0, 0], 1e-6);
  });
  it('the drawing beside the stops shows what the network computes', () => {
    const segments: Segment[] = ['hold', 'linear', 'smooth', 'spline'];
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.integer({ min: 0, max: 20 }),
            fc.float({ min: 0, max: 1, noNaN: true }),
            fc.integer({ min: 0, max: 3 }),
          ),
          { minLength: 2, maxLength: 8 },
        ),
        fc.constantFrom('placed', 'bands', 'proportions'),
        fc.constantFrom('light', 'perceptual'),
        (given, layout, blend) => {
          const stops = given.map(([place, value, segment], k) =>
            stop(
              `s${String(k)}`,
              place / 20,
              [value, 1 - value, value * value],
              segments[segment] ?? 'linear',
              { alpha: 0.5 + value / 2 },
            ),
          );
          for (const value of [0.013, 0.31, 0.62, 0.987]) {
            const drawn = rampColour({ stops }, { layout, blend }, value);
            close(
              valueAt('gradients.ramp', 'colour', { stops: { stops }, value }, { layout, blend }),
              drawn,
              2e-3,
            );
          }
        },
      ),
      { numRuns: 40, seed: 12 },
    );
  });
});

describe('open stops', () => {
  const open = (aspects: NonNullable<RampStop['open']>): RampStop[] => [
    stop('a', 0, grey(0)),
    stop('b', 0.5, grey(0.5), 'linear', { open: aspects }),
    stop('c', 1, grey(1)),
  ];
  const live = (
    at: readonly number[],
    stops: readonly RampStop[],
    input: string,
    given: number,
    options: Record<string, string> = {},
  ): number[] => {
    const document = documentOf(
      [
        node('p', 'model.position'),
        node('w', 'constants.number', { value: given }),
        node('n', 'gradients.ramp', { stops: { stops } }, options),
      ],
      ['p:x > n:value', `w:value > n:${input}`],
    );
    return outputAt(document, 'n:scalar', { 'position.x': at }, at.length)[0] ?? [];
  };
  it('are inputs of the node, with what is typed as their value', () => {
    const document = documentOf([
      node('n', 'gradients.ramp', { stops: { stops: open(['position', 'colour', 'alpha']) } }),
    ]);
    const ids = describePorts(document, document.network.nodes[0] as never)?.inputs.map(
      (port) => port.id,
    );
    expect(ids).toEqual([
      'value',
      'stops',
      'from',
      'to',
      'stops.b.position',
      'stops.b.colour',
      'stops.b.alpha',
    ]);
    const moved = setValue(document, null, 'n', 'stops.b.position', 0.25);
    expect(moved.network.nodes[0]?.values['stops']).toMatchObject({
      stops: [{}, { position: 0.25, open: ['position', 'colour', 'alpha'] }, {}],
    });
    expect(structureKey(moved)).toBe(structureKey(document));
    expect(checkReferences(moved)).toEqual([]);
  });
  it('give the same as typed stops while nothing is wired', () => {
    const segments: Segment[] = ['hold', 'linear', 'smooth', 'spline'];
    for (const layout of ['placed', 'bands', 'proportions'])
      for (const blend of ['light', 'perceptual']) {
        const stops = [0, 0.2, 0.2, 0.6, 0.9].map((position, k) =>
          stop(`s${String(k)}`, position, [k / 5, 1 - k / 5, 0.3], segments[k % 4] ?? 'linear', {
            alpha: 1 - k / 8,
          }),
        );
        const at = [-0.5, 0, 0.1, 0.2, 0.33, 0.6, 0.77, 0.95, 1.5];
        const opened = stops.map((each, k) =>
          k === 3 ? { ...each, open: ['position', 'colour', 'alpha'] as const } : each,
        );
        close(rampAt(at, opened, { layout, blend }), rampAt(at, stops, { layout, blend }), 1e-4);
      }
  });
  it('follow what is wired, and never pass the one before', () => {
    close(live([0.25, 0.5, 0.625], open(['position']), 'stops.b.position', 0.25), [
      0.5,
      2 / 3,
      0.75,
    ]);
    close(live([0.5, 1], open(['colour']), 'stops.b.colour', 0.9), [0.9, 1]);
    // A place before the first stop counts as the first stop’s.
    close(live([0.25], open(['position']), 'stops.b.position', -3), [0.5 + 0.25 * 0.5]);
    close(
      live(
        [0.1, 0.4, 0.9],
        [stop('a', 1, grey(0.1), 'hold', { open: ['position'] }), stop('b', 1, grey(0.9))],
        'stops.a.position',
        3,
        { layout: 'proportions' },
      ),
      [0.1, 0.1, 0.9],
    );
  });
  it('can be driven by a dial without compiling again', () => {
    const document = documentOf([
      node('n', 'gradients.ramp', { stops: { stops: open(['position']) } }),
    ]);
    const compiled = compileNetwork(document, { surface: false, taps: 'all' });
    const before = uniformsFor(compiled, document, TEST_SCALE);
    const after = uniformsFor(
      compiled,
      setValue(document, null, 'n', 'stops.b.position', 0.75),
      TEST_SCALE,
    );
    expect([...after].filter((value, k) => value !== before[k])).toContain(0.75);
  });
});

describe('arranging stops', () => {
  const stops = {
    stops: [
      stop('a', 0.2, grey(0.1), 'hold'),
      stop('b', 0.3, grey(0.4), 'smooth'),
      stop('c', 1, grey(0.9)),
    ],
  };
  it('spreads them evenly', () => {
    expect(distribute(stops).stops.map((each) => each.position)).toEqual([0, 0.5, 1]);
  });
  it('reverses into what a mirror shows', () => {
    const at = [0.05, 0.15, 0.35, 0.71, 0.79];
    const linear = { stops: stops.stops.map((each) => ({ ...each, segment: 'linear' as const })) };
    close(
      rampAt(at, reverse(linear, 'placed').stops),
      rampAt(
        at.map((t) => 1 - t),
        linear.stops,
      ),
    );
    expect(reverse(stops, 'placed').stops.map(({ id, segment }) => [id, segment])).toEqual([
      ['c', 'smooth'],
      ['b', 'hold'],
      ['a', 'hold'],
    ]);
    expect(
      reverse(reverse(stops, 'placed'), 'placed').stops.map(({ id, position }) => [
        id,
        Number(position.toFixed(6)),
      ]),
    ).toEqual([
      ['a', 0.2],
      ['b', 0.3],
      ['c', 1],
    ]);
  });
  it('mirrors: forwards in the first half, backwards in the second', () => {
    const whole = mirrored(
      { stops: stops.stops.map((each) => ({ ...each, segment: 'linear' })) },
      32,
    );
    if (!whole) throw new Error('not mirrored');
    const at = [0.05, 0.12, 0.3, 0.49];
    close(
      rampAt(
        at.map((t) => 1 - t),
        whole.stops,
      ),
      rampAt(at, whole.stops),
    );
    close(
      rampAt(at, whole.stops),
      rampAt(
        at.map((t) => t * 2),
        stops.stops.map((each) => ({ ...each, segment: 'linear' })),
      ),
    );
    expect(mirrored(stops, 4)).toBeNull();
  });
  it('opens and closes an aspect', () => {
    const once = toggleOpen(stops, 'b', 'colour');
    expect(once.stops[1]?.open).toEqual(['colour']);
    expect(toggleOpen(once, 'b', 'colour')).toEqual(stops);
  });
});

describe('curve', () => {
  const at = (
    xs: readonly number[],
    points: readonly (readonly [number, number])[],
    options: Record<string, string> = {},
  ): number[] => curveOf('gradients.curve', 'value', 'result', xs, { all: { points } }, options);
  it('changes nothing while straight, and passes its points', () => {
    close(
      at(
        [-0.5, 0, 0.3, 1],
        [
          [0, 0],
          [1, 1],
        ],
        { outside: 'straight' },
      ),
      [-0.5, 0, 0.3, 1],
    );
    close(
      at(
        [0, 0.25, 0.5, 1],
        [
          [0, 0.1],
          [0.25, 0.8],
          [0.5, 0.3],
          [1, 1],
        ],
      ),
      [0.1, 0.8, 0.3, 1],
    );
  });
  it('holds beyond its ends, or goes on straight', () => {
    close(
      at(
        [-1, 2],
        [
          [0, 0.2],
          [1, 0.7],
        ],
      ),
      [0.2, 0.7],
    );
    close(
      at(
        [-1, 2],
        [
          [0, 0.2],
          [1, 0.7],
        ],
        { outside: 'straight' },
      ),
      [-0.3, 1.2],
    );
  });
  it('is monotone between points, and as its drawing says', () => {
    fc.assert(
      fc.property(
        fc.array(fc.float({ min: -2, max: 2, noNaN: true }), { minLength: 2, maxLength: 24 }),
        (ys) => {
          const points = ys.map((y, k): [number, number] => [k / (ys.length - 1), y]);
          const xs = Array.from({ length: 60 }, (_, k) => k / 59);
          const values = at(xs, points);
          close(
            values,
            xs.map((x) => curveValue({ points }, Math.fround(x))),
            2e-4,
          );
          xs.forEach((x, k) => {
            const piece = Math.min(ys.length - 2, Math.floor(x * (ys.length - 1)));
            const [from, to] = [ys[piece] as number, ys[piece + 1] as number];
            expect(values[k]).toBeGreaterThanOrEqual(Math.min(from, to) - 1e-4);
            expect(values[k]).toBeLessThanOrEqual(Math.max(from, to) + 1e-4);
          });
        },
      ),
      { numRuns: 20, seed: 13 },
    );
  });
  it('jumps where points stand above each other', () => {
    close(
      at(
        [0.4999, 0.5001],
        [
          [0, 0],
          [0.5, 0],
          [0.5, 1],
          [1, 1],
        ],
      ),
      [0, 1],
      1e-3,
    );
  });
  it('bends each channel by its own', () => {
    const points = (high: number): { points: [number, number][] } => ({
      points: [
        [0, 0],
        [1, high],
      ],
    });
    close(
      valueAt(
        'gradients.curve',
        'result',
        { value: [1, 1, 1], first: points(0.2), second: points(0.5), third: points(0.7) },
        { channels: 'each' },
      ),
      [0.2, 0.5, 0.7],
    );
    close(valueAt('gradients.curve', 'result', { value: 1, all: points(0.2), amount: 0.5 }), [0.6]);
  });
});

/** What the ramp's editor does with stops, windows, clipboard text and strip images. */
import fc from 'fast-check';
import { orderedStops, rampColour, rampSample, stopPlaces } from '@/core/compile/ramp-rows';
import { addStop, insertStop, moveStopsBeside, stopsBeside } from '@/core/edit/ramps';
import { STRIP, drawStrip, fitStrip } from '@/core/edit/ramp-strip';
import { levelLine } from '@/core/evaluate/level-line';
import { rampClipText, readRampClip } from '@/core/graph/ramp-clip';
import type { RampStop, RampValue, Segment } from '@/core/graph/document';
import type { RampModes } from '@/core/nodes/ramp-table';
import { decodeSrgb, encodeSrgb } from '@/core/surface/colour-science';
import { inWindow, outOfWindow, roundTicks, zoomed } from '@/features/inspector/ramp/ramp-window';

const MODES: RampModes = { layout: 'placed', blend: 'light' };
const stop = (id: string, position: number, level = position, segment: Segment = 'linear') => ({
  id,
  position,
  colour: [level, level, level] as const,
  alpha: 1,
  segment,
});
const rampOf = (...stops: readonly RampStop[]): RampValue => ({ stops });
const border = rampOf(stop('a', 0), stop('b', 0.5, 0.2), stop('c', 0.5, 0.8), stop('d', 1));
const placesOf = (ramp: RampValue): readonly number[] => ramp.stops.map((each) => each.position);

describe('a stop that is added', () => {
  const modes = fc.record({
    layout: fc.constantFrom('placed' as const, 'proportions' as const),
    blend: fc.constantFrom('light' as const, 'perceptual' as const),
  });
  const anyStop = fc.record({
    position: fc.double({ min: 0.01, max: 1, noNaN: true }),
    level: fc.double({ min: 0, max: 1, noNaN: true }),
    alpha: fc.double({ min: 0.2, max: 1, noNaN: true }),
    segment: fc.constantFrom('linear' as const, 'hold' as const),
  });
  it('takes colour, alpha and way of its place: nothing looks different', () => {
    fc.assert(
      fc.property(
        modes,
        fc.array(anyStop, { minLength: 2, maxLength: 6 }),
        fc.double({ min: 0.01, max: 0.99, noNaN: true }),
        (of, given, place) => {
          const before = rampOf(
            ...given.map(({ position, level, alpha, segment }, k) => ({
              ...stop(`s${String(k)}`, position, level, segment),
              alpha,
            })),
          );
          const { ramp } = addStop(before, of, place) ?? { ramp: before };
          expect(ramp.stops).toHaveLength(given.length + 1);
          for (let k = 0; k <= 40; k++) {
            // Borders themselves may fall to either side by rounding.
            const t = (k + 0.371) / 41;
            if (
              stopPlaces(orderedStops(ramp, of.layout), of.layout).some(
                (p) => Math.abs(p - t) < 1e-6,
              )
            )
              continue;
            const [a, b] = [rampSample(before, of, t), rampSample(ramp, of, t)];
            expect(Math.abs(a.alpha - b.alpha)).toBeLessThan(1e-9);
            a.colour.forEach((channel, c) => {
              expect(Math.abs(channel - (b.colour[c] ?? 0))).toBeLessThan(1e-6);
            });
          }
        },
      ),
      { seed: 7, numRuns: 200 },
    );
  });
});

describe('stops at one place', () => {
  it('move together, in the order they had', () => {
    expect(stopsBeside(border, 'c')).toEqual(['b', 'c']);
    expect(placesOf(moveStopsBeside(border, 'c', 0.7))).toEqual([0, 0.7, 0.7, 1]);
    expect(placesOf(moveStopsBeside(border, 'a', -3))).toEqual([0, 0.5, 0.5, 1]);
  });
});

describe('ramps and stops on the clipboard', () => {
  it('come back as they were', () => {
    expect(readRampClip(rampClipText({ ramp: border }))).toEqual({ ramp: border });
    expect(readRampClip(rampClipText({ stop: stop('x', 0.3) }))).toEqual({ stop: stop('x', 0.3) });
  });
  it('a pasted stop has an id and a place of its own; a full ramp takes none', () => {
    const pasted = insertStop(border, stop('b', 0.9, 0.4), 0.25);
    expect(pasted?.stops.map(({ id }) => id)).toEqual(['a', 's1', 'b', 'c', 'd']);
    expect(pasted?.stops[1]).toMatchObject({ position: 0.25, colour: [0.4, 0.4, 0.4] });
    const full = rampOf(...Array.from({ length: 32 }, (_, k) => stop(`f${String(k)}`, k / 31)));
    expect(insertStop(full, stop('b', 0.9), 0.25)).toBeNull();
  });
  it.each([
    ['text', 'There is no ramp on the clipboard'],
    ['{"nodes":[]}', 'There is no ramp on the clipboard'],
    ['{"ramp":{"stops":[]}}', 'The ramp on the clipboard cannot be read'],
    ['{"stop":{"id":"s","position":"left"}}', 'The ramp on the clipboard cannot be read'],
    [' '.repeat(100_000), 'too much for a ramp'],
  ])('%.30s is refused with a reason', (text, reason) => {
    expect(readRampClip(text)).toMatchObject({
      reason: expect.stringContaining(reason) as string,
    });
  });
});

describe('strip images', () => {
  const columnsOf = (pixels: Uint8Array) =>
    Array.from({ length: STRIP.width }, (_, x) => ({
      colour: [0, 1, 2].map((c) => decodeSrgb((pixels[x * 4 + c] ?? 0) / 255)) as unknown as [
        number,
        number,
        number,
      ],
      alpha: (pixels[x * 4 + 3] ?? 0) / 255,
    }));
  it('a written strip is read as a ramp that looks alike', () => {
    for (const ramp of [
      border,
      rampOf(stop('a', 0, 0.1), stop('b', 0.37, 0.9), stop('c', 1, 0.2)),
    ]) {
      const { ramp: read, difference } = fitStrip(columnsOf(drawStrip(ramp, MODES)));
      expect(difference).toBeLessThan(0.02);
      expect(read.stops.length).toBeLessThanOrEqual(32);
      const smooth = ramp.stops.every((each, k, all) => each.position !== all[k + 1]?.position);
      for (let t = 0; smooth && t <= 1; t += 0.01) {
        const [a, b] = [read, ramp].map((each) => encodeSrgb(rampColour(each, MODES, t)[0]));
        expect(Math.abs((a ?? 0) - (b ?? 0))).toBeLessThan(2 / 255);
      }
    }
  });
  it('a strip that no ramp can follow says how far it is off', () => {
    const noisy = Array.from({ length: 256 }, (_, k) => ({
      colour: [k % 2, k % 2, k % 2] as const,
      alpha: 1,
    }));
    const { ramp, difference } = fitStrip(noisy);
    expect(ramp.stops).toHaveLength(32);
    expect(difference).toBeGreaterThan(0.5);
  });
});

describe('the part of a ramp that is shown', () => {
  it('keeps the place under the pointer where it is, and stays within the ramp', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (at) => {
        const part = zoomed({ from: 0, to: 1 }, 0.25, at);
        expect(part.from).toBeGreaterThanOrEqual(0);
        expect(part.to).toBeLessThanOrEqual(1 + 1e-12);
        expect(inWindow(part, at)).toBeCloseTo(at, 9);
        expect(outOfWindow(part, inWindow(part, at))).toBeCloseTo(at, 9);
      }),
    );
  });
  it('is marked with round numbers', () => {
    expect(roundTicks(0, 1, 8)).toEqual([0, 0.2, 0.4, 0.6, 0.8, 1]);
    expect(roundTicks(-0.031, 0.029, 6)).toEqual([-0.03, -0.02, -0.01, 0, 0.01, 0.02]);
    expect(roundTicks(3, 3, 8)).toEqual([3]);
  });
});

describe('the line of a level', () => {
  it('runs where the values cross it, and not beyond the surface', () => {
    const [width, height] = [20, 12];
    const values = Float32Array.from({ length: width * height }, (_, k) =>
      k % width < 16 ? (k % width) / 15 : Number.NaN,
    );
    const pieces = levelLine({ width, height, lanes: [values] }, 0.5);
    expect(pieces).toHaveLength(height - 1);
    for (const [x0, , x1] of pieces) {
      expect(x0).toBeCloseTo(8, 5);
      expect(x1).toBeCloseTo(8, 5);
    }
    expect(levelLine({ width, height, lanes: [values] }, 1.2)).toHaveLength(0);
    expect(levelLine({ width, height, lanes: [values] }, 0.5, 0.01)).toHaveLength(0);
  });
});

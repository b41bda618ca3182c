/** Palettes from ramps, and ramps from palettes. */
import { rampColour } from '@/core/compile/ramp-rows';
import { rampValue } from '@/core/graph/document-shape';
import type { Triple } from '@/core/graph/document';
import { PALETTE_COLOURS, paletteValue } from '@/core/presets/kinds';
import { paletteOfRamp, rampOfPalette } from '@/core/presets/palettes';

const colours = Array.from({ length: 5 }, (_, k): Triple => [k / 4, 0.25, 1 - k / 4]);
const PLAIN = { layout: 'placed', blend: 'light' } as const;

it('a palette becomes a ramp with an equal part for each colour, and back', () => {
  const ramp = rampOfPalette({ colours });
  expect(rampValue.joi.validate(ramp).error).toBeUndefined();
  for (const [k, colour] of colours.entries())
    for (const share of [0.01, 0.5, 0.99])
      expect(rampColour(ramp, PLAIN, (k + share) / colours.length)).toEqual(colour);
  expect(paletteOfRamp(ramp)).toEqual({ colours });
});
it('one colour makes a ramp; a palette of a ramp names neighbours that are alike once', () => {
  const ramp = rampOfPalette({ colours: [[0.5, 0.5, 0.5]] });
  expect(rampValue.joi.validate(ramp).error).toBeUndefined();
  expect(paletteOfRamp(ramp)).toEqual({ colours: [[0.5, 0.5, 0.5]] });
});
it('too many colours are cut where there is no room for more', () => {
  const many = Array.from({ length: PALETTE_COLOURS }, (_, k): Triple => [k, 0, 0]);
  expect(rampValue.joi.validate(rampOfPalette({ colours: many })).error).toBeUndefined();
  expect(paletteValue.joi.validate({ colours: many }).error).toBeUndefined();
  expect(paletteValue.joi.validate({ colours: [] }).error).toBeDefined();
});

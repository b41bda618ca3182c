import type { RampValue, Segment, Triple } from '@/core/graph/document';

type Stop = readonly [position: number, colour: Triple, segment?: Segment];
const ramp = (...stops: readonly Stop[]): RampValue => ({
  stops: stops.map(([position, colour, segment = 'smooth'], k) => ({
    id: `s${String(k + 1)}`,
    position,
    colour,
    alpha: 1,
    segment,
  })),
});

/** Ramps to start from; colours in linear Rec. 709. */
export const RAMP_PRESETS: readonly { readonly name: string; readonly ramp: RampValue }[] = [
  { name: 'Black to white', ramp: ramp([0, [0, 0, 0], 'linear'], [1, [1, 1, 1], 'linear']) },
  { name: 'White to black', ramp: ramp([0, [1, 1, 1], 'linear'], [1, [0, 0, 0], 'linear']) },
  {
    name: 'Two tones, hard',
    ramp: ramp(
      [0, [0.045, 0.07, 0.16], 'hold'],
      [0.5, [0.045, 0.07, 0.16], 'hold'],
      [0.5, [0.83, 0.62, 0.36], 'hold'],
      [1, [0.83, 0.62, 0.36], 'hold'],
    ),
  },
  {
    name: 'Four tones, storybook',
    ramp: ramp(
      [0, [0.03, 0.05, 0.13], 'hold'],
      [0.3, [0.1, 0.2, 0.32], 'hold'],
      [0.58, [0.72, 0.42, 0.2], 'hold'],
      [0.85, [0.95, 0.85, 0.6], 'hold'],
    ),
  },
  {
    name: 'Tide line',
    ramp: ramp(
      [0, [0.015, 0.03, 0.025]],
      [0.4, [0.04, 0.075, 0.03]],
      [0.52, [0.34, 0.33, 0.22]],
      [0.6, [0.19, 0.17, 0.14]],
      [1, [0.3, 0.28, 0.25]],
    ),
  },
  {
    name: 'Bell bronze and verdigris',
    ramp: ramp(
      [0, [0.11, 0.045, 0.015]],
      [0.45, [0.42, 0.2, 0.06]],
      [0.62, [0.2, 0.27, 0.17]],
      [1, [0.18, 0.52, 0.4]],
    ),
  },
  {
    name: 'Lantern glow',
    ramp: ramp(
      [0, [0.01, 0.005, 0.02]],
      [0.35, [0.32, 0.03, 0.01]],
      [0.7, [1, 0.38, 0.04]],
      [1, [1, 0.9, 0.55]],
    ),
  },
  {
    name: 'Sea glass',
    ramp: ramp([0, [0.03, 0.16, 0.13]], [0.6, [0.2, 0.55, 0.42]], [1, [0.8, 0.95, 0.85]]),
  },
];

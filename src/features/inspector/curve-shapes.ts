import type { CurveValue } from '@/core/graph/document';

/** Curves to start from, by their names. */
export const SHAPES: Readonly<Record<string, CurveValue['points']>> = {
  Straight: [
    [0, 0],
    [1, 1],
  ],
  'Upside down': [
    [0, 1],
    [1, 0],
  ],
  'More contrast': [
    [0, 0],
    [0.25, 0.13],
    [0.75, 0.87],
    [1, 1],
  ],
  'Less contrast': [
    [0, 0],
    [0.25, 0.36],
    [0.75, 0.64],
    [1, 1],
  ],
  'Lift the middle': [
    [0, 0],
    [0.5, 0.66],
    [1, 1],
  ],
  'Sink the middle': [
    [0, 0],
    [0.5, 0.34],
    [1, 1],
  ],
  Bell: [
    [0, 0],
    [0.5, 1],
    [1, 0],
  ],
  'Flat black': [
    [0, 0],
    [1, 0],
  ],
  'Flat white': [
    [0, 1],
    [1, 1],
  ],
  'Step at one half': [
    [0, 0],
    [0.5, 0],
    [0.5, 1],
    [1, 1],
  ],
};

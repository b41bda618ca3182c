import type { RampStop, RampValue, Triple } from '../graph/document';
import { LIMITS } from '../graph/limits';
import { PALETTE_COLOURS } from './kinds';
import type { PaletteValue } from './kinds';

const isSame = (a: Triple, b: Triple): boolean => a.every((x, k) => x === b[k as 0]);

/**
 * The colours of a ramp's stops along the ramp, one after another only once; at most as many as a
 * palette may have.
 */
export function paletteOfRamp({ stops }: RampValue): PaletteValue {
  const ordered = [...stops].sort((a, b) => a.position - b.position).map(({ colour }) => colour);
  const colours = ordered.filter((colour, k) => {
    const before = ordered[k - 1];
    return before === undefined || !isSame(colour, before);
  });
  return { colours: colours.slice(0, PALETTE_COLOURS) };
}

/**
 * A ramp that holds each colour of a palette for an equal part, in order; as many colours as a
 * ramp has room for.
 */
export function rampOfPalette({ colours }: PaletteValue): RampValue {
  const shown = colours.slice(0, LIMITS.rampStops);
  const [only] = shown;
  const held = shown.length === 1 && only ? [only, only] : shown;
  return {
    stops: held.map((colour, k): RampStop => ({
      id: `s${String(k + 1)}`,
      position: k / held.length,
      colour,
      alpha: 1,
      segment: 'hold',
    })),
  };
}

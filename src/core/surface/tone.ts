import type { Vec3 } from '../base/vector';
import { encodeSrgb } from './colour-science';

const START = 0.8 - 0.04;
const DESATURATION = 0.15;

/**
 * Linear light of any strength to linear light 0 to 1 for a display: colours below the start of
 * compression keep hue and contrast. Source: Khronos PBR Neutral Tone Mapper, 2024.
 */
export function toneMap(colour: Vec3): Vec3 {
  const least = Math.min(...colour);
  const offset = least < 0.08 ? least - 6.25 * least * least : 0.04;
  const shifted: Vec3 = [colour[0] - offset, colour[1] - offset, colour[2] - offset];
  const peak = Math.max(...shifted);
  if (peak < START) return shifted;
  const range = 1 - START;
  const mapped = 1 - (range * range) / (peak + range - START);
  const towardsWhite = 1 - 1 / (DESATURATION * (peak - mapped) + 1);
  return [
    towards((shifted[0] * mapped) / peak, mapped, towardsWhite),
    towards((shifted[1] * mapped) / peak, mapped, towardsWhite),
    towards((shifted[2] * mapped) / peak, mapped, towardsWhite),
  ];
}
const towards = (from: number, to: number, share: number): number => from + (to - from) * share;

/**
 * Linear light as a display shows it: toned unless the surface is unlit; sRGB, 0–255.
 * @param isWhole in whole steps, as it is stored; else exactly
 */
export function displayColour(light: Vec3, unlit: number, isWhole = true): Vec3 {
  const [r, g, b] = unlit >= 1 ? light : toneMap(light);
  const shown: Vec3 = [displayed(r), displayed(g), displayed(b)];
  return isWhole ? [Math.round(shown[0]), Math.round(shown[1]), Math.round(shown[2])] : shown;
}
const displayed = (linear: number): number => 255 * encodeSrgb(Math.min(1, Math.max(0, linear)));

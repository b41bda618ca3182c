import type { Vec3 } from '../base/vector';
import { dot, normalise } from '../base/vector';

/**
 * The studio around a model, all neutral: a ceiling brighter than the floor, and three soft
 * windows. One definition for pictures made on the processor and for the stage.
 */
const SKY = { floor: 0.18, ceiling: 0.75, from: -0.5, to: 0.9 } as const;
interface Window {
  /** Unit, towards its middle. */
  readonly towards: Vec3;
  /** The cosine of half the angle under which it is seen. */
  readonly edge: number;
  readonly strength: number;
}
const WINDOWS: readonly Window[] = [
  { towards: normalise([0.6, 0.5, 0.6]), edge: 0.93, strength: 3.2 },
  { towards: normalise([-0.9, 0.3, 0.2]), edge: 0.95, strength: 1.5 },
  { towards: normalise([-0.2, 0.4, -1]), edge: 0.9, strength: 0.7 },
];

/** Hermite steps from 0 to 1 of what is within the bounds already. */
const hermite = (t: number): number => t * t * (3 - 2 * t);

/** Radiance, the same in all channels, that arrives from a unit direction (Y up). */
export function studioRadiance(from: Vec3): number {
  const up = Math.min(1, Math.max(0, (from[1] - SKY.from) / (SKY.to - SKY.from)));
  let radiance = SKY.floor + (SKY.ceiling - SKY.floor) * hermite(up);
  for (const { towards, edge, strength } of WINDOWS) {
    const cosine = dot(from, towards);
    // Most directions meet no window.
    if (cosine > edge) radiance += strength * hermite(Math.min(1, (cosine - edge) / (1 - edge)));
  }
  return radiance;
}

const text = (value: number): string => value.toFixed(9);
/** The same as a function of GLSL: `float studioRadiance(vec3 from)`. */
export const STUDIO_GLSL = `float studioRadiance(vec3 from) {
  float radiance = mix(${text(SKY.floor)}, ${text(SKY.ceiling)},
    smoothstep(${text(SKY.from)}, ${text(SKY.to)}, from.y));
${WINDOWS.map(
  ({ towards, edge, strength }) =>
    `  radiance += ${text(strength)} * ` +
    `smoothstep(${text(edge)}, 1.0, dot(from, vec3(${towards.map(text).join(', ')})));`,
).join('\n')}
  return radiance;
}`;

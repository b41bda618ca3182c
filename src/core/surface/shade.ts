import type { Vec3 } from '../base/vector';
import { add, dot, normalise, scale, sub } from '../base/vector';
import { encodeSrgb } from './colour-science';

/** One point's surface, as programs write it (SURFACE_LANES). */
export interface SurfaceSample {
  readonly baseColour: Vec3; readonly metalness: number; readonly roughness: number; readonly emission: Vec3; readonly opacity: number; readonly normal: Vec3;
}

interface Light { readonly towards: Vec3; readonly colour: Vec3 }
const KEY: Light = { towards: normalise([0.5, 0.75, 0.6]), colour: [2.6, 2.5, 2.35] };
const FILL: Light = { towards: normalise([-0.8, 0.25, 0.3]), colour: [0.5, 0.55, 0.62] };

/** The studio surroundings: brighter above, a soft horizon. */
function surroundings(direction: Vec3, roughness: number): Vec3 {
  const up = direction[1] * (1 - 0.5 * roughness);
  const sky = 0.35 + 0.4 * Math.max(0, up) + 0.1 * Math.min(0, up);
  const window = Math.max(0, dot(direction, KEY.towards));
  const glow = 0.6 * Math.pow(window, 2 + 60 * (1 - roughness) ** 2);
  return [sky + glow, sky + glow, sky * 1.02 + glow];
}

/**
 * Shades one point on the processor, for pictures made on the server: two lights, surroundings, GGX reflection.
 * Returns linear light. Source of the reflection model: glTF 2.0 specification, appendix B.
 */
export function shadePoint(surface: SurfaceSample, view: Vec3): Vec3 {
  const n = surface.normal;
  const nv = Math.max(1e-3, dot(n, view));
  const alpha = Math.max(0.02, surface.roughness * surface.roughness);
  const base = surface.baseColour;
  const f0 = base.map((c) => 0.04 + (c - 0.04) * surface.metalness) as unknown as Vec3;
  const diffuse = scale(base, 1 - surface.metalness);
  let sum: Vec3 = surface.emission;
  for (const light of [KEY, FILL]) {
    const nl = dot(n, light.towards);
    if (nl <= 0) continue;
    const half = normalise(add(light.towards, view));
    const nh = Math.max(0, dot(n, half)), vh = Math.max(0, dot(view, half));
    const d = alpha * alpha / (Math.PI * (nh * nh * (alpha * alpha - 1) + 1) ** 2);
    const visibility = 0.5 / (nl * Math.sqrt(nv * nv * (1 - alpha * alpha) + alpha * alpha) + nv * Math.sqrt(nl * nl * (1 - alpha * alpha) + alpha * alpha));
    const fresnel = (1 - vh) ** 5;
    sum = add(sum, [0, 1, 2].map((k) => {
      const f = (f0[k] as number) + (1 - (f0[k] as number)) * fresnel;
      return ((diffuse[k] as number) * (1 - f) / Math.PI + f * d * visibility) * nl * (light.colour[k] as number);
    }) as unknown as Vec3);
  }
  const mirror = sub(scale(n, 2 * nv), view);
  const [around, reflected] = [surroundings(n, 1), surroundings(mirror, surface.roughness)];
  const grazing = (1 - nv) ** 5 * (1 - surface.roughness);
  return add(sum, [0, 1, 2].map((k) => (diffuse[k] as number) * (around[k] as number)
    + ((f0[k] as number) + (1 - (f0[k] as number)) * grazing) * (reflected[k] as number)) as unknown as Vec3);
}

/** A gentle shoulder for pictures, then sRGB, 0–255. */
export function displayByte(linear: number): number {
  const toned = linear < 0.8 ? linear : 1 - 0.2 * Math.exp(-(linear - 0.8) / 0.2);
  return Math.round(255 * encodeSrgb(Math.min(1, Math.max(0, toned))));
}

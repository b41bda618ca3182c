import type { Vec3 } from '../base/vector';
import { add, dot, normalise, scale, sub } from '../base/vector';
import type { SurfaceParameter } from '../nodes/parameters/lanes';
import type { ParameterWidths } from '../nodes/parameters/widths.generated';
import { SURFACE_ENTRIES, laneIndices } from '../nodes/surface-parameters';
import { encodeSrgb } from './colour-science';

/** One point's surface; parameters as SURFACE_PARAMETERS names them. */
export type SurfaceSample = {
  readonly [N in SurfaceParameter]: ParameterWidths[N] extends 3 ? Vec3 : number;
};

const READERS = SURFACE_ENTRIES.map(([name, { lanes }]) => ({
  name,
  isTriple: lanes === 3,
  first: laneIndices(name)[0] ?? -1,
}));
/** One point out of lanes as SURFACE_LANES. */
export function sampleSurface(lanes: readonly Float32Array[], point: number): SurfaceSample {
  const sample: Record<string, number | Vec3> = {};
  for (const { name, isTriple, first } of READERS) {
    const x = lanes[first]?.[point] ?? 0;
    sample[name] = isTriple
      ? [x, lanes[first + 1]?.[point] ?? 0, lanes[first + 2]?.[point] ?? 0]
      : x;
  }
  return sample as unknown as SurfaceSample;
}

/** Light that arrives at a point: from where (unit), and how much of it. */
export interface PointLight {
  readonly towards: Vec3;
  readonly colour: Vec3;
}
/**
 * What lights a point: lights, and the studio around it, turned about the vertical (degrees) and
 * dimmed.
 */
export interface ShadedScene {
  readonly lights: readonly PointLight[];
  readonly surroundings: { readonly turn: number; readonly strength: number };
}

/** The middle of the studio's window. */
const WINDOW: Vec3 = normalise([0.5, 0.75, 0.6]);

/** The studio surroundings: brighter above, a soft horizon. */
function surroundingsOf(scene: ShadedScene): (direction: Vec3, roughness: number) => Vec3 {
  const { turn, strength } = scene.surroundings;
  const cosine = Math.cos((turn * Math.PI) / 180),
    sine = Math.sin((turn * Math.PI) / 180);
  return ([x, y, z], roughness) =>
    scale(studio([cosine * x - sine * z, y, cosine * z + sine * x], roughness), strength);
}

function studio(direction: Vec3, roughness: number): Vec3 {
  const up = direction[1] * (1 - 0.5 * roughness);
  const sky = 0.35 + 0.4 * Math.max(0, up) + 0.1 * Math.min(0, up);
  const window = Math.max(0, dot(direction, WINDOW));
  const glow = 0.6 * Math.pow(window, 2 + 60 * (1 - roughness) ** 2);
  return [sky + glow, sky + glow, sky * 1.02 + glow];
}

/**
 * Trowbridge-Reitz distribution times the height-correlated visibility. Source: glTF 2.0, appendix
 * B.
 */
function reflectionLobe(roughness: number, nh: number, nl: number, nv: number): number {
  const alpha2 = Math.max(0.02, roughness * roughness) ** 2;
  const distribution = alpha2 / (Math.PI * (nh * nh * (alpha2 - 1) + 1) ** 2);
  return (
    (distribution * 0.5) /
    (nl * Math.sqrt(nv * nv * (1 - alpha2) + alpha2) +
      nv * Math.sqrt(nl * nl * (1 - alpha2) + alpha2))
  );
}

/**
 * Inverted-Gaussian distribution of cloth with Neubelt's visibility. Source: KHR_materials_sheen.
 */
function sheenLobe(roughness: number, nh: number, nl: number, nv: number): number {
  const inverse = 1 / Math.max(0.07, roughness) ** 2;
  return (
    ((2 + inverse) * Math.pow(Math.max(0, 1 - nh * nh), inverse / 2)) /
    (2 * Math.PI) /
    (4 * (nl + nv - nl * nv))
  );
}

const clearReflectance = (index: number): number => ((index - 1) / (index + 1)) ** 2;
const eachChannel = (f: (k: 0 | 1 | 2) => number): Vec3 => [f(0), f(1), f(2)];

/**
 * Shades one point on the processor, for pictures made on the server and for the cards: lights and
 * surroundings; reflection, coat, sheen, what shines through (the surroundings, without a
 * thickness) and unlit surfaces. Returns linear light. Source of the reflection model: glTF 2.0
 * specification, appendix B, and its extensions.
 */
export function shadePoint(surface: SurfaceSample, view: Vec3, scene: ShadedScene): Vec3 {
  if (surface.unlit >= 1) return surface.baseColour;
  const { normal: n, baseColour: base, metalness, roughness, sheen, coat } = surface;
  const nv = Math.max(1e-3, dot(n, view));
  const bare = clearReflectance(surface.refractiveIndex) * surface.specular;
  const f0 = eachChannel(
    (k) => Math.min(1, bare * surface.specularColour[k]) * (1 - metalness) + base[k] * metalness,
  );
  const through = surface.transmission * (1 - metalness);
  const diffuse = scale(base, (1 - metalness) * (1 - through));
  const coated = coat * (0.04 + 0.96 * (1 - nv) ** 5);
  const cloth = Math.max(...sheen);
  let sum: Vec3 = [0, 0, 0];
  for (const light of scene.lights) {
    const nl = dot(n, light.towards);
    if (nl <= 0) continue;
    const half = normalise(add(light.towards, view));
    const nh = Math.max(0, dot(n, half)),
      vh = Math.max(0, dot(view, half));
    const lobe = reflectionLobe(roughness, nh, nl, nv),
      bloom = cloth > 0 ? sheenLobe(surface.sheenRoughness, nh, nl, nv) : 0;
    const varnish =
      coat > 0
        ? coat * (0.04 + 0.96 * (1 - vh) ** 5) * reflectionLobe(surface.coatRoughness, nh, nl, nv)
        : 0;
    sum = add(
      sum,
      eachChannel((k) => {
        const f = f0[k] + (1 - f0[k]) * (1 - vh) ** 5;
        const under =
          ((diffuse[k] * (1 - f)) / Math.PI + f * lobe) * (1 - 0.157 * cloth) + sheen[k] * bloom;
        return (under * (1 - coated) + varnish) * nl * light.colour[k];
      }),
    );
  }
  const surroundings = surroundingsOf(scene);
  const mirror = sub(scale(n, 2 * nv), view);
  const [around, reflected, varnished] = [
    surroundings(n, 1),
    surroundings(mirror, roughness),
    surroundings(mirror, surface.coatRoughness),
  ];
  const beyond = surroundings(scale(add(view, scale(n, 0.4 * (1 - nv))), -1), roughness);
  const grazing = (1 - nv) ** 5 * (1 - roughness) * surface.specular;
  const lit = add(
    sum,
    eachChannel((k) => {
      const f = f0[k] + (1 - f0[k]) * grazing;
      const under =
        diffuse[k] * around[k] +
        f * reflected[k] +
        through * (1 - f) * surface.transmissionColour[k] * beyond[k] +
        sheen[k] * (1 - nv) ** 3 * around[k] * 0.5;
      return under * (1 - coated) + coated * varnished[k] + surface.emission[k];
    }),
  );
  return surface.unlit > 0 ? add(scale(lit, 1 - surface.unlit), scale(base, surface.unlit)) : lit;
}

/** A gentle shoulder for pictures, then sRGB, 0–255. */
export function displayByte(linear: number): number {
  const toned = linear < 0.8 ? linear : 1 - 0.2 * Math.exp(-(linear - 0.8) / 0.2);
  return Math.round(255 * encodeSrgb(Math.min(1, Math.max(0, toned))));
}

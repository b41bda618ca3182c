import type { Vec3 } from '../base/vector';
import { add, dot, normalise, scale, sub } from '../base/vector';
import type { SurfaceParameter } from '../nodes/parameters/lanes';
import type { ParameterWidths } from '../nodes/parameters/widths.generated';
import { SURFACE_ENTRIES, laneIndices } from '../nodes/surface-parameters';
import { filteredRadiance, lobeReflectance } from './split-sum';

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

const { PI, max, min } = Math;
// What runs for every pixel makes few arrays and no functions.
type Channel = 0 | 1 | 2;
const CHANNELS: readonly Channel[] = [0, 1, 2];
const schlick = (f0: number, f90: number, cosine: number): number =>
  f0 + (f90 - f0) * (1 - cosine) ** 5;

/** No surface is a sharper mirror than this, so that lights have a highlight. */
const LEAST_ROUGHNESS = 0.045;
/** Reflectance of a coat seen straight on: an index of 1.5. */
const COAT_REFLECTANCE = 0.04;

/**
 * Trowbridge-Reitz distribution times the height-correlated visibility. Source: glTF 2.0, appendix
 * B.
 */
function reflectionLobe(roughness: number, nh: number, nl: number, nv: number): number {
  const alpha2 = max(LEAST_ROUGHNESS, roughness) ** 4;
  const distribution = alpha2 / (PI * (nh * nh * (alpha2 - 1) + 1) ** 2);
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
  const inverse = 1 / max(0.07, roughness) ** 2;
  return (
    ((2 + inverse) * Math.pow(max(0, 1 - nh * nh), inverse / 2)) /
    (2 * PI) /
    (4 * (nl + nv - nl * nv))
  );
}
/**
 * What that lobe reflects of even light. Source: a fit of the drawing library three.js (MIT) to
 * Estevez and Kulla, Production Friendly Microfacet Sheen BRDF, 2017.
 */
function sheenReflectance(roughness: number, nv: number): number {
  const r = max(0.07, roughness),
    inverse = 1 / (r + 0.1);
  const a = -1.9362 + 1.0678 * r + 0.4573 * r * r - 0.8469 * inverse,
    b = -0.6014 + 0.5538 * r - 0.467 * r * r - 0.1255 * inverse;
  return min(1, Math.exp(a * nv + b));
}

/** A surface and a view of it, with all that its lights and surroundings have in common. */
interface Seen {
  readonly surface: SurfaceSample;
  readonly view: Vec3;
  readonly nv: number;
  readonly roughness: number;
  /** Reflectance seen straight on and at the edge: of the clear layer, of what is metal too. */
  readonly clear: Vec3;
  readonly f0: Vec3;
  readonly f90: number;
  /** Scale and bias of what the lobe reflects of even light. */
  readonly reflects: readonly [number, number];
  readonly diffuse: Vec3;
}
const throughMetal = (clear: number, base: number, metalness: number): number =>
  clear + (base - clear) * metalness;
function look(surface: SurfaceSample, view: Vec3): Seen {
  const { baseColour, metalness, specular, specularColour, refractiveIndex } = surface;
  const nv = min(1, max(1e-3, dot(surface.normal, view)));
  const roughness = max(LEAST_ROUGHNESS, surface.roughness);
  const bare = ((refractiveIndex - 1) / (refractiveIndex + 1)) ** 2;
  const clear: Vec3 = [
    min(1, bare * specularColour[0]) * specular,
    min(1, bare * specularColour[1]) * specular,
    min(1, bare * specularColour[2]) * specular,
  ];
  return {
    surface,
    view,
    nv,
    roughness,
    clear,
    f0: [
      throughMetal(clear[0], baseColour[0], metalness),
      throughMetal(clear[1], baseColour[1], metalness),
      throughMetal(clear[2], baseColour[2], metalness),
    ],
    f90: specular + (1 - specular) * metalness,
    reflects: lobeReflectance(roughness, nv),
    diffuse: scale(baseColour, 1 - metalness),
  };
}

type Sum = [number, number, number];
/** Light of several kinds that leaves a point: what is mixed with the light that comes through. */
interface Leaving {
  readonly diffuse: Sum;
  readonly mirrored: Sum;
  readonly cloth: Sum;
  /** By the coat, before its amount. */
  readonly coat: Sum;
}
const NOTHING: Vec3 = [0, 0, 0];
const largest = ([r, g, b]: Vec3): number => max(r, g, b);

/** Adds what a light brings. */
function lightUp(seen: Seen, { towards, colour }: PointLight, into: Leaving): void {
  const { surface, view, nv, roughness, clear, f0, f90, diffuse, reflects } = seen;
  const { normal, sheen, sheenRoughness, coat, coatRoughness } = surface;
  const nl = min(1, dot(normal, towards));
  if (nl <= 0) return;
  const half = normalise(add(towards, view));
  const nh = min(1, max(0, dot(normal, half))),
    vh = min(1, max(0, dot(view, half)));
  const lobe = reflectionLobe(roughness, nh, nl, nv);
  const isCloth = largest(sheen) > 0;
  const bloom = isCloth ? sheenLobe(sheenRoughness, nh, nl, nv) : 0;
  const left = isCloth
    ? 1 -
      largest(sheen) *
        max(sheenReflectance(sheenRoughness, nv), sheenReflectance(sheenRoughness, nl))
    : 1;
  const lost = 1 / (reflects[0] + reflects[1]) - 1;
  const varnish =
    coat > 0 ? schlick(COAT_REFLECTANCE, 1, vh) * reflectionLobe(coatRoughness, nh, nl, nv) : 0;
  for (const k of CHANNELS) {
    const arriving = colour[k] * nl;
    into.diffuse[k] += (arriving * left * diffuse[k] * (1 - schlick(clear[k], f90, vh))) / PI;
    into.mirrored[k] += arriving * left * schlick(f0[k], f90, vh) * lobe * (1 + f0[k] * lost);
    into.cloth[k] += arriving * sheen[k] * bloom;
    into.coat[k] += arriving * varnish;
  }
}

/**
 * What a lobe that reflects `once` of even light reflects after more than one bounce. Source:
 * C. Fdez-Agüera, A Multiple-Scattering Microfacet Model, JCGT 2019.
 */
function bounced(once: number, f0: number, [x, y]: readonly [number, number]): number {
  const missing = 1 - x - y,
    mean = f0 + (1 - f0) / 21;
  return (once * mean * missing) / (1 - missing * mean);
}

/** The studio around a scene as it is turned; neutral, a single channel. */
interface Studio {
  readonly cosine: number;
  readonly sine: number;
  readonly strength: number;
}
const studioIn = ({ surroundings: { turn, strength } }: ShadedScene): Studio => ({
  cosine: Math.cos((turn * PI) / 180),
  sine: Math.sin((turn * PI) / 180),
  strength,
});
const radiance = (studio: Studio, [x, y, z]: Vec3, roughness: number): number =>
  studio.strength *
  filteredRadiance(
    [studio.cosine * x - studio.sine * z, y, studio.cosine * z + studio.sine * x],
    roughness,
  );

/** Rough surfaces gather nothing from behind their tangent plane. */
const lean = (mirror: Vec3, normal: Vec3, roughness: number): Vec3 =>
  normalise(add(scale(mirror, 1 - roughness ** 4), scale(normal, roughness ** 4)));

/** Adds what the surroundings bring. */
function surround(seen: Seen, studio: Studio, into: Leaving): void {
  const { surface, view, nv, roughness, clear, f90, diffuse, reflects } = seen;
  const { normal, metalness, baseColour, sheen, sheenRoughness, coat, coatRoughness } = surface;
  const mirror = sub(scale(normal, 2 * nv), view);
  const around = radiance(studio, normal, 1),
    reflected = radiance(studio, lean(mirror, normal, roughness), roughness);
  const bloom = largest(sheen) > 0 ? sheenReflectance(sheenRoughness, nv) : 0;
  const left = 1 - largest(sheen) * bloom;
  for (const k of CHANNELS) {
    const once = clear[k] * reflects[0] + f90 * reflects[1],
      again = bounced(once, clear[k], reflects);
    const metalOnce = baseColour[k] * reflects[0] + f90 * reflects[1],
      metalAgain = bounced(metalOnce, baseColour[k], reflects);
    into.diffuse[k] += diffuse[k] * (1 - once - again) * around * left;
    into.mirrored[k] +=
      (throughMetal(once, metalOnce, metalness) * reflected +
        throughMetal(again, metalAgain, metalness) * around) *
      left;
    into.cloth[k] += sheen[k] * (bloom * around);
  }
  if (coat <= 0) return;
  const [scaleOfCoat, bias] = lobeReflectance(coatRoughness, nv);
  const varnish =
    radiance(studio, lean(mirror, normal, coatRoughness), coatRoughness) *
    (COAT_REFLECTANCE * scaleOfCoat + bias);
  for (const k of CHANNELS) into.coat[k] += varnish;
}

/** The direction of a ray that enters a surface; `index` of refraction, at least 1. */
function refract(view: Vec3, normal: Vec3, index: number): Vec3 {
  const eta = 1 / max(1, index),
    nv = dot(normal, view);
  const inward = Math.sqrt(max(0, 1 - eta * eta * (1 - nv * nv)));
  return sub(scale(normal, eta * nv - inward), scale(view, eta));
}

/** What is seen through a surface: the surroundings, without a thickness, each colour bent. */
function through({ surface, view, roughness, reflects, f0, f90 }: Seen, studio: Studio): Vec3 {
  const { normal, refractiveIndex, dispersion, transmissionColour } = surface;
  const spread = (refractiveIndex - 1) * 0.025 * dispersion;
  const passed: Sum = [0, 0, 0];
  for (const k of CHANNELS) {
    const bent = refract(view, normal, refractiveIndex + spread * (k - 1));
    const kept = 1 - f0[k] * reflects[0] - f90 * reflects[1];
    passed[k] = radiance(studio, bent, roughness) * min(1, transmissionColour[k]) * kept;
  }
  return passed;
}

/**
 * Shades one point on the processor, for pictures made on the server and for the cards, as the
 * stage does: lights and surroundings; reflection, coat, sheen, what shines through (the
 * surroundings, without a thickness) and unlit surfaces. Returns linear light. Source of the
 * reflection model: glTF 2.0, appendix B, and its extensions.
 */
export function shadePoint(surface: SurfaceSample, view: Vec3, scene: ShadedScene): Vec3 {
  const { unlit, transmission, metalness, baseColour, emission, coat } = surface;
  if (unlit >= 1) return baseColour;
  const seen = look(surface, view);
  const studio = studioIn(scene);
  const leaving: Leaving = {
    diffuse: [0, 0, 0],
    mirrored: [0, 0, 0],
    cloth: [0, 0, 0],
    coat: [0, 0, 0],
  };
  surround(seen, studio, leaving);
  for (const light of scene.lights) lightUp(seen, light, leaving);
  const share = transmission * (1 - metalness);
  const passed = share > 0 ? through(seen, studio) : NOTHING;
  const covered = coat * schlick(COAT_REFLECTANCE, 1, seen.nv);
  const lit: Sum = [0, 0, 0];
  for (const k of CHANNELS) {
    const diffuse = leaving.diffuse[k];
    const body = diffuse + (passed[k] - diffuse) * share;
    const under = body + leaving.mirrored[k] + emission[k] + leaving.cloth[k];
    lit[k] = under * (1 - covered) + leaving.coat[k] * coat;
  }
  return unlit > 0 ? add(scale(lit, 1 - unlit), scale(baseColour, unlit)) : lit;
}

import type { Vec3 } from '../base/vector';
import { add, dot, normalise, scale, sub } from '../base/vector';
import type { SurfaceParameter } from '../nodes/parameters/lanes';
import type { ParameterWidths } from '../nodes/parameters/widths.generated';
import { SURFACE_ENTRIES, laneIndices } from '../nodes/surface-parameters';
import { encodeSrgb } from './colour-science';
import { filteredRadiance, lobeReflectance } from './split-sum';
import { toneMap } from './tone';

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
const three = <T>(f: (k: 0 | 1 | 2) => T): readonly [T, T, T] => [f(0), f(1), f(2)];
const eachChannel: (f: (k: 0 | 1 | 2) => number) => Vec3 = three;
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
function look(surface: SurfaceSample, view: Vec3): Seen {
  const { baseColour, metalness, specular, specularColour, refractiveIndex } = surface;
  const nv = min(1, max(1e-3, dot(surface.normal, view)));
  const roughness = max(LEAST_ROUGHNESS, surface.roughness);
  const bare = ((refractiveIndex - 1) / (refractiveIndex + 1)) ** 2;
  const clear = eachChannel((k) => min(1, bare * specularColour[k]) * specular);
  return {
    surface,
    view,
    nv,
    roughness,
    clear,
    f0: eachChannel((k) => clear[k] + (baseColour[k] - clear[k]) * metalness),
    f90: specular + (1 - specular) * metalness,
    reflects: lobeReflectance(roughness, nv),
    diffuse: scale(baseColour, 1 - metalness),
  };
}

/** Light of several kinds that leaves a point: what is mixed with the light that comes through. */
interface Leaving {
  readonly diffuse: Vec3;
  readonly mirrored: Vec3;
  readonly cloth: Vec3;
  /** By the coat, before its amount. */
  readonly coat: Vec3;
}
const NOTHING: Vec3 = [0, 0, 0];
const largest = (colour: Vec3): number => max(...colour);

/** What a light brings. */
function lightUp({ surface, view, nv, ...seen }: Seen, { towards, colour }: PointLight): Leaving {
  const { normal, sheen, sheenRoughness, coat, coatRoughness } = surface;
  const nl = min(1, dot(normal, towards));
  if (nl <= 0) return { diffuse: NOTHING, mirrored: NOTHING, cloth: NOTHING, coat: NOTHING };
  const half = normalise(add(towards, view));
  const nh = min(1, max(0, dot(normal, half))),
    vh = min(1, max(0, dot(view, half)));
  const lobe = reflectionLobe(seen.roughness, nh, nl, nv);
  const isCloth = largest(sheen) > 0;
  const bloom = isCloth ? sheenLobe(sheenRoughness, nh, nl, nv) : 0;
  const left = isCloth
    ? 1 -
      largest(sheen) *
        max(sheenReflectance(sheenRoughness, nv), sheenReflectance(sheenRoughness, nl))
    : 1;
  const lost = 1 / (seen.reflects[0] + seen.reflects[1]) - 1;
  const varnish =
    coat > 0 ? schlick(COAT_REFLECTANCE, 1, vh) * reflectionLobe(coatRoughness, nh, nl, nv) : 0;
  const arriving = scale(colour, nl);
  return {
    diffuse: eachChannel(
      (k) =>
        (arriving[k] * left * seen.diffuse[k] * (1 - schlick(seen.clear[k], seen.f90, vh))) / PI,
    ),
    mirrored: eachChannel(
      (k) =>
        arriving[k] * left * schlick(seen.f0[k], seen.f90, vh) * lobe * (1 + seen.f0[k] * lost),
    ),
    cloth: eachChannel((k) => arriving[k] * sheen[k] * bloom),
    coat: scale(arriving, varnish),
  };
}

/**
 * What lobe reflects of even light once, and what it reflects after more than one bounce. Source:
 * C. Fdez-Agüera, A Multiple-Scattering Microfacet Model, JCGT 2019.
 */
function scattering(f0: number, f90: number, [x, y]: readonly [number, number]) {
  const once = f0 * x + f90 * y,
    missing = 1 - x - y,
    mean = f0 + (1 - f0) / 21;
  return { once, again: (once * mean * missing) / (1 - missing * mean) };
}

/** What the surroundings bring. */
function surround(seen: Seen, radiance: (from: Vec3, roughness: number) => number): Leaving {
  const { surface, view, nv, roughness } = seen;
  const { normal, metalness, baseColour, sheen, sheenRoughness, coat, coatRoughness } = surface;
  const mirror = sub(scale(normal, 2 * nv), view);
  /** Rough surfaces gather nothing from behind their tangent plane. */
  const lean = (r: number): Vec3 =>
    normalise(add(scale(mirror, 1 - r ** 4), scale(normal, r ** 4)));
  const around = radiance(normal, 1),
    reflected = radiance(lean(roughness), roughness);
  const bloom = largest(sheen) > 0 ? sheenReflectance(sheenRoughness, nv) : 0;
  const left = 1 - largest(sheen) * bloom;
  const layers = three((k) => {
    const clear = scattering(seen.clear[k], seen.f90, seen.reflects),
      metal = scattering(baseColour[k], seen.f90, seen.reflects);
    return {
      diffuse: seen.diffuse[k] * (1 - clear.once - clear.again),
      once: clear.once + (metal.once - clear.once) * metalness,
      again: clear.again + (metal.again - clear.again) * metalness,
    };
  });
  const part = (f: (layer: (typeof layers)[0]) => number): Vec3 =>
    eachChannel((k) => f(layers[k]) * left);
  const [scaleOfCoat, bias] = coat > 0 ? lobeReflectance(coatRoughness, nv) : [0, 0];
  const varnish =
    coat > 0
      ? radiance(lean(coatRoughness), coatRoughness) * (COAT_REFLECTANCE * scaleOfCoat + bias)
      : 0;
  return {
    diffuse: part((layer) => layer.diffuse * around),
    mirrored: part((layer) => layer.once * reflected + layer.again * around),
    cloth: scale(sheen, bloom * around),
    coat: [varnish, varnish, varnish],
  };
}

/** The direction of a ray that enters a surface; `index` of refraction, at least 1. */
function refract(view: Vec3, normal: Vec3, index: number): Vec3 {
  const eta = 1 / max(1, index),
    nv = dot(normal, view);
  const inward = Math.sqrt(max(0, 1 - eta * eta * (1 - nv * nv)));
  return sub(scale(normal, eta * nv - inward), scale(view, eta));
}

/** What is seen through a surface: the surroundings, without a thickness, each colour bent. */
function through(
  { surface, view, roughness, reflects, f0, f90 }: Seen,
  radiance: (from: Vec3, roughness: number) => number,
): Vec3 {
  const { normal, refractiveIndex, dispersion, transmissionColour } = surface;
  const spread = (refractiveIndex - 1) * 0.025 * dispersion;
  return eachChannel((k) => {
    const bent = refract(view, normal, refractiveIndex + spread * (k - 1));
    const kept = 1 - f0[k] * reflects[0] - f90 * reflects[1];
    return radiance(bent, roughness) * min(1, transmissionColour[k]) * kept;
  });
}

/** The studio around a scene: a single channel, it is neutral. */
function radianceIn({ surroundings: { turn, strength } }: ShadedScene) {
  const cosine = Math.cos((turn * PI) / 180),
    sine = Math.sin((turn * PI) / 180);
  return ([x, y, z]: Vec3, roughness: number): number =>
    strength * filteredRadiance([cosine * x - sine * z, y, cosine * z + sine * x], roughness);
}

/**
 * Shades one point on the processor, for pictures made on the server and for the cards, as the
 * stage does: lights and surroundings; reflection, coat, sheen, what shines through (the
 * surroundings, without a thickness) and unlit surfaces. Returns linear light. Source of the
 * reflection model: glTF 2.0 specification, appendix B, and its extensions.
 */
export function shadePoint(surface: SurfaceSample, view: Vec3, scene: ShadedScene): Vec3 {
  if (surface.unlit >= 1) return surface.baseColour;
  const seen = look(surface, view);
  const radiance = radianceIn(scene);
  const parts = [surround(seen, radiance), ...scene.lights.map((light) => lightUp(seen, light))];
  const sum = (part: keyof Leaving): Vec3 =>
    parts.reduce((total, each) => add(total, each[part]), NOTHING);
  const [diffuse, mirrored, cloth, coat] = [
    sum('diffuse'),
    sum('mirrored'),
    sum('cloth'),
    sum('coat'),
  ];
  const share = surface.transmission * (1 - surface.metalness);
  const passed = share > 0 ? through(seen, radiance) : NOTHING;
  const covered = surface.coat * schlick(COAT_REFLECTANCE, 1, seen.nv);
  const lit = eachChannel((k) => {
    const body = diffuse[k] + (passed[k] - diffuse[k]) * share;
    const under = body + mirrored[k] + surface.emission[k] + cloth[k];
    return under * (1 - covered) + coat[k] * surface.coat;
  });
  return surface.unlit > 0
    ? add(scale(lit, 1 - surface.unlit), scale(surface.baseColour, surface.unlit))
    : lit;
}

/** Linear light as a display shows it: toned unless the surface is unlit; sRGB, 0–255. */
export function displayColour(light: Vec3, unlit: number): Vec3 {
  const toned = unlit >= 1 ? light : toneMap(light);
  return eachChannel((k) => Math.round(255 * encodeSrgb(min(1, max(0, toned[k])))));
}

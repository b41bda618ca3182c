import * as THREE from 'three';
import {
  CUT_OFF,
  NORMAL_TARGET,
  PLAIN_TARGETS,
  featureSwitches,
  surfaceReads,
} from '@/core/surface/stage-layout';
import type { Appearance } from '@/core/surface/stage-layout';

/**
 * At a silhouette a pixel may be drawn whose own place in the buffer is empty: then a neighbour's
 * serves.
 */
const COVERED = `
ivec2 coveredPlace(highp sampler2D flags) {
  ivec2 here = ivec2(gl_FragCoord.xy);
  if (texelFetch(flags, here, 0).w > 0.5) return here;
  for (int k = 0; k < 8; k++) {
    ivec2 step = ivec2((k + 1) % 3 - 1, k < 3 ? 1 : k < 6 ? -1 : 0);
    if (k > 5) step = ivec2(k == 6 ? 1 : -1, 0);
    if (texelFetch(flags, here + step, 0).w > 0.5) return here + step;
  }
  return here;
}`;

const declareSurface = (_: unknown, k: number): string =>
  `uniform highp sampler2D surface${String(k)};`;

/**
 * Light that comes through: what the library finds behind the surface, and the surroundings where
 * nothing stands there, bent on entering, each colour by its own index (the spread of
 * KHR_materials_dispersion).
 */
const TRANSMISSION = `
#ifdef USE_TRANSMISSION
material.transmission = transmission * (1.0 - metalnessFactor);
material.thickness = thickness;
material.attenuationDistance = attenuationDistance;
material.attenuationColor = attenuationColor;
material.transmissionAlpha = 1.0;
vec3 throughColour = min(transmissionColour, vec3(1.0));
vec3 towardsEye = normalize(cameraPosition - vWorldPosition);
vec3 outward = transformNormalByInverseViewMatrix(normal, viewMatrix);
float spread = (material.ior - 1.0) * 0.025 * dispersion;
vec4 behind = getIBLVolumeRefraction(outward, towardsEye, material.roughness, throughColour,
  material.specularColorBlended, material.specularF90, vWorldPosition, modelMatrix, viewMatrix,
  projectionMatrix, dispersion, material.ior, material.thickness, material.attenuationColor,
  material.attenuationDistance);
vec3 around = vec3(0.0);
#ifdef ENVMAP_TYPE_PMREM
for (int k = 0; k < 3; k++) {
  vec3 bent = refract(-towardsEye, outward, 1.0 / max(1.0, material.ior + spread * float(k - 1)));
  around[k] = textureLod(envMap, envMapRotation * bent, roughnessToMip(material.roughness))[k];
}
#endif
vec3 kept = throughColour * (1.0 - EnvironmentBRDF(normal, geometryViewDir,
  material.specularColorBlended, material.specularF90, material.roughness));
// Where nothing stands behind, the library puts white of an alpha of one half.
float open = 2.0 - 2.0 * behind.a;
vec3 standing = behind.rgb - (1.0 - behind.a) * kept;
vec3 passed = max(standing, 0.0) + open * around * kept * envMapIntensity;
totalDiffuse = mix(totalDiffuse, passed, material.transmission);
#endif`;

/**
 * What the stage's look changes in shading, shared by all its materials: clay or not, and how much
 * differences are raised.
 */
export interface LookUniforms {
  readonly clay: { value: number };
  readonly raise: { value: number };
}
export const makeLookUniforms = (): LookUniforms => ({ clay: { value: 0 }, raise: { value: 0 } });
/** Linear reflectance of the clay: middle grey. */
const CLAY = 0.18;
/**
 * How often differences count where they are exaggerated: of colours to middle grey, of normals to
 * the model's own.
 */
const RAISED = { colour: 2.5, relief: 3 } as const;

/** A number that differs for each set of things the shading must do; each is compiled once. */
export const variantKey = ({ features, opacityMode }: Appearance): string =>
  [opacityMode, ...features].join(' ');
export const isPlain = ({ features }: Appearance): boolean => features.length === 0;

/** The library's material for a set of features; its own values only switch the features on. */
function baseMaterial(appearance: Appearance): THREE.MeshStandardMaterial {
  const { features, opacityMode } = appearance;
  const shared: THREE.MeshStandardMaterialParameters = {
    side: THREE.DoubleSide,
    transparent: opacityMode === 'blend',
    alphaHash: opacityMode === 'dithered',
    alphaTest: opacityMode === 'cut-off' ? CUT_OFF : 0,
  };
  if (isPlain(appearance)) return new THREE.MeshStandardMaterial(shared);
  return new THREE.MeshPhysicalMaterial({
    ...shared,
    ...featureSwitches(features),
  });
}

/** What takes the place of the library's own chunks: the parameters in place of its maps. */
const patches = (isOpaque: boolean): Readonly<Record<string, string>> => ({
  map_fragment: `
diffuseColor = vec4(surfaceBaseColour, ${isOpaque ? '1.0' : 'surfaceOpacity'});
if (covered < 0.5 || diffuseColor.a < 0.004) discard;
float middle = ${String(CLAY)};
vec3 raised = middle + (diffuseColor.rgb - middle) * ${RAISED.colour.toFixed(1)};
diffuseColor.rgb = mix(diffuseColor.rgb, clamp(raised, 0.0, 1.0), raise);
diffuseColor.rgb = mix(diffuseColor.rgb, vec3(middle), clay);`,
  roughnessmap_fragment: 'float roughnessFactor = mix(surfaceRoughness, 0.65, clay);',
  metalnessmap_fragment: 'float metalnessFactor = surfaceMetalness * (1.0 - clay);',
  normal_fragment_maps: `
vec3 ownNormal = normalize(normalMatrix * surfaceNormal) * faceDirection;
float relief = 1.0 + ${(RAISED.relief - 1).toFixed(1)} * raise;
normal = normalize(mix(normal, ownNormal, relief));`,
  emissivemap_fragment: 'totalEmissiveRadiance = surfaceEmission * (1.0 - clay);',
  transmission_fragment: TRANSMISSION,
  // What is not lit is neither lit nor toned.
  tonemapping_fragment: `#include <tonemapping_fragment>
gl_FragColor.rgb = mix(gl_FragColor.rgb, surfaceBaseColour, surfaceUnlit * (1.0 - clay));`,
});

/**
 * A fixed shading material: three's own, reading the surface's parameters at its own pixel from the
 * buffer that the network's program filled, under names that hide the library's uniforms. Compiled
 * once for each set of features; a surface of paint and metal needs the smallest.
 */
export function makeSurfaceMaterial(
  textures: readonly THREE.Texture[],
  appearance: Appearance,
  look: LookUniforms,
): THREE.MeshStandardMaterial {
  const material = baseMaterial(appearance);
  const used = isPlain(appearance) ? textures.slice(0, PLAIN_TARGETS) : textures;
  const uniforms = Object.fromEntries(
    used.map((texture, k) => [`surface${String(k)}`, { value: texture }]),
  );
  const flags = `surface${String(NORMAL_TARGET)}`;
  material.customProgramCacheKey = () => variantKey(appearance);
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, uniforms, look);
    const opened = shader.fragmentShader.replace(
      'void main() {',
      `${used.map(declareSurface).join('\n')}
uniform mat3 normalMatrix; uniform float clay; uniform float raise;
${COVERED}
void main() {
ivec2 place = coveredPlace(${flags});
float covered = texelFetch(${flags}, place, 0).w;
${surfaceReads(used.length)}`,
    );
    shader.fragmentShader = Object.entries(patches(appearance.opacityMode === 'opaque')).reduce(
      (text, [chunk, replacement]) => text.replace(`#include <${chunk}>`, () => replacement),
      opened,
    );
  };
  return material;
}

/** How a flat value is read: as it is, with its limits marked, or by its sign. */
export const READINGS = { plain: 0, limits: 1, signed: 2 } as const;
/** In place of the number of a channel: all of them are shown. */
export const ALL_CHANNELS = -1;
/** Values beyond 0–1 by less are rounding. */
const ROUNDING = 1e-4;
/**
 * Marks that read in grey: stripes falling for below 0, rising for above 1, both for no number,
 * dots for what lies between. By sign: darker and bluish below 0, lighter and warm above, grey
 * at 0.
 */
const READ_VALUES = `
float stripes(float across) { return step(0.5, fract(across / 8.0)); }
vec3 markLimits(vec3 value, vec3 plain) {
  vec2 at = gl_FragCoord.xy;
  float falling = stripes(at.x + at.y), rising = stripes(at.x - at.y);
  float least = min(min(value.r, value.g), value.b);
  float most = max(max(value.r, value.g), value.b);
  bool isNumber = least == least && most == most && abs(least) < 1e30 && abs(most) < 1e30;
  if (!isNumber) return vec3(falling == rising ? 0.95 : 0.05);
  if (least < -${ROUNDING.toFixed(4)}) return mix(vec3(0.0), vec3(0.45), falling);
  if (most > 1.0 + ${ROUNDING.toFixed(4)}) return mix(vec3(0.6), vec3(1.0), rising);
  vec3 calm = mix(vec3(0.2), vec3(0.8), plain);
  bool isBetween = least > ${ROUNDING.toFixed(4)} && most < 1.0 - ${ROUNDING.toFixed(4)};
  bool isDot = all(lessThan(mod(at, 8.0), vec2(2.0)));
  return isBetween && isDot ? mix(vec3(1.0), vec3(0.0), step(0.5, plain)) : calm;
}
vec3 bySign(vec3 value, float full) {
  float share = clamp(value.r / max(full, 1e-20), -1.0, 1.0);
  return share < 0.0 ? mix(vec3(0.5), vec3(0.05, 0.16, 0.45), -share)
    : mix(vec3(0.5), vec3(1.0, 0.83, 0.5), share);
}`;

/** How a value is shown: as a colour or as data, and which channel alone. */
export interface ShownAs {
  readonly isColour: { value: boolean };
  readonly channel: { value: number };
}

/** Values shown flat: no light, no tone mapping. Colours get the sRGB curve, data does not. */
export function makeFlatMaterial(texture: THREE.Texture, shownAs: ShownAs): THREE.ShaderMaterial {
  return new THREE.ShaderMaterial({
    glslVersion: THREE.GLSL3,
    side: THREE.DoubleSide,
    toneMapped: false,
    uniforms: {
      shown: { value: texture },
      ...shownAs,
      stretch: { value: new THREE.Vector2(0, 1) },
      reading: { value: READINGS.plain },
    },
    vertexShader:
      'void main() { gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }',
    fragmentShader: `uniform highp sampler2D shown;
      uniform bool isColour;
      uniform vec2 stretch;
      uniform int reading;
      uniform int channel;
      out vec4 result;
      ${COVERED}
      ${READ_VALUES}
      vec3 encode(vec3 c) {
        vec3 curved = 1.055 * pow(max(c, 0.0), vec3(1.0 / 2.4)) - 0.055;
        return mix(c * 12.92, curved, step(0.0031308, c));
      }
      void main() {
        vec3 all = texelFetch(shown, coveredPlace(shown), 0).rgb;
        vec3 arrived = channel < 0 ? all : vec3(all[channel]);
        vec3 value = clamp((arrived - stretch.x) / (stretch.y - stretch.x), 0.0, 1.0);
        vec3 plain = isColour && channel < 0 ? encode(value) : value;
        result = vec4(reading == ${String(READINGS.limits)} ? markLimits(arrived, plain)
          : reading == ${String(READINGS.signed)} ? bySign(arrived, stretch.y) : plain, 1.0);
      }`,
  });
}

/** A pinned value painted on lit clay: dark to light for numbers, as they are for colours. */
export function makeClayValueMaterial(
  texture: THREE.Texture,
  shownAs: ShownAs,
): THREE.MeshStandardMaterial {
  const material = new THREE.MeshStandardMaterial({ side: THREE.DoubleSide, roughness: 0.65 });
  material.customProgramCacheKey = () => 'clay value';
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, { shown: { value: texture }, ...shownAs });
    shader.fragmentShader = shader.fragmentShader
      .replace(
        'void main() {',
        `uniform highp sampler2D shown; uniform bool isColour;
uniform int channel;\n${COVERED}\nvoid main() {`,
      )
      .replace(
        '#include <map_fragment>',
        `vec4 shownHere = texelFetch(shown, coveredPlace(shown), 0);
if (shownHere.w < 0.5) discard;
vec3 one = channel < 0 ? shownHere.rgb : vec3(shownHere[channel]);
vec3 painted = clamp(one, 0.0, 1.0);
diffuseColor.rgb = isColour && channel < 0 ? painted : mix(vec3(0.02), vec3(0.55), painted);`,
      );
  };
  return material;
}

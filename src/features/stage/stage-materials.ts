import * as THREE from 'three';

/** At a silhouette a pixel may be drawn whose own place in the buffer is empty: then a neighbour's serves. */
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

/**
 * The fixed shading material: three's physically based one, reading the surface's parameters at its own pixel from the
 * buffer that the network's program filled. Compiled once.
 */
export function makeSurfaceMaterial(textures: readonly THREE.Texture[]): THREE.MeshStandardMaterial {
  const material = new THREE.MeshStandardMaterial({ side: THREE.DoubleSide, transparent: true });
  const uniforms = Object.fromEntries(textures.map((texture, k) => [`surface${String(k)}`, { value: texture }]));
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, uniforms);
    const read = (k: number): string => `texelFetch(surface${String(k)}, place, 0)`;
    shader.fragmentShader = shader.fragmentShader
      .replace('void main() {', `${textures.map((_, k) => `uniform highp sampler2D surface${String(k)};`).join('\n')}\n${COVERED}\nvoid main() {\nivec2 place = coveredPlace(surface1);`)
      .replace('#include <map_fragment>', `vec4 surfaceColour = ${read(0)}; vec4 surfaceFinish = ${read(1)};\ndiffuseColor = vec4(surfaceColour.rgb, surfaceColour.a);\nif (diffuseColor.a < 0.004) discard;`)
      .replace('#include <roughnessmap_fragment>', 'float roughnessFactor = surfaceFinish.y;')
      .replace('#include <metalnessmap_fragment>', 'float metalnessFactor = surfaceFinish.x;')
      .replace('#include <normal_fragment_maps>', `normal = normalize((viewMatrix * vec4(${read(3)}.xyz, 0.0)).xyz) * faceDirection;`)
      .replace('#include <emissivemap_fragment>', `totalEmissiveRadiance = ${read(2)}.rgb;`);
  };
  return material;
}

/** Values shown flat: no light, no tone mapping. Colours get the sRGB curve, data does not. */
export function makeFlatMaterial(texture: THREE.Texture): THREE.ShaderMaterial {
  return new THREE.ShaderMaterial({
    glslVersion: THREE.GLSL3, side: THREE.DoubleSide, toneMapped: false,
    uniforms: { shown: { value: texture }, isColour: { value: false } },
    vertexShader: 'void main() { gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }',
    fragmentShader: `uniform highp sampler2D shown; uniform bool isColour; out vec4 result;
      ${COVERED}
      vec3 encode(vec3 c) { return mix(c * 12.92, 1.055 * pow(max(c, 0.0), vec3(1.0 / 2.4)) - 0.055, step(0.0031308, c)); }
      void main() { vec3 value = clamp(texelFetch(shown, coveredPlace(shown), 0).rgb, 0.0, 1.0); result = vec4(isColour ? encode(value) : value, 1.0); }`,
  });
}

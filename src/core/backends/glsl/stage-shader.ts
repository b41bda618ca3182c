import { isMapLane, parseLaneName, valueLane } from '../../base/lane-name';
import type { Lane, VectorLane } from '../../base/lane-name';
import type { LaneName } from '../../base/ids';
import type { EmittedGlsl, ValuesIn } from './emit';
import { declareValues, imageSampler, inputVariable } from './emit';

/** Text of the shaders that run a program once per visible point. */
export interface StageShader {
  readonly vertex: string;
  readonly fragment: string;
  readonly mapFields: readonly string[];
  /** Names of the model's attributes it reads; the k-th arrives as `extra…k`. */
  readonly attributes: readonly string[];
  readonly readsParts: boolean;
  readonly valuesIn: ValuesIn;
  readonly imageCount: number;
}

/** Where a program is drawn: as seen by the camera, or spread over the atlas. */
export type StageSpace = 'screen' | 'atlas';

const HEADER = 'precision highp float;\nprecision highp int;\nprecision highp sampler2D;\n';

/** The sampler that holds a mesh map. */
export const mapSampler = (index: number): string => `meshMap${String(index)}`;

const BILINEAR = `
vec4 readMap(sampler2D map, vec2 at) {
  ivec2 last = textureSize(map, 0) - 1;
  vec2 place = clamp(at * vec2(last + 1) - 0.5, vec2(0.0), vec2(last));
  ivec2 low = ivec2(floor(place));
  ivec2 high = min(low + 1, last);
  vec2 share = place - vec2(low);
  vec4 top = mix(texelFetch(map, low, 0), texelFetch(map, ivec2(high.x, low.y), 0), share.x);
  vec4 bottom = mix(texelFetch(map, ivec2(low.x, high.y), 0), texelFetch(map, high, 0), share.x);
  return mix(top, bottom, share.y);
}
vec3 slopeOf(float value, vec3 position, vec3 face) {
  vec3 sx = dFdx(position), sy = dFdy(position);
  vec3 r1 = cross(sy, face), r2 = cross(face, sx);
  float area = dot(sx, r1);
  return abs(area) > 1e-20 ? (dFdx(value) * r1 + dFdy(value) * r2) / area : vec3(0.0);
}`;

/** The vertex attribute that holds the k-th named attribute of the model. */
export const extraAttribute = (index: number): string => `extra${String(index)}`;

function declareInput(
  name: LaneName,
  mapFields: readonly LaneName[],
  attributes: readonly string[],
): string {
  const variable = inputVariable(name);
  const lane = parseLaneName(name);
  if (lane.of === 'map') {
    const component = lane.slope ? { x: 'y', y: 'z', z: 'w' }[lane.slope] : 'x';
    return `float ${variable} = map${String(mapFields.indexOf(valueLane(name)))}.${component};`;
  }
  const source = sourceOf(lane, attributes);
  return lane.slope
    ? `float ${variable} = slopeOf(${source}, vPosition, vFace).${lane.slope};`
    : `float ${variable} = ${source};`;
}

const VARYINGS: Record<VectorLane, string> = {
  position: 'vPosition',
  view: 'toEye',
  normal: 'unitNormal',
  faceNormal: 'vFace',
  uv: 'vUv',
  'part.centre': 'vPart',
};

function sourceOf(lane: Exclude<Lane, { of: 'map' }>, attributes: readonly string[]): string {
  if (lane.of === 'part.id') return 'vPart.w';
  if (lane.of === 'footprint') return '0.5 * (length(dFdx(vPosition)) + length(dFdy(vPosition)))';
  if (lane.of === 'attribute')
    return `vExtra${String(attributes.indexOf(lane.name))}.${lane.component}`;
  return `${VARYINGS[lane.of]}.${lane.component}`;
}

const declareImages = (glsl: EmittedGlsl): string =>
  Array.from({ length: glsl.imageCount }, (_, k) => `uniform sampler2D ${imageSampler(k)};`).join(
    '\n',
  );

const mapFieldsOf = (inputs: readonly LaneName[]): LaneName[] => [
  ...new Set(inputs.filter(isMapLane).map(valueLane)),
];
/** The attributes of the model that a program reads. */
const attributesOf = (inputs: readonly LaneName[]): string[] => [
  ...new Set(
    inputs.map(parseLaneName).flatMap((lane) => (lane.of === 'attribute' ? [lane.name] : [])),
  ),
];

const declareTarget = (k: string): string => `layout(location = ${k}) out vec4 target${k};`;

/**
 * Shaders that draw a mesh (attributes position, normal, face, uv, atlas) and write program outputs
 * to targets. `writes` are the statements that fill the targets; `$0`, `$1`, … stand for the
 * program's outputs.
 */
export function composeStageShader(
  glsl: EmittedGlsl,
  space: StageSpace,
  targets: number,
  writes: string,
): StageShader {
  const mapFields = mapFieldsOf(glsl.inputs);
  const attributes = attributesOf(glsl.inputs);
  const readsParts = glsl.inputs.some((name) => parseLaneName(name).of.startsWith('part.'));
  const extras = attributes.map((_, k) => String(k));
  const place =
    space === 'screen'
      ? 'projectionMatrix * modelViewMatrix * vec4(position, 1.0)'
      : 'vec4(atlas * 2.0 - 1.0, 0.0, 1.0)';
  const vertex = `${HEADER}
uniform mat4 projectionMatrix; uniform mat4 modelViewMatrix;
in vec3 position; in vec3 normal; in vec3 face; in vec2 uv; in vec2 atlas;
${readsParts ? 'in vec4 part; flat out vec4 vPart;' : ''}
${extras.map((k) => `in vec4 extra${k}; out vec4 vExtra${k};`).join('\n')}
out vec3 vPosition; out vec3 vNormal; flat out vec3 vFace; out vec2 vUv; out vec2 vAtlas;
void main() {
vPosition = position; vNormal = normal; vFace = face; vUv = uv; vAtlas = atlas;
${readsParts ? 'vPart = part;' : ''}
${extras.map((k) => `vExtra${k} = extra${k};`).join('\n')}
gl_Position = ${place};
}`;
  const fragment = `${HEADER}
${declareValues(glsl)}
${declareImages(glsl)}
${mapFields.map((_, k) => `uniform sampler2D ${mapSampler(k)};`).join('\n')}
/** Where the eye is, in the model's own space. */
uniform vec3 eye;
in vec3 vPosition; in vec3 vNormal; flat in vec3 vFace; in vec2 vUv; in vec2 vAtlas;
${readsParts ? 'flat in vec4 vPart;' : ''}
${extras.map((k) => `in vec4 vExtra${k};`).join('\n')}
${Array.from({ length: targets }, (_, k) => declareTarget(String(k))).join('\n')}
${BILINEAR}
${glsl.functions}
void main() {
vec3 unitNormal = normalize(vNormal);
vec3 toEye = normalize(eye - vPosition);
${mapFields.map((_, k) => `vec4 map${String(k)} = readMap(${mapSampler(k)}, vAtlas);`).join('\n')}
${glsl.inputs.map((name) => declareInput(name, mapFields, attributes)).join('\n')}
${glsl.statements}
${writes.replace(/\$(\d+)/g, (_, k: string) => glsl.outputs[Number(k)] ?? '0.0')}
}`;
  return {
    vertex,
    fragment,
    mapFields,
    attributes,
    readsParts,
    valuesIn: glsl.valuesIn,
    imageCount: glsl.imageCount,
  };
}

const readPoint = (name: string, row: number): string =>
  `float ${inputVariable(name)} = texelFetch(points, ivec2(point, ${String(row)}), 0).r;`;

/** How many outputs a point shader writes: four targets of four numbers each. */
export const POINT_OUTPUTS = 16;

/**
 * A fragment shader that runs a program on points stored in a texture (a row per input), for tests
 * of agreement.
 * @param first the output that becomes the first number; the next fifteen follow it
 */
export function composePointShader(glsl: EmittedGlsl, first: number): string {
  const numbers = Array.from({ length: POINT_OUTPUTS }, (_, k) => glsl.outputs[first + k] ?? '0.0');
  const targets = [0, 1, 2, 3].map((k) => ({
    declared: declareTarget(String(k)),
    written: `target${String(k)} = vec4(${numbers.slice(k * 4, k * 4 + 4).join(', ')});`,
  }));
  return `#version 300 es\n${HEADER}
${declareValues(glsl)}
${declareImages(glsl)}
uniform sampler2D points;
${targets.map(({ declared }) => declared).join('\n')}
${glsl.functions}
void main() {
int point = int(gl_FragCoord.x);
${glsl.inputs.map(readPoint).join('\n')}
${glsl.statements}
${targets.map(({ written }) => written).join('\n')}
}`;
}

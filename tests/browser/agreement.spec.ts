import type { Page } from '@playwright/test';
import { emitGlsl } from '@/core/backends/glsl/emit';
import {
  POINT_OUTPUTS,
  composePointShader,
  composeStageShader,
} from '@/core/backends/glsl/stage-shader';
import { SURFACE_LANES } from '@/core/nodes/surface-parameters';
import { NORMAL_TARGET, SURFACE_PLACES, surfaceWrites } from '@/core/surface/stage-layout';
import { compileNetwork, uniformsFor } from '@/core/compile/compile';
import { MODEL_UNIFORMS } from '@/core/compile/uniforms';
import type { CompiledNetwork } from '@/core/compile/compile';
import { bakeRows, makeBakeSession, pictureRows, planBake } from '@/core/evaluate/bake';
import { makeStageProgram } from '@/core/evaluate/stage-program';
import { getModelScale } from '@/core/evaluate/map-demands';
import { Builder } from '@/core/ir/builder';
import { mixBits } from '@/core/ir/library/hash';
import { seededRandom } from '@/core/base/random';
import type { NetworkDocument } from '@/core/graph/document';
import { readModel } from '@/core/exchange/read-model';
import { MeshAnalysis } from '@/core/mesh/analysis';
import { encodeSrgb } from '@/core/surface/colour-science';
import { NODES } from '@/core/nodes/registry.generated';
import { readFileSync } from 'node:fs';
import { evaluateWasm } from '../support/agreement';
import type { NodeDefinition } from '@/core/nodes/define';
import { outputKey } from '@/core/graph/result-key';
import {
  TEST_SCALE,
  bindTestImages,
  documentOf,
  node,
  optionVariants,
  randomLanes,
} from '../support/networks';
import { POINTS, runShaders } from './support/shaders';
import type { ShaderRun } from './support/shaders';
import { expect, test } from './studio';

const padded = (values: ArrayLike<number>): number[] => {
  const list = Array.from(values);
  while (list.length === 0 || list.length % 4 !== 0) list.push(0);
  return list;
};
function shaderRuns(
  compiled: CompiledNetwork,
  document: NetworkDocument,
  lanes: (name: string) => Float32Array,
): ShaderRun[] {
  const glsl = emitGlsl(compiled.program);
  const uniforms = uniformsFor(compiled, document, TEST_SCALE);
  const images = bindTestImages(compiled, uniforms).map(({ stride, rows: height, data }) => ({
    stride,
    rows: height,
    data: Array.from(data),
  }));
  const values = padded(uniforms);
  const rows = glsl.inputs.map((name) => Array.from(lanes(name).subarray(0, POINTS)));
  const count = compiled.program.outputs.length;
  return Array.from({ length: Math.ceil(count / POINT_OUTPUTS) }, (_, k) => ({
    outputs: Math.min(POINT_OUTPUTS, count - k * POINT_OUTPUTS),
    shader: composePointShader(glsl, k * POINT_OUTPUTS),
    values,
    rows,
    images,
    valuesIn: glsl.valuesIn,
  }));
}

/** At how many points an output of a node may fall on the other side of a step. */
const BESIDE_A_STEP = POINTS / 200;

/** Which outputs of one choice of one node are too far from WebAssembly, and at how many points. */
async function deviationsOf(
  page: Page,
  definition: NodeDefinition,
  options: Readonly<Record<string, string>>,
): Promise<readonly string[]> {
  const document = documentOf([node('n', definition.id, {}, options)]);
  const taps = Object.keys(definition.outputs).map((output) => outputKey(['n'], output));
  const compiled = compileNetwork(document, { surface: false, taps });
  const lanes = randomLanes(POINTS, 11);
  const { wasm } = evaluateWasm(compiled, document, lanes, POINTS);
  const glsl = await runShaders(page, shaderRuns(compiled, document, lanes));
  expect(glsl).toHaveLength(wasm.length);
  const tolerance = Math.max(1e-3, definition.tolerance?.value ?? 0);
  return glsl.flatMap((values, k) => {
    const wrong = values.filter((value, point) => {
      const reference = wasm[k]?.[point] as number;
      return !(Math.abs(value - reference) <= tolerance * Math.max(1, Math.abs(reference)));
    }).length;
    const of = `${definition.id} ${JSON.stringify(options)} output ${String(k)}`;
    return wrong > BESIDE_A_STEP ? [`${of}: ${String(wrong)} of ${String(POINTS)}`] : [];
  });
}

test('GLSL agrees with WebAssembly on every node, for every choice and output', async ({
  page,
}) => {
  await page.goto('about:blank');
  const beyond: string[] = [];
  let choices = 0;
  for (const definition of NODES)
    for (const options of optionVariants(definition)) {
      choices++;
      beyond.push(...(await deviationsOf(page, definition, options)));
    }
  expect(beyond).toEqual([]);
  expect(choices).toBeGreaterThan(350);
});

test('hashes are equal to the bit', async ({ page }) => {
  await page.goto('about:blank');
  const b = new Builder();
  b.reserveUniforms(MODEL_UNIFORMS, 4);
  const word = mixBits(
    b,
    b.ixor(
      b.imul(b.toInt(b.input('position.x')), b.i(0x8da6b343)),
      b.imul(b.toInt(b.input('position.y')), b.i(0xd8163841)),
    ),
  );
  const halves = [
    b.toFloat(b.iand(word, b.i(0xffff))),
    b.toFloat(b.iand(b.ishrUnsigned(word, 16), b.i(0xffff))),
  ];
  const program = b.finish(halves.map((value, k) => ({ name: String(k), value })));
  const random = seededRandom(2);
  const lane = new Map(
    ['position.x', 'position.y'].map((name) => [
      name,
      Float32Array.from({ length: POINTS }, () => Math.floor(random() * 200000 - 100000)),
    ]),
  );
  const compiled = {
    program,
    slots: [],
    bindings: [],
    mapSlots: [],
    imageSlots: [],
    kinds: new Map(),
    liveInputs: new Set(program.inputs),
  } satisfies CompiledNetwork;
  const document = documentOf([]);
  const { wasm } = evaluateWasm(compiled, document, (name) => lane.get(name), POINTS);
  const glsl = await runShaders(
    page,
    shaderRuns(compiled, document, (name) => lane.get(name) as Float32Array),
  );
  expect(glsl).toEqual(wasm.map((values) => Array.from(values)));
});

test('every node compiles for the stage, its values and what a bump makes of them', async ({
  page,
}) => {
  await page.goto('about:blank');
  const shaders = NODES.flatMap((definition) => {
    const [id, port] =
      Object.entries(definition.outputs).find(([, { kind }]) => kind !== 'surface') ?? [];
    if (id === undefined || port === undefined) return [];
    const scalar = port.kind === 'scalar' ? `n:${id} > b:height` : `n:${id} > m:a`;
    const document = documentOf(
      [
        node('n', definition.id),
        node('m', 'math.measure'),
        node('b', 'surface.bump'),
        node('s', 'surface.surface'),
      ],
      [
        scalar,
        ...(port.kind === 'scalar' ? [] : ['m:value > b:height']),
        'b:normal > s:normal',
        's:surface > @out:surface',
      ],
    );
    return [{ id: definition.id, ...makeStageProgram(document, null, 4).shader }];
  });
  expect(shaders.length).toBeGreaterThan(85);
  const refused = await page.evaluate(
    (given) => {
      const gl = document.createElement('canvas').getContext('webgl2');
      if (!gl) throw new Error('no WebGL 2');
      return given.flatMap(({ id, vertex, fragment }) =>
        (
          [
            [gl.VERTEX_SHADER, vertex],
            [gl.FRAGMENT_SHADER, fragment],
          ] as const
        ).flatMap(([type, text]) => {
          const shader = gl.createShader(type) as WebGLShader;
          gl.shaderSource(shader, `#version 300 es\n${text}`);
          gl.compileShader(shader);
          return gl.getShaderParameter(shader, gl.COMPILE_STATUS)
            ? []
            : [`${id}: ${gl.getShaderInfoLog(shader) ?? ''}`];
        }),
      );
    },
    shaders.map(({ id, vertex, fragment }) => ({ id, vertex, fragment })),
  );
  expect(refused).toEqual([]);
});

test('stage and bake differ by at most 2/255 at the 99.9th percentile', async ({ page }) => {
  await page.goto('about:blank');
  const { mesh } = await readModel(new Uint8Array(readFileSync('assets/models/bell.glb')), 'bell');
  const analysis = new MeshAnalysis(mesh);
  const material = documentOf(
    [
      node('n', 'patterns.noise', { scale: 12 }),
      node('r', 'gradients.ramp'),
      node('o', 'model.curvature'),
      node('b', 'surface.bump', { relief: 0.002 }),
      node('s', 'surface.surface'),
    ],
    [
      'n:value > r:value',
      'r:colour > s:baseColour',
      'o:convex > s:metalness',
      'n:value > s:roughness',
      'n:value > b:height',
      'b:normal > s:normal',
      's:surface > @out:surface',
    ],
  );
  const size = 256;
  const map = analysis.quickMap({ kind: 'curvature', radius: 0.03 * mesh.size }, 128);
  const session = makeBakeSession();
  const rows = bakeRows(
    session,
    material,
    mesh,
    planBake(session, material, mesh, () => map, { size, maps: 16, textures: null }),
    () => map,
    [0, size],
  );
  const [colours, metalness, roughness] = (['base-colour', 'metalness', 'roughness'] as const).map(
    (name) => pictureRows(rows, { map: name, depth: 16 }),
  ) as [Float32Array, Float32Array, Float32Array];
  const covered = new Set(rows.texels);
  const compiled = compileNetwork(material, { surface: true, taps: [] });
  const glsl = emitGlsl(compiled.program);
  const shader = composeStageShader(
    { ...glsl, inputs: glsl.inputs.filter((name) => compiled.liveInputs.has(name)) },
    'atlas',
    4,
    surfaceWrites(4),
  );
  const spread = (from: Float32Array, width: number): number[] =>
    Array.from(mesh.indices).flatMap((vertex) =>
      Array.from(from.subarray(vertex * width, vertex * width + width)),
    );
  const drawn = await page.evaluate(
    ({ vertex, fragment, values, attributes, mapData, mapSize, side }) => {
      const gl = document.createElement('canvas').getContext('webgl2');
      if (!gl?.getExtension('EXT_color_buffer_float')) throw new Error('no float targets');
      const program = gl.createProgram();
      for (const [type, text] of [
        [gl.VERTEX_SHADER, vertex],
        [gl.FRAGMENT_SHADER, fragment],
      ] as const) {
        const made = gl.createShader(type) as WebGLShader;
        gl.shaderSource(made, `#version 300 es\n${text}`);
        gl.compileShader(made);
        if (!gl.getShaderParameter(made, gl.COMPILE_STATUS))
          throw new Error(gl.getShaderInfoLog(made) ?? '');
        gl.attachShader(program, made);
      }
      gl.linkProgram(program);
      gl.useProgram(program);
      for (const { name, width, data } of attributes) {
        const at = gl.getAttribLocation(program, name);
        if (at < 0) continue;
        gl.bindBuffer(gl.ARRAY_BUFFER, gl.createBuffer());
        gl.bufferData(gl.ARRAY_BUFFER, Float32Array.from(data), gl.STATIC_DRAW);
        gl.enableVertexAttribArray(at);
        gl.vertexAttribPointer(at, width, gl.FLOAT, false, 0, 0);
      }
      const texture = (width: number, height: number, data: Float32Array | null): WebGLTexture => {
        const made = gl.createTexture();
        gl.bindTexture(gl.TEXTURE_2D, made);
        gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA32F, width, height, 0, gl.RGBA, gl.FLOAT, data);
        for (const name of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER])
          gl.texParameteri(gl.TEXTURE_2D, name, gl.NEAREST);
        return made;
      };
      gl.bindFramebuffer(gl.FRAMEBUFFER, gl.createFramebuffer());
      const targets = [0, 1, 2, 3].map((k) => {
        gl.framebufferTexture2D(
          gl.FRAMEBUFFER,
          gl.COLOR_ATTACHMENT0 + k,
          gl.TEXTURE_2D,
          texture(side, side, null),
          0,
        );
        return gl.COLOR_ATTACHMENT0 + k;
      });
      gl.drawBuffers(targets);
      gl.viewport(0, 0, side, side);
      texture(mapSize, mapSize, Float32Array.from(mapData));
      gl.uniform1i(gl.getUniformLocation(program, 'meshMap0'), 0);
      gl.uniform4fv(gl.getUniformLocation(program, 'values'), Float32Array.from(values));
      gl.drawArrays(gl.TRIANGLES, 0, (attributes[0]?.data.length ?? 0) / 3);
      return targets.map((target) => {
        gl.readBuffer(target);
        const read = new Float32Array(side * side * 4);
        gl.readPixels(0, 0, side, side, gl.RGBA, gl.FLOAT, read);
        return Array.from(read);
      });
    },
    {
      vertex: shader.vertex,
      fragment: shader.fragment,
      values: padded(uniformsFor(compiled, material, getModelScale(mesh))),
      mapData: Array.from(map.data),
      mapSize: map.size,
      side: size,
      attributes: [
        { name: 'position', width: 3, data: spread(mesh.positions, 3) },
        { name: 'normal', width: 3, data: spread(mesh.normals, 3) },
        { name: 'uv', width: 2, data: spread(mesh.uvs, 2) },
        { name: 'atlas', width: 2, data: spread(mesh.atlas, 2) },
        { name: 'face', width: 3, data: new Array<number>(mesh.indices.length * 3).fill(0) },
      ],
    },
  );
  const limited = (x: number): number => Math.min(1, Math.max(0, x));
  /** What was drawn of a lane at a texel. */
  const shown = (lane: string, texel: number): number => {
    const index = SURFACE_LANES.indexOf(lane);
    const target = SURFACE_PLACES.findIndex((lanes) => lanes.includes(index));
    const channel = SURFACE_PLACES[target]?.indexOf(index) ?? 0;
    return drawn[target]?.[texel * 4 + channel] as number;
  };
  const differences: number[] = [];
  for (let texel = 0; texel < size * size; texel++) {
    if (!covered.has(texel) || (drawn[NORMAL_TARGET]?.[texel * 4 + 3] ?? 0) < 0.5) continue;
    ['r', 'g', 'b'].forEach((axis, c) =>
      differences.push(
        Math.abs(
          encodeSrgb(limited(shown(`baseColour.${axis}`, texel))) -
            (colours[texel * 3 + c] as number),
        ),
      ),
    );
    differences.push(
      Math.abs(limited(shown('metalness', texel)) - (metalness[texel] as number)),
      Math.abs(limited(shown('roughness', texel)) - (roughness[texel] as number)),
    );
  }
  differences.sort((p, q) => p - q);
  expect(differences.length).toBeGreaterThan(100000);
  expect(differences[Math.floor(differences.length * 0.999)]).toBeLessThanOrEqual(2 / 255);
});

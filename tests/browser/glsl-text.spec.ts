/** The function of GLSL that is handed out computes what the network does. */
import { inputVariable } from '@/core/backends/glsl/emit';
import { findNodeDefinition } from '@/core/compile/catalogue';
import { compileNetwork } from '@/core/compile/compile';
import { outputGlsl } from '@/core/evaluate/output-glsl';
import { setValue } from '@/core/edit/nodes';
import type { NetworkDocument } from '@/core/graph/document';
import { isOutputKey } from '@/core/graph/result-key';
import { evaluateWasm } from '../support/agreement';
import {
  TEST_IMAGE,
  TEST_SCALE,
  documentOf,
  node,
  randomDocument,
  randomLanes,
} from '../support/networks';
import { POINTS, runShaders } from './support/shaders';
import type { ShaderRun } from './support/shaders';
import { expect, test } from './studio';

const NETWORKS = 24;
const TARGETS = [0, 1, 2, 3]
  .map((k) => `layout(location = ${String(k)}) out vec4 target${String(k)};`)
  .join('\n');
const lanes = randomLanes(POINTS, 11);

/** The handed-out text with nothing changed, called at each point. */
function runOf(document: NetworkDocument, key: string): ShaderRun {
  const text = outputGlsl(document, key, TEST_SCALE, () => TEST_IMAGE) ?? '';
  const { program, liveInputs } = compileNetwork(document, { surface: false, taps: [key] });
  const given = program.inputs.filter((name) => liveInputs.has(name));
  const outputs = [...text.matchAll(/out float (\w+)/g)].map(([, name = '']) => name);
  const written = outputs.filter((name) => name.startsWith('out_'));
  const call = [
    ...given.map((_, k) => `texelFetch(points, ivec2(int(gl_FragCoord.x), ${String(k)}), 0).r`),
    ...written,
  ];
  const samplers = [...text.matchAll(/uniform highp sampler2D image(\d+)/g)].map(([, k]) =>
    Number(k),
  );
  const images = Array.from({ length: Math.max(-1, ...samplers) + 1 }, () => ({
    stride: TEST_IMAGE.stride,
    rows: TEST_IMAGE.rows,
    data: Array.from(TEST_IMAGE.data),
  }));
  for (const name of given) expect(text).toContain(`in float ${inputVariable(name)}`);
  return {
    outputs: written.length,
    shader: `#version 300 es
precision highp float;
precision highp int;
uniform highp sampler2D points;
${TARGETS}
${text}
void main() {
  float ${written.map((name) => `${name} = 0.0`).join(', ')};
  evaluate(${call.join(', ')});
  target1 = target2 = target3 = vec4(0.0);
  target0 = vec4(${[...written, '0.0', '0.0', '0.0'].slice(0, 4).join(', ')});
}`,
    valuesIn: 'array',
    values: [0, 0, 0, 0],
    rows: given.map((name) => Array.from(lanes(name).subarray(0, POINTS))),
    images,
  };
}

/** A document with an image wherever a node takes one. */
const withImages = (document: NetworkDocument): NetworkDocument =>
  document.network.nodes
    .flatMap((each) =>
      Object.entries(findNodeDefinition(each)?.inputs ?? {}).flatMap(([input, { kind }]) =>
        kind === 'image' ? [[each.id, input] as const] : [],
      ),
    )
    .reduce(
      (changed, [id, input]) =>
        setValue(changed, null, id, input, { image: 'a'.repeat(64), name: 'salt.png' }),
      document,
    );

test('the text of an output computes what the network does', async ({ page }) => {
  await page.goto('about:blank');
  const cases = [
    { document: withImages(documentOf([node('n', 'patterns.image')])), key: 'n:colour' },
    ...Array.from({ length: NETWORKS }, (_, seed) => {
      const document = withImages(randomDocument(seed + 1, 10));
      const { slots } = compileNetwork(document, { surface: false, taps: 'all' });
      const keys = slots.filter(({ key, lanes: n }) => isOutputKey(key) && n < 4);
      return { document, key: keys[keys.length - 1]?.key ?? '' };
    }),
  ];
  const texts = await runShaders(
    page,
    cases.map(({ document, key }) => runOf(document, key)),
  );
  let read = 0;
  for (const { document, key } of cases) {
    const compiled = compileNetwork(document, { surface: false, taps: [key] });
    const { wasm } = evaluateWasm(compiled, document, lanes, POINTS);
    for (const lane of wasm) {
      const values = texts[read++] ?? [];
      const wrong = values.filter((value, k) => {
        const wanted = lane[k] ?? NaN;
        return !(Math.abs(value - wanted) <= 2e-3 * Math.max(1, Math.abs(wanted)));
      });
      expect([key, wrong.length > POINTS / 100 ? wrong.length : 0]).toEqual([key, 0]);
    }
  }
  expect(read).toBe(texts.length);
});

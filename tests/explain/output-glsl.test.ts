/** An output as a function of GLSL: what it takes, and what it says of that. */
import { emitGlsl, inputVariable } from '@/core/backends/glsl/emit';
import { buildAtlas } from '@/core/base/image';
import { compileNetwork } from '@/core/compile/compile';
import { setValue } from '@/core/edit/nodes';
import { outputGlsl } from '@/core/evaluate/output-glsl';
import type { NetworkDocument } from '@/core/graph/document';
import { NODES } from '@/core/nodes/registry.generated';
import { documentOf, node, optionVariants, TEST_SCALE } from '../support/networks';

const textOf = (document: NetworkDocument, key: string): string =>
  outputGlsl(document, key, TEST_SCALE) ?? '';
const argumentsOf = (text: string): readonly string[] =>
  [...text.slice(text.indexOf('void evaluate(')).matchAll(/in float (\w+)/g)].map(
    ([, name = '']) => name,
  );

it.each(NODES.map((definition) => [definition.id, definition] as const))(
  '%s takes the inputs it depends on and no others, and no values but its own',
  (id, definition) => {
    for (const options of optionVariants(definition)) {
      // Another card with a measured map and a ramp, of which nothing may be seen.
      const document = documentOf(
        [
          node('n', id, {}, options),
          node('elsewhere', 'model.occlusion'),
          node('strip', 'gradients.ramp'),
        ],
        ['elsewhere:openness > strip:value'],
      );
      for (const [output, { kind }] of Object.entries(definition.outputs)) {
        if (kind === 'surface') continue;
        const text = textOf(document, `n:${output}`);
        const { liveInputs } = compileNetwork(document, { surface: false, taps: [`n:${output}`] });
        expect(argumentsOf(text).toSorted()).toEqual([...liveInputs].map(inputVariable).sort());
        expect(text).not.toContain('valueRow');
        expect(text).not.toContain('elsewhere');
        for (const [sampler] of text.matchAll(/image\d+/g))
          expect(text).toContain(`uniform highp sampler2D ${sampler};`);
        for (const name of argumentsOf(text).filter((each) => each.startsWith('in_mapZ')))
          expect(text).toContain(`// ${name}: `);
      }
    }
  },
);

it('says of a measured map which it is, of which card, and with which settings', () => {
  const document = documentOf([
    { ...node('n16', 'model.occlusion', { reach: 0.25 }), name: 'Deep\nholes' },
  ]);
  const text = textOf(document, 'n16:openness');
  expect(text).toMatch(/\/\/ in_mapZ\w+: occlusion of “Deep holes” \(reach [\d.]+, side open/);
});

it('has the numbers of an image, and says how the sampler holds it', () => {
  const atlas = buildAtlas(4, 2, new Float32Array(32).fill(0.25));
  const hash = 'a'.repeat(64);
  const document = setValue(documentOf([node('n', 'patterns.image')]), null, 'n', 'image', {
    image: hash,
    name: 'salt.png',
  });
  const text = outputGlsl(document, 'n:colour', TEST_SCALE, () => atlas) ?? '';
  expect(text).toMatch(
    /\/\/ image0: the image of “Image”, salt\.png, read as colour, linear: 4 × 2/,
  );
  expect(text).toContain('(4.0)');
});

it('has the stops of a ramp that it reads, and no other values', () => {
  const document = documentOf([node('ramp', 'gradients.ramp'), node('idle', 'gradients.ramp')]);
  const text = textOf(document, 'ramp:colour');
  expect(text.match(/const vec4 table/g)).toHaveLength(1);
});

it('writes every value to the bit', () => {
  const document = documentOf([node('n', 'constants.number', { value: -0 })]);
  expect(textOf(document, 'n:value')).toContain('-0.0');
  const { program } = compileNetwork(document, { surface: false, taps: ['n:value'] });
  expect(emitGlsl(program).outputs).toHaveLength(1);
});

import { readFileSync } from 'node:fs';
import path from 'node:path';
import Ajv2020 from 'ajv/dist/2020';
import { seededRandom } from '@/core/base/random';
import { checkDocument } from '@/core/compile/check/check';
import { CompileError, compileNetwork } from '@/core/compile/compile';
import { documentJsonSchema } from '@/core/graph/json-schema';
import { parseDocument, parseDocumentText } from '@/core/graph/schema';
import type { GroupDefinition, NetworkDocument } from '@/core/graph/document';
import { WasmRunner } from '@/core/backends/wasm/runner';
import { groupSelection } from '@/core/edit/group';
import { addDial } from '@/core/edit/dials';
import { DEMO_MATERIALS } from '@/server/demo/materials';
import { evaluateWasm } from '../support/agreement';
import { documentOf, node, randomDocument, strand } from '../support/networks';

const validate = new Ajv2020({ allErrors: true }).compile(documentJsonSchema());
const grouped = groupSelection(
  documentOf(
    [node('n1', 'patterns.noise'), node('n2', 'surface.surface')],
    ['n1:value > n2:roughness', 'n2:surface > @out:surface'],
  ),
  { board: null, ids: ['n1'], name: 'G', path: [], source: { materialId: 'm', revision: 1 } },
);
const withDial =
  addDial(grouped.document, grouped.groupId, 'n1', 'scale', 'lift', 'Size')?.document ??
  grouped.document;
const codes = (raw: unknown): string[] =>
  checkDocument(raw).diagnostics.map((finding) => finding.code);

/** Changes one random place of a document to something else. */
function mutate(document: NetworkDocument, seed: number): unknown {
  const random = seededRandom(seed);
  const copy = JSON.parse(JSON.stringify(document)) as Record<string, unknown>;
  const places: { holder: Record<string, unknown>; key: string }[] = [];
  const visit = (holder: Record<string, unknown>): void => {
    for (const key of Object.keys(holder)) {
      places.push({ holder, key });
      const value = holder[key];
      if (typeof value === 'object' && value !== null) visit(value as Record<string, unknown>);
    }
  };
  visit(copy);
  const place = places[Math.floor(random() * places.length)];
  const values: unknown[] = [
    null,
    -1,
    1e300,
    'x',
    '',
    [],
    {},
    true,
    'n1',
    '@in',
    [1, 2],
    NaN,
    0,
    'patterns.noise',
    99999,
  ];
  if (!place) return copy;
  if (random() < 0.25) Reflect.deleteProperty(place.holder, place.key);
  else place.holder[place.key] = values[Math.floor(random() * values.length)];
  return copy;
}

describe('the schema file', () => {
  it('is the one the program would write', () => {
    expect(
      JSON.parse(
        readFileSync(path.resolve(import.meta.dirname, '../../docs/network.schema.json'), 'utf8'),
      ),
    ).toEqual(documentJsonSchema());
  });

  it('judges demo, random, grouped and mutated documents as the program does', () => {
    const documents = [
      ...DEMO_MATERIALS.map((material) => material.document()),
      ...Array.from({ length: 20 }, (_, k) => randomDocument(k + 1, 8)),
      grouped.document,
      withDial,
    ];
    for (const document of documents)
      expect({ program: parseDocument(document).diagnostics, schema: validate(document) }).toEqual({
        program: [],
        schema: true,
      });
    let refused = 0;
    for (let seed = 1; seed <= 1500; seed++) {
      const mutant = mutate(documents[seed % documents.length] as NetworkDocument, seed);
      // JSON knows no NaN.
      const written: unknown = JSON.parse(JSON.stringify(mutant));
      const [program, schema] = [parseDocument(written).document !== null, validate(written)];
      if (program !== schema)
        throw new Error(
          `seed ${String(seed)}: program ${String(program)}, schema ${String(schema)}: ` +
            `${JSON.stringify(validate.errors)} ` +
            JSON.stringify(parseDocument(written).diagnostics),
        );
      if (!program) refused++;
    }
    expect(refused).toBeGreaterThan(300);
  });
});

describe('checking', () => {
  it.each<[string, unknown, string]>([
    ['text that is not JSON', undefined, 'document.shape'],
    ['a later format', { format: 'bright-loom/network', version: 9 }, 'document.version'],
    ['an unknown node', documentOf([node('a', 'patterns.future')]), 'node.unknown-type'],
    [
      'a later node',
      documentOf([{ ...node('a', 'patterns.noise'), version: 7 }]),
      'node.unknown-version',
    ],
    [
      'two nodes of one id',
      documentOf([node('a', 'patterns.noise'), node('a', 'patterns.noise')]),
      'node.duplicate-id',
    ],
    [
      'a loop',
      documentOf(
        [node('a', 'math.math'), node('b', 'math.math')],
        ['a:value > b:a', 'b:value > a:a'],
      ),
      'network.cycle',
    ],
    [
      'a strand to nowhere',
      documentOf([node('a', 'math.math')], ['a:value > z:a']),
      'strand.missing-node',
    ],
    [
      'a strand to no port',
      documentOf([node('a', 'math.math'), node('b', 'math.math')], ['a:value > b:q']),
      'strand.missing-port',
    ],
    [
      'a surface into a number',
      documentOf([node('a', 'surface.surface'), node('b', 'math.math')], ['a:surface > b:a']),
      'strand.kind',
    ],
    [
      'two strands into one place',
      documentOf(
        [node('a', 'math.math'), node('b', 'math.math')],
        ['a:value > b:a', { ...strand('a:value > b:a'), id: 'again' }],
      ),
      'strand.twice',
    ],
    [
      'a ramp of one stop',
      documentOf([
        node('a', 'gradients.ramp', {
          stops: {
            stops: [{ id: 's', position: 0, colour: [0, 0, 0], alpha: 1, segment: 'linear' }],
          },
        }),
      ]),
      'document.shape',
    ],
    [
      'an absurd number',
      documentOf([node('a', 'patterns.noise', { scale: 1e300 })]),
      'document.shape',
    ],
    [
      'a number beyond its range',
      documentOf([node('a', 'patterns.fractal-noise', { octaves: 400 })]),
      'value.out-of-range',
    ],
    [
      'a value of the wrong kind',
      documentOf([node('a', 'patterns.noise', { scale: [1, 2, 3] })]),
      'value.wrong-type',
    ],
    [
      'a group that is not there',
      documentOf([{ ...node('a', 'group'), group: 'g9' }]),
      'group.missing',
    ],
    [
      'a choice that is not there',
      documentOf([node('a', 'math.math', {}, { operation: 'conjure' })]),
      'option.unknown',
    ],
    [
      'a dial that drives nothing',
      {
        ...withDial,
        groups: {
          g1: {
            ...withDial.groups['g1'],
            dials: [
              {
                ...withDial.groups['g1']?.dials[0],
                drives: [{ node: 'gone', input: 'scale', law: 'times' }],
              },
            ],
          },
        },
      },
      'drive.missing-target',
    ],
  ])('finds %s', (_name, raw, code) => {
    expect(codes(raw)).toContain(code);
  });

  it('finds groups that contain themselves, directly or by way of others, and says which', () => {
    const base = withDial.groups['g1'] as GroupDefinition;
    const inside = (id: string, inner: string): GroupDefinition => ({
      ...base,
      id,
      name: id,
      dials: [],
      network: {
        ...base.network,
        nodes: [...base.network.nodes, { ...node('x', 'group'), group: inner }],
      },
    });
    expect(codes({ ...withDial, groups: { g1: inside('g1', 'g1') } })).toContain(
      'group.contains-itself',
    );
    const chain = checkDocument({
      ...withDial,
      groups: { g1: inside('g1', 'g2'), g2: inside('g2', 'g1') },
    }).diagnostics.find((finding) => finding.code === 'group.contains-itself');
    expect(chain?.message).toContain('g1 → g2');
    const deep = Object.fromEntries(
      Array.from({ length: 200 }, (_, k) => [
        `g${String(k)}`,
        k === 199
          ? { ...base, id: 'g199', dials: [] }
          : inside(`g${String(k)}`, `g${String(k + 1)}`),
      ]),
    );
    expect(codes({ ...withDial, groups: { ...deep, g1: deep['g1'] } })).toContain('group.too-deep');
  });

  it('compiles 4,000 nodes in a row, and refuses more than the limit in words', () => {
    const chain = (count: number): NetworkDocument =>
      documentOf(
        Array.from({ length: count }, (_, k) => node(`n${String(k)}`, 'math.math')),
        Array.from({ length: count - 1 }, (_, k) => `n${String(k)}:value > n${String(k + 1)}:a`),
      );
    const compiled = compileNetwork(chain(4000), { surface: false, taps: ['n3999:value'] });
    expect(new WasmRunner(compiled.program).moduleBytes).toBeGreaterThan(10000);
    expect(() =>
      compileNetwork(
        {
          ...chain(10),
          groups: Object.fromEntries([
            [
              'big',
              {
                ...(withDial.groups['g1'] as GroupDefinition),
                id: 'big',
                dials: [],
                network: chain(4999).network,
              },
            ],
          ]),
          network: {
            ...chain(2).network,
            nodes: [...chain(2).network.nodes, { ...node('g', 'group'), group: 'big' }],
          },
        },
        { surface: true, taps: [] },
      ),
    ).toThrow('the limit is 5000');
  });

  const ODD = Float32Array.of(NaN, Infinity, -Infinity, 3e38, -3e38, 0, -0, 1e-40);
  it(
    'never crashes, hangs or yields an invalid module on mutated documents, even at points ' +
      'that are no numbers',
    () => {
      let compiledCount = 0;
      for (let seed = 1; seed <= 1200; seed++) {
        const raw = mutate(
          seed % 3 === 0 ? withDial : randomDocument((seed % 40) + 1, 6),
          seed * 7,
        );
        const { document, diagnostics } = checkDocument(raw);
        for (const finding of diagnostics) expect(finding.message.length).toBeGreaterThan(5);
        if (!document) continue;
        try {
          const compiled = compileNetwork(document, {
            surface: true,
            taps: 'all',
            antialias: seed % 2 === 0 ? ['images', 'steps'] : [],
          });
          // Points where nothing is a sensible number: a module may answer anything, but never
          // leaves its memory.
          const { wasm } = evaluateWasm(compiled, document, () => ODD, ODD.length);
          expect(wasm).toHaveLength(compiled.program.outputs.length);
          compiledCount++;
        } catch (error) {
          expect(error).toBeInstanceOf(CompileError);
        }
      }
      expect(compiledCount).toBeGreaterThan(60);
    },
  );

  it('reads broken text with the place of the fault', () => {
    expect(parseDocumentText('{"format": ').diagnostics[0]?.code).toBe('document.not-json');
    const wrong = { ...documentOf([node('a', 'patterns.noise')]) };
    expect(
      checkDocument({
        ...wrong,
        network: { ...wrong.network, nodes: [{ ...wrong.network.nodes[0], at: 'here' }] },
      }).diagnostics[0]?.pointer,
    ).toBe('/network/nodes/0/at');
  });
});

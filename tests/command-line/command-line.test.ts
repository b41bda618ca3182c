import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { execFileSync, spawnSync } from 'node:child_process';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { NodeIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { createHash } from 'node:crypto';
import { decode, encode } from 'fast-png';
import validator from 'gltf-validator';
import { main } from '../../cli/main';
import { NODES } from '@/core/nodes/registry.generated';
import { DEMO_MATERIALS } from '@/server/demo/materials';
import { documentOf, node } from '../support/networks';

const folder = mkdtempSync(path.join(tmpdir(), 'bright-loom-cli-'));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});
const write = (name: string, content: unknown): string => {
  const file = path.join(folder, name);
  writeFileSync(file, typeof content === 'string' ? content : JSON.stringify(content));
  return file;
};
async function run(...args: string[]): Promise<{ code: number; out: string; error: string }> {
  const out: string[] = [],
    errors: string[] = [];
  const code = await main(
    args,
    (text) => out.push(text),
    (text) => errors.push(text),
  );
  return { code, out: out.join('\n'), error: errors.join('\n') };
}
const plain = documentOf(
  [
    node('h', 'gradients.gradient', { length: 2 }, { per: 'unit' }),
    node('m', 'math.math', { b: 0.25 }, { operation: 'add' }),
    node('c', 'model.curvature', { gain: 1, threshold: 0 }),
    node('s', 'surface.surface'),
  ],
  ['h:value > m:a', 'm:value > s:roughness', 'c:convex > s:metalness', 's:surface > @out:surface'],
);

describe('nodes', () => {
  it('lists every node with inputs, ranges, ends and outputs', async () => {
    const { code, out } = await run('nodes', '--json');
    const catalogue = JSON.parse(out) as {
      nodes: {
        id: string;
        inputs: { id: string; soft: number[]; low?: string }[];
        outputs: unknown[];
      }[];
    };
    expect(code).toBe(0);
    expect(catalogue.nodes.map((each) => each.id)).toEqual(NODES.map((each) => each.id));
    expect(
      catalogue.nodes
        .find((each) => each.id === 'surface.surface')
        ?.inputs.find((port) => port.id === 'roughness'),
    ).toMatchObject({ default: 0.5, low: 'mirror', high: 'matt', hard: [0, 1], kind: 'scalar' });
    expect(catalogue.nodes.every((each) => each.outputs.length > 0)).toBe(true);
  });
});

describe('images', () => {
  const picture = encode({
    width: 1,
    height: 1,
    channels: 3,
    depth: 8,
    data: Uint8Array.of(255, 0, 51),
  });
  const hash = createHash('sha256').update(picture).digest('hex');
  const document = write(
    'image.json',
    documentOf([
      node('i', 'patterns.image', { image: { image: hash, name: 'dot' } }, { reading: 'data' }),
      node('v', 'model.view-angle'),
    ]),
  );
  const points = write('image-points.json', {
    points: [{ position: [0, 0, 0], normal: [0, 0, 1], uv: [0.5, 0.5] }],
  });
  it('are found in a folder by their content; without one, grey stands in', async () => {
    const missing = await run(
      'eval',
      document,
      '--points',
      points,
      '--outputs',
      'i:colour',
      '--json',
    );
    expect(missing.error).toContain(
      `The image ${hash.slice(0, 12)}… is not at hand (see --images); grey stands in for it.`,
    );
    expect(
      (JSON.parse(missing.out) as { outputs: Record<string, unknown> }).outputs['i:colour'],
    ).toEqual([[0.5, 0.5, 0.5]]);
    writeFileSync(path.join(folder, 'any-name.bin'), picture);
    const found = await run(
      'eval',
      document,
      '--points',
      points,
      '--outputs',
      'i:colour',
      '--images',
      folder,
      '--json',
    );
    expect(found.error).toBe('');
    expect(
      (JSON.parse(found.out) as { outputs: Record<string, number[][]> }).outputs[
        'i:colour'
      ]?.[0]?.map((x) => Math.round(x * 255)),
    ).toEqual([255, 0, 51]);
    expect(
      (await run('eval', document, '--points', points, '--images', path.join(folder, 'nowhere')))
        .code,
    ).toBe(1);
    // Nobody looks from anywhere: the view is the normal.
    expect(
      (
        JSON.parse(
          (await run('eval', document, '--points', points, '--images', folder, '--json')).out,
        ) as { outputs: Record<string, number[]> }
      ).outputs['v:value'],
    ).toEqual([1]);
  });
});

describe('eval', () => {
  const points = write('points.json', {
    points: [
      { position: [0, 0.5, 0], normal: [0, 1, 0], fields: { curvature: 0.4 } },
      { position: [0, -1, 0], normal: [0, 1, 0], fields: { c: -0.2, curvature: 9 } },
    ],
  });

  it('gives the values of all outputs at given points', async () => {
    const { code, out } = await run('eval', write('doc.json', plain), '--points', points, '--json');
    expect(code).toBe(0);
    const { outputs } = JSON.parse(out) as { outputs: Record<string, number[]> };
    // Height over a length of 2 m, centred: ½ + y/2; the field of the node itself goes before that
    // of its kind.
    expect(outputs['h:value']).toEqual([0.75, 0]);
    expect(outputs['m:value']).toEqual([1, 0.25]);
    expect(outputs['c:signed']?.map((x) => Number(x.toFixed(6)))).toEqual([0.4, -0.2]);
    expect(outputs['surface.metalness']?.map((x) => Number(x.toFixed(6)))).toEqual([0.4, 0]);
    expect(outputs['surface.normal.y']).toEqual([1, 1]);
  });

  it('gives only the outputs that are named, and says which there are', async () => {
    const doc = write('doc.json', plain);
    const { outputs } = JSON.parse(
      (await run('eval', doc, '--points', points, '--outputs', 'm:value', '--json')).out,
    ) as { outputs: Record<string, unknown> };
    expect(Object.keys(outputs)).toEqual(['m:value']);
    const wrong = await run('eval', doc, '--points', points, '--outputs', 'm:colour');
    expect([wrong.code, wrong.error]).toEqual([1, expect.stringContaining('It has: h:value')]);
  });

  it('says which field a point lacks, but asks only for those that are used', async () => {
    const bare = write('bare.json', { points: [{ position: [0, 0, 0], normal: [0, 1, 0] }] });
    const doc = write('doc.json', plain);
    expect((await run('eval', doc, '--points', bare)).error).toContain(
      '“fields.curvature” (or “fields.c”)',
    );
    expect((await run('eval', doc, '--points', bare, '--outputs', 'm:value')).code).toBe(0);
    expect(
      (
        await run(
          'eval',
          doc,
          '--points',
          write('none.json', { points: [{ normal: [0, 1, 0], fields: { curvature: 0 } }] }),
        )
      ).error,
    ).toContain('“position”, which point 0');
    expect((await run('eval', doc, '--points', write('odd.json', { points: 'many' }))).code).toBe(
      1,
    );
  });
});

describe('check', () => {
  it('passes good documents and points at the fault of bad ones', async () => {
    for (const material of DEMO_MATERIALS)
      expect((await run('check', write('good.json', material.document()))).code).toBe(0);
    const bad = await run(
      'check',
      write(
        'bad.json',
        documentOf(
          [node('a', 'math.math'), node('b', 'math.math')],
          ['a:value > b:a', 'b:value > a:a'],
        ),
      ),
    );
    expect([bad.code, bad.error]).toEqual([
      1,
      expect.stringContaining('/network/strands/1: The nodes'),
    ]);
    const json = await run('check', write('broken.json', '{"format"'), '--json');
    expect(JSON.parse(json.out)).toMatchObject({
      valid: false,
      diagnostics: [{ code: 'document.not-json' }],
    });
    expect((await run('check', path.join(folder, 'missing.json'))).error).toContain(
      'cannot be read',
    );
  });
  it('a group inside itself is a message everywhere, not an overflow', async () => {
    const inner = documentOf([{ ...node('again', 'group'), group: 'G' }]).network;
    const endless = write('endless.json', {
      ...documentOf([{ ...node('w', 'group'), group: 'G' }]),
      groups: {
        G: {
          id: 'G',
          name: 'Endless',
          description: '',
          inputs: [],
          outputs: [],
          dials: [],
          network: inner,
        },
      },
    });
    const points = write('one.json', { points: [{ position: [0, 0, 0], normal: [0, 1, 0] }] });
    for (const call of [
      ['check', endless],
      ['check', endless, '--model', 'demo:tile'],
      ['eval', endless, '--points', points],
    ]) {
      const { code, error } = await run(...call);
      expect([code, error]).toEqual([1, expect.stringContaining('“Endless” contains itself')]);
    }
  });
  it('a formula that does not fit is an error at its place', async () => {
    for (const [formula, message] of [
      ['a +', 'stops too early'],
      ['a.x', 'a float has no parts'],
    ]) {
      const { code, out } = await run(
        'check',
        write(
          'formula.json',
          documentOf([node('f', 'math.formula', { formula: { formula: formula ?? '' } })]),
        ),
        '--json',
      );
      expect(code).toBe(1);
      expect(JSON.parse(out)).toMatchObject({
        valid: false,
        diagnostics: [
          {
            code: 'formula.wrong',
            pointer: '/network/nodes/0/values/formula',
            message: expect.stringContaining(message ?? '') as string,
          },
        ],
      });
    }
  });
  it(
    'with a model says what the values do, in words and as data; eval does so over its ' + 'points',
    async () => {
      const idle = write(
        'idle.json',
        documentOf(
          [
            node('o', 'model.occlusion'),
            node('k', 'ranges.clamp'),
            node('m', 'math.math', { b: 2 }, { operation: 'add' }),
          ],
          ['o:openness > k:value', 'o:openness > m:a'],
        ),
      );
      const checked = JSON.parse(
        (await run('check', idle, '--model', 'demo:buoy', '--json')).out,
      ) as {
        valid: boolean;
        diagnostics: {
          code: string;
          node: string;
          pointer: string;
          severity: string;
          range: { minimum: number } | null;
        }[];
      };
      expect(checked.valid).toBe(true);
      expect(checked.diagnostics.map(({ node: at, code }) => `${at} ${code}`)).toEqual(
        expect.arrayContaining(['k clamp.idle', 'm value.above']),
      );
      expect(checked.diagnostics.find(({ node: at }) => at === 'm')).toMatchObject({
        severity: 'note',
        pointer: '/network/nodes/2',
      });
      expect((await run('check', idle, '--model', 'demo:buoy')).error).toContain(
        'note: /network/nodes/1: This clamp changes nothing',
      );
      const points = write('two.json', {
        points: [
          { position: [0, 0, 0], normal: [0, 1, 0], fields: { occlusion: 0.2 } },
          { position: [1, 0, 0], normal: [0, 1, 0], fields: { occlusion: 0.9 } },
        ],
      });
      const { findings } = JSON.parse(
        (await run('eval', idle, '--points', points, '--json')).out,
      ) as { findings: { code: string }[] };
      expect(findings.map(({ code }) => code)).toContain('clamp.idle');
    },
  );
});

describe('analyse', () => {
  it('writes the maps asked for, the same each time, and says what it found', async () => {
    const results = await Promise.all(
      ['one', 'two'].map((name) =>
        run(
          'analyse',
          'demo:tile',
          '--maps',
          'occlusion,crease,proximity',
          '--size',
          '64',
          '--out',
          path.join(folder, name),
        ),
      ),
    );
    expect(results[0]?.code).toBe(0);
    expect(readdirSync(path.join(folder, 'one'))).toEqual([
      'tile-crease.png',
      'tile-occlusion.png',
      'tile-proximity.png',
    ]);
    const picture = decode(readFileSync(path.join(folder, 'one', 'tile-occlusion.png')));
    expect([picture.width, picture.depth, picture.channels, picture.data[32 * 64 + 32]]).toEqual([
      64, 16, 1, 65535,
    ]);
    expect(
      readFileSync(path.join(folder, 'one', 'tile-crease.png')).equals(
        readFileSync(path.join(folder, 'two', 'tile-crease.png')),
      ),
    ).toBe(true);
    expect(JSON.parse(results[0]?.out.split('\n').at(-1) ?? '')).toMatchObject({
      format: 'bright-loom/diagnosis',
      triangles: 512,
      findings: [
        { code: 'open', title: '64 open edges' },
        { code: 'coverage', tone: 'fact' },
      ],
    });
  }, 60000);
  it('mends the model first where asked', async () => {
    const file = path.join(folder, 'lid.obj');
    // A pyramid, inside out, whose corners do not quite meet.
    writeFileSync(
      file,
      'o lid\nv 0 0 0\nv 1 0 0\nv 0 0 1\nv 0 1 0\nv 0.0004 0 0\nf 1 3 2\nf 5 2 4\nf 3 4 ' +
        '2\nf 1 4 3\n',
    );
    const found = async (...args: string[]): Promise<string[]> =>
      (
        JSON.parse(
          (
            await run('analyse', file, '--maps', 'crease', '--size', '64', '--out', folder, ...args)
          ).out
            .split('\n')
            .at(-1) ?? '',
        ) as { findings: { code: string; tone: string }[] }
      ).findings
        .filter(({ tone }) => tone === 'fault')
        .map(({ code }) => code);
    expect(await found()).toContain('open');
    expect(await found('--weld', '0.002')).toEqual(['inside-out']);
    expect(await found('--weld', '0.002', '--turn-round', '--smooth', '20')).toEqual([]);
    expect(await run('analyse', file, '--weld', '0.4', '--out', folder)).toMatchObject({
      code: 2,
      error: expect.stringContaining('--weld is a number from 0 to 0.05') as string,
    });
  }, 60000);
  it('refuses maps it does not know', async () => {
    expect(await run('analyse', 'demo:tile', '--maps', 'shine', '--out', folder)).toMatchObject({
      code: 2,
      error: expect.stringContaining('There is no map “shine”') as string,
    });
  });
});

describe('parts and attributes at points', () => {
  it('are read from the points file; a point that lacks its part is named', async () => {
    const doc = write(
      'parts.json',
      documentOf([
        node('p', 'model.part'),
        node('a', 'model.attribute', { fallback: [9, 9, 9] }, { name: 'wear' }),
      ]),
    );
    const points = (list: unknown): string => write('part-points.json', { points: list });
    const good = await run(
      'eval',
      doc,
      '--points',
      points([
        {
          position: [0, 0, 0],
          normal: [0, 1, 0],
          part: 3,
          partCentre: [1, 2, 3],
          attributes: { wear: [0.25] },
        },
      ]),
      '--outputs',
      'p:id,p:centre,a:first,a:exists',
      '--json',
    );
    expect((JSON.parse(good.out) as { outputs: unknown }).outputs).toEqual({
      'p:id': [3],
      'p:centre': [[1, 2, 3]],
      'a:first': [0.25],
      'a:exists': [1],
    });
    const without = await run(
      'eval',
      doc,
      '--points',
      points([{ position: [0, 0, 0] }]),
      '--outputs',
      'a:first',
      '--json',
    );
    expect((JSON.parse(without.out) as { outputs: unknown }).outputs).toEqual({ 'a:first': [9] });
    expect(
      await run('eval', doc, '--points', points([{ position: [0, 0, 0] }]), '--outputs', 'p:id'),
    ).toMatchObject({ code: 1, error: expect.stringContaining('“part”') as string });
  });
});

describe('bake', () => {
  it('writes maps and a model that opens, with and without texture coordinates', async () => {
    const doc = write('paint.json', DEMO_MATERIALS[3]?.document());
    for (const [model, depth] of [
      ['demo:tile', 16],
      ['demo:quay', 8],
    ] as const) {
      const out = path.join(folder, model.replace(':', '-'));
      const result = await run(
        'bake',
        doc,
        '--model',
        model,
        '--size',
        '64',
        '--depth',
        String(depth),
        '--out',
        out,
      );
      expect([result.code, result.error.replace(/It has no texture coordinates.*/, '')]).toEqual([
        0,
        '',
      ]);
      expect(readdirSync(out)).toHaveLength(7);
      const colour = decode(readFileSync(path.join(out, 'glazed-stoneware-base-colour.png')));
      expect([colour.width, colour.depth, colour.channels]).toEqual([64, depth, 3]);
      const report = await validator.validateBytes(
        new Uint8Array(readFileSync(path.join(out, 'glazed-stoneware.glb'))),
      );
      expect(report.issues.messages.filter((message) => message.severity === 0)).toEqual([]);
      const glb = await new NodeIO().readBinary(
        new Uint8Array(readFileSync(path.join(out, 'glazed-stoneware.glb'))),
      );
      expect(glb.getRoot().listTextures()).toHaveLength(3);
    }
  }, 150000);

  it(
    'shows opacity in the model as its values suggest or as was chosen, and says what is ' +
      'frozen',
    async () => {
      const holed = documentOf(
        [
          node('c', 'patterns.checks', { scale: 3 }),
          node('v', 'model.view-angle'),
          node('s', 'surface.surface', { coat: 0.6 }),
        ],
        ['c:mask > s:opacity', 'v:value > s:roughness', 's:surface > @out:surface'],
      );
      for (const [opacityMode, expected] of [
        [undefined, 'MASK'],
        ['dithered', 'BLEND'],
        ['opaque', 'OPAQUE'],
      ] as const) {
        const out = path.join(folder, `holed-${String(opacityMode)}`);
        const result = await run(
          'bake',
          write('holed.json', { ...holed, name: 'Holed', ...(opacityMode ? { opacityMode } : {}) }),
          '--model',
          'demo:tile',
          '--size',
          '64',
          '--out',
          out,
        );
        expect(result.error).toBe(
          '“View angle” follows the camera; it is frozen as seen straight on.',
        );
        expect(readdirSync(out)).toEqual(
          expect.arrayContaining(['holed-coat.png', 'holed-coat-roughness.png']),
        );
        const glb = await new NodeIO()
          .registerExtensions(ALL_EXTENSIONS)
          .readBinary(new Uint8Array(readFileSync(path.join(out, 'holed.glb'))));
        expect(glb.getRoot().listMaterials()[0]?.getAlphaMode()).toBe(expected);
      }
    },
    60000,
  );

  it('refuses models that are cut off, no models, or hold numbers that are none', async () => {
    const doc = write('paint.json', DEMO_MATERIALS[3]?.document());
    const tile = readFileSync(path.resolve(import.meta.dirname, '../../assets/models/tile.glb'));
    const attempt = async (bytes: Uint8Array): Promise<string> => {
      const file = path.join(folder, 'model.glb');
      writeFileSync(file, bytes);
      const { code, error } = await run(
        'bake',
        doc,
        '--model',
        file,
        '--size',
        '64',
        '--out',
        folder,
      );
      expect(code).toBe(1);
      return error;
    };
    expect(await attempt(tile.subarray(0, 4000))).toContain('cut off');
    expect(
      await attempt(new TextEncoder().encode('this is not a model at all, only text')),
    ).toContain('not a binary glTF');
    const poisoned = new Uint8Array(tile);
    const json = new DataView(poisoned.buffer).getUint32(12, true);
    new DataView(poisoned.buffer).setFloat32(12 + 8 + json + 8, NaN, true);
    expect(await attempt(poisoned)).toContain('not a usable number');
    expect(
      await attempt(Uint8Array.from(tile.map((byte, k) => (k > 30 && k < 80 ? 0 : byte)))),
    ).toContain('cannot be read');
  });
});

describe('the executable', () => {
  it('runs, and ends with 2 when it is called wrongly', () => {
    const root = path.resolve(import.meta.dirname, '../..');
    expect(execFileSync(path.join(root, 'bright-loom'), ['nodes'], { encoding: 'utf8' })).toContain(
      'patterns.fractal-noise',
    );
    const wrong = spawnSync(path.join(root, 'bright-loom'), ['conjure'], { encoding: 'utf8' });
    expect([wrong.status, wrong.stderr]).toEqual([
      2,
      expect.stringContaining('There is no command'),
    ]);
  });
});

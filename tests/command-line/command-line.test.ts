import { rmSync, writeFileSync } from 'node:fs';
import { execFileSync, spawnSync } from 'node:child_process';
import { folder, plain, run, write } from './run';
import path from 'node:path';
import { createHash } from 'node:crypto';
import { encode } from 'fast-png';
import { NODES } from '@/core/nodes/registry.generated';
import { DEMO_MATERIALS } from '@/server/demo/materials';
import { documentOf, node } from '../support/networks';

afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

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
          // And what else there is to say of a document that ends nowhere.
          { code: 'network.no-surface', severity: 'note', pointer: '/network' },
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

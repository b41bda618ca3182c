import { readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { folder, run, write } from './run';
import path from 'node:path';
import { NodeIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { decode } from 'fast-png';
import validator from 'gltf-validator';
import { STARTERS } from '@/core/starters/starters';
import { documentOf, node } from '../support/networks';

afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
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
    expect(await found('--weld', '0.002', '--flip-winding', '--smooth', '20')).toEqual([]);
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

describe('bake', () => {
  it('writes maps and a model that opens, with and without texture coordinates', async () => {
    const doc = write('paint.json', STARTERS.find(({ id }) => id === 'stoneware')?.document());
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
    const doc = write('paint.json', STARTERS.find(({ id }) => id === 'stoneware')?.document());
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

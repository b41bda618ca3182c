/** Explaining and comparing by command. */
import { readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { decode } from 'fast-png';
import { setOption, setValue } from '@/core/edit/nodes';
import { folder, plain, run, write } from './run';

afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

const first = write('first.json', plain);
const point = { position: [0, 0.1, 0], normal: [0, 1, 0], fields: { curvature: 0.25 } };
const points = write('points.json', { points: [point, { ...point, position: [0, 0.3, 0] }] });

describe('explain', () => {
  it('prints what eval prints, from the surface back to the sources', async () => {
    const { code, out } = await run('explain', first, '--points', points, '--json');
    expect(code).toBe(0);
    const explained = JSON.parse(out) as {
      format: string;
      outputs: { key: string; values: number[][] }[];
    };
    expect(explained.format).toBe('bright-loom/explanation');
    expect(explained.outputs.map(({ key }) => key)[0]).toBe('s:surface');
    const evaluated = JSON.parse((await run('eval', first, '--points', points, '--json')).out) as {
      outputs: Record<string, number[]>;
    };
    for (const key of ['h:value', 'm:value', 'c:convex'])
      expect(explained.outputs.find((each) => each.key === key)?.values).toEqual(
        evaluated.outputs[key]?.map((value) => [value]),
      );
  });
  it('prints a table, and says what it needs', async () => {
    const { out } = await run('explain', first, '--points', points);
    expect(out.split('\n')[0]).toBe('place\toutput\tchannel\tpoint 1\tpoint 2');
    expect(await run('explain', first)).toMatchObject({ code: 2 });
  });
});

describe('plot', () => {
  it('prints what comes out for what arrives, and where range is lost', async () => {
    const call = ['plot', first, '--from', 'h:value', '--to', 'm:value', '--model', 'demo:tile'];
    const { code, out } = await run(...call);
    expect(code).toBe(0);
    const [head, ...lines] = out.split('\n');
    expect(head).toBe('x\tlow\tmiddle\thigh');
    expect(lines.filter((line) => !line.startsWith('#'))).toHaveLength(129);
    const found = JSON.parse((await run(...call, '--json')).out) as { x: number[] };
    expect(found).toMatchObject({ format: 'bright-loom/transfer', from: 'h:value' });
    expect(found.x[0]).toBe(Number(lines[0]?.split('\t')[0]));
  });
  it('says what it needs, and that outputs have nothing to do with each other', async () => {
    expect(await run('plot', first)).toMatchObject({ code: 2 });
    const apart = ['plot', first, '--from', 'm:value', '--to', 'h:value', '--model', 'demo:tile'];
    expect(await run(...apart)).toMatchObject({ code: 2 });
  });
});

describe('diff', () => {
  const rough = setValue(plain, null, 'm', 'b', 0.8);
  const slight = setValue(rough, null, 's', 'specular', 0.49);
  const second = write('second.json', setOption(slight, null, 'h', 'per', 'object'));

  it('lists what changed; equal documents are said to be equal', async () => {
    const { code, out } = await run('diff', first, second);
    expect(code).toBe(0);
    expect(out.split('\n').sort()).toEqual([
      expect.stringMatching(/^mode: Gradient: /),
      expect.stringMatching(/^value: Math: .*0\.25 → 0\.8/),
      expect.stringMatching(/^value: Surface: Reflection.* → 0\.49/),
    ]);
    expect((await run('diff', first, first)).out).toBe('The documents are the same.');
  });
  it('measures each change on a model, and writes the pictures', async () => {
    const out = path.join(folder, 'pictures');
    const told = await run(
      ...['diff', first, second, '--model', 'demo:tile', '--size', '64', '--out', out, '--json'],
    );
    expect(told.error).toBe('');
    const { changes, difference, sum } = JSON.parse(told.out) as {
      changes: { share: number; kind: string }[];
      difference: { mean: number };
      sum: number;
    };
    expect(difference.mean).toBeGreaterThan(0);
    const shares = changes.map(({ share }) => share);
    expect(shares).toEqual([...shares].sort((a, b) => b - a));
    expect(sum).toBeCloseTo(
      shares.reduce((total, share) => total + share, 0),
      12,
    );
    for (const name of ['before', 'after', 'difference']) {
      const { width, height } = decode(readFileSync(path.join(out, `${name}.png`)));
      expect([width, height]).toEqual([64, 64]);
    }
  });
  it('says what it needs', async () => {
    expect(await run('diff', first)).toMatchObject({ code: 2 });
    expect((await run('diff', first, second, '--out', folder)).error).toContain('--model');
    expect(
      (await run('diff', first, second, '--model', 'demo:tile', '--size', '63')).error,
    ).toContain('--size');
    expect(await run('diff', first, path.join(folder, 'none.json'))).toMatchObject({ code: 1 });
  });
});

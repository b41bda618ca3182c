import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { listDefinitions } from '@/core/compile/catalogue';
import { checkCompiled } from '@/core/compile/compile';
import { exampleOf } from '@/core/compile/example';
import { handbookPages } from '@/core/compile/handbook';

const root = path.resolve(import.meta.dirname, '../..');
const folder = path.join(root, 'docs/nodes');

describe('the handbook of nodes', () => {
  it('is what the nodes themselves say', () => {
    const pages = handbookPages(listDefinitions());
    expect(
      readdirSync(folder)
        .filter((file) => file.endsWith('.md'))
        .sort(),
    ).toEqual([...pages.keys()].sort());
    for (const [file, text] of pages)
      expect(readFileSync(path.join(folder, file), 'utf8')).toBe(text);
  });
  it('has a picture of every node, and no other', () => {
    expect(readdirSync(path.join(folder, 'pictures')).sort()).toEqual(
      listDefinitions()
        .map(({ id }) => `${id}.png`)
        .sort(),
    );
  });
  it.each(listDefinitions().map((definition) => [definition.id, definition] as const))(
    'the example of %s has nothing wrong with it',
    (_id, definition) => {
      expect(checkCompiled(exampleOf(definition).document)).toEqual([]);
    },
  );
});

describe('adding a node', () => {
  const copy = path.join(root, 'test-results/added-node');
  afterAll(() => {
    rmSync(copy, { recursive: true, force: true });
  });
  it('takes the one file shown in CONTRIBUTING, and nothing else', () => {
    const source =
      /```ts\n([\s\S]*?)```/
        .exec(readFileSync(path.join(root, 'CONTRIBUTING.md'), 'utf8'))?.[1]
        ?.replaceAll(/^ {3}/gm, '') ?? '';
    expect(source).toContain('defineNode');
    rmSync(copy, { recursive: true, force: true });
    mkdirSync(copy, { recursive: true });
    cpSync(path.join(root, 'src/core'), path.join(copy, 'core'), { recursive: true });
    writeFileSync(path.join(copy, 'core/nodes/math/halve.node.ts'), source);
    const run = (...given: string[]): string => {
      const result = spawnSync(
        process.execPath,
        [path.join(root, 'node_modules/tsx/dist/cli.mjs'), ...given],
        { cwd: root, encoding: 'utf8' },
      );
      expect(result.stderr).toBe('');
      return result.stdout;
    };
    expect(run('scripts/gen-nodes.ts', path.join(copy, 'core/nodes'))).toContain(
      `${String(listDefinitions().length + 1)} nodes`,
    );
    writeFileSync(
      path.join(copy, 'use.ts'),
      [
        "import { listDefinitions, searchNodes } from './core/compile/catalogue';",
        "import { describeCatalogue } from './core/compile/describe';",
        "import { handbookPages } from './core/compile/handbook';",
        "import { compileNetwork, uniformsFor } from './core/compile/compile';",
        "import { WasmRunner } from './core/backends/wasm/runner';",
        "import { emptyDocument } from './core/graph/document';",
        "const document = { ...emptyDocument('x'), network: { nodes: [{ id: 'n', type: " +
          "'math.halve', version: 1, at: [0, 0] as const, values: { value: 3 }, options: {} " +
          '}], strands: [], regions: [], notes: [] } };',
        "const compiled = compileNetwork(document, { surface: false, taps: ['n:value'] });",
        'const runner = new WasmRunner(compiled.program);',
        'runner.setUniforms(uniformsFor(compiled, document, { size: 1, minimum: [0, 0, 0], ' +
          'extent: [1, 1, 1] }));',
        'const out = [new Float32Array(1)];',
        'runner.run(() => undefined, 1, out);',
        'console.log(JSON.stringify({ value: out[0]?.[0], found: ' +
          "searchNodes('half')[0]?.definition.id, listed: " +
          "JSON.stringify(describeCatalogue()).includes('math.halve'), told: " +
          "handbookPages(listDefinitions()).get('math.md')?.includes('Half of a value') }));",
      ].join('\n'),
    );
    expect(JSON.parse(run(path.join(copy, 'use.ts')))).toEqual({
      value: 1.5,
      found: 'math.halve',
      listed: true,
      told: true,
    });
  });
});

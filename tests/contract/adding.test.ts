import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';
import { listDefinitions } from '@/core/compile/catalogue';

const root = path.resolve(import.meta.dirname, '../..');
const copy = path.join(root, 'test-results/added');
const examples = [
  ...readFileSync(path.join(root, 'CONTRIBUTING.md'), 'utf8').matchAll(/```ts\n([\s\S]*?)```/g),
].map((match) => (match[1] ?? '').replaceAll(/^ {3}/gm, ''));
const example = (maker: string): string =>
  examples.find((text) => text.includes(`${maker}(`)) ?? '';
/** Where the example of each maker belongs, and a member that must not be forgotten. */
const ADDED = {
  defineNode: { file: 'nodes/math/halve.node.ts', needed: 'help' },
  defineMap: { file: 'mesh/maps/ground-height.map.ts', needed: 'takesDetail' },
  defineParameter: { file: 'nodes/parameters/thin-film.parameter.ts', needed: 'shading' },
  defineExport: { file: 'handoff/exports/list.export.ts', needed: 'needs' },
} as const;

const run = (...given: string[]): string => {
  const result = spawnSync(
    process.execPath,
    [path.join(root, 'node_modules/tsx/dist/cli.mjs'), ...given],
    { cwd: root, encoding: 'utf8' },
  );
  expect(result.stderr).toBe('');
  return result.stdout;
};

/** What the examples are used for, in a process of its own over the copied core. */
const USE = `
import { listDefinitions, findDefinition } from './core/compile/catalogue';
import { searchNodes } from './core/compile/search-nodes';
import { describeCatalogue } from './core/compile/describe';
import { handbookPages } from './core/compile/handbook';
import { compileNetwork, uniformsFor } from './core/compile/compile';
import { WasmRunner } from './core/backends/wasm/runner';
import { emptyDocument } from './core/graph/document';
import { NetworkSketch } from './core/edit/network-sketch';
import { MODEL_LOOKS } from './core/evaluate/model-looks';
import { EXPORT_FORMATS } from './core/handoff/formats';
import { bakeFiles } from './core/handoff/packaging';
import { MAP_VIEWS, MeshAnalysis, mapKey, resolveMapSettings } from './core/mesh/analysis';
import { readFileSync } from 'node:fs';
import { readModel } from './core/exchange/read-model';
import { surfaceReads, surfaceWrites } from './core/surface/stage-layout';

const halve = { ...emptyDocument('x'), network: new NetworkSketch()
  .node('n', 'math.halve', { values: { value: 3 } }).inside({}) };
const compiled = compileNetwork(halve, { surface: false, taps: ['n:value'] });
const runner = new WasmRunner(compiled.program);
const scale = { size: 1, minimum: [0, 0, 0], extent: [1, 1, 1] } as const;
runner.setUniforms(uniformsFor(compiled, halve, scale));
const out = [new Float32Array(1)];
runner.run(() => undefined, 1, out);

const { mesh } = await readModel(
  new Uint8Array(readFileSync('assets/models/quay.glb')), 'quay');
const settings = resolveMapSettings('ground-height', { reach: 1 }, {}, mesh.size);
const analysis = new MeshAnalysis(mesh);
const heights = analysis.measureTexels(settings, 16, 0, analysis.texelCount(16));

const filmed = new NetworkSketch()
  .node('s', 'surface.surface', { values: { thinFilm: 0.5 } }).finish('Film', 's.surface');
const { files } = await bakeFiles(filmed, mesh, () => undefined,
  { size: 16, depth: 8, formats: EXPORT_FORMATS.map(([name]) => name) });
const glb = files.find(({ name }) => name.endsWith('.glb'));

console.log(JSON.stringify({
  node: {
    value: out[0]?.[0],
    found: searchNodes('half')[0]?.definition.id,
    listed: JSON.stringify(describeCatalogue()).includes('math.halve'),
    handbook: handbookPages(listDefinitions()).get('math.md')?.includes('Half of a value'),
  },
  map: {
    isNamed: mapKey(settings).startsWith('{"kind":"ground-height"'),
    isWithin: heights.length > 0 && heights.every((value) => value >= 0 && value <= 1),
    view: MAP_VIEWS.get('ground-height')?.stores,
    look: MODEL_LOOKS.some(({ id }) => id === 'ground-height'),
  },
  parameter: {
    input: findDefinition('surface.surface')?.inputs['thinFilm']?.title,
    isWritten: surfaceWrites(8).includes('$30'),
    isRead: /float iridescence = texelFetch/.test(surfaceReads(8)),
    map: files.some(({ name }) => name === 'film-thin-film.png'),
    model: Buffer.from(glb?.bytes ?? []).toString('latin1')
      .includes('"KHR_materials_iridescence":{"iridescenceFactor":1,"iridescenceTexture":'),
  },
  format: JSON.parse(new TextDecoder().decode(
    files.find(({ name }) => name === 'film.json')?.bytes))[0].map,
}));
`;

beforeAll(() => {
  rmSync(copy, { recursive: true, force: true });
  mkdirSync(copy, { recursive: true });
  cpSync(path.join(root, 'src/core'), path.join(copy, 'core'), {
    recursive: true,
    filter: (file) => !file.endsWith('.test.ts'),
  });
  for (const [maker, { file }] of Object.entries(ADDED))
    writeFileSync(path.join(copy, 'core', file), example(maker));
  expect(run('scripts/gen-nodes.ts', path.join(copy, 'core/nodes'))).toContain(
    `${String(listDefinitions().length + 1)} nodes`,
  );
  run('scripts/gen-kinds.ts', path.join(copy, 'core'));
  writeFileSync(path.join(copy, 'use.ts'), USE);
});
afterAll(() => {
  rmSync(copy, { recursive: true, force: true });
});

describe('what CONTRIBUTING shows', () => {
  it('adds a node, a kind of map, a parameter and a format with one file each', () => {
    expect(JSON.parse(run(path.join(copy, 'use.ts')))).toEqual({
      node: { value: 1.5, found: 'math.halve', listed: true, handbook: true },
      map: {
        isNamed: true,
        isWithin: true,
        view: 'height above the lowest point, in object sizes',
        look: true,
      },
      parameter: { input: 'Thin film', isWritten: true, isRead: true, map: true, model: true },
      format: 'base-colour',
    });
  });
  it('is a type error where anything is forgotten', () => {
    const forgetful = Object.entries(ADDED).map(([maker, { file, needed }]) => {
      const target = path.join(
        copy,
        'core',
        path.dirname(file),
        `forgetful-${path.basename(file)}`,
      );
      writeFileSync(
        target,
        example(maker).replace(new RegExp(`^ *${needed}:.*\n|\\b${needed}: '[^']*', `, 'm'), ''),
      );
      return target;
    });
    const { config } = ts.readConfigFile(path.join(root, 'tsconfig.json'), (file) =>
      readFileSync(file, 'utf8'),
    ) as { config: unknown };
    const { options } = ts.parseJsonConfigFileContent(config, ts.sys, root);
    const files = Object.values(ADDED).map(({ file }) => path.join(copy, 'core', file));
    const program = ts.createProgram([...files, ...forgetful], {
      ...options,
      noEmit: true,
      incremental: false,
      types: [],
    });
    const errorsOf = (file: string): readonly string[] => {
      const source = program.getSourceFile(file);
      return program
        .getSemanticDiagnostics(source)
        .map(({ messageText }) => ts.flattenDiagnosticMessageText(messageText, ' '));
    };
    for (const file of files) expect(errorsOf(file)).toEqual([]);
    Object.values(ADDED).forEach(({ needed }, k) => {
      expect(errorsOf(forgetful[k] ?? '').join('\n')).toContain(`'${needed}'`);
    });
  });
});

import { describePorts } from '@/core/compile/catalogue';
import { LoadedModel } from '@/core/evaluate/loaded-model';
import { TapEvaluator } from '@/core/evaluate/tap-results';
import { framingCamera } from '@/core/evaluate/camera';
import { UNKNOWN_GREYS } from '@/core/evaluate/picture';
import { FigureReader } from '@/core/evaluate/figures';
import { EvaluationSession } from '@/core/evaluate/session';
import { StageFiller } from '@/core/evaluate/fill';
import { outputKey } from '@/core/graph/result-key';
import type { NetworkDocument } from '@/core/graph/document';
import { NODES } from '@/core/nodes/registry.generated';
import type { NodeDefinition } from '@/core/nodes/define';
import { demoModel } from '../support/ready-card';
import { documentOf, node, optionVariants, randomDocument } from '../support/networks';

const bell = await demoModel('bell');
const { mesh } = bell.analysis;
const loaded = new LoadedModel(mesh);
const none = (): undefined => undefined;
/** Maps that need no normals of another node, and none that is measured for long. */
const isPlain = ({ id }: NodeDefinition): boolean => id !== 'model.between';
const ALL = { surface: false, taps: 'all' } as const;

/** Every choice of every node that reads a measured map, with what it is told from beside it. */
const readers: readonly (readonly [string, NetworkDocument])[] = NODES.filter(
  ({ outputs }) => Object.values(outputs)[0]?.kind !== 'surface',
).flatMap((definition: NodeDefinition) =>
  optionVariants(definition)
    .map((options) =>
      documentOf(
        [
          node('n', definition.id, {}, options),
          node('apart', 'patterns.noise'),
          node('after', 'math.math', { b: 0.5 }, { operation: 'multiply' }),
        ],
        [`n:${Object.keys(definition.outputs)[0] ?? ''} > after:a`],
      ),
    )
    .filter((document) => {
      const session = new EvaluationSession(ALL);
      return session.demands(document, mesh).length > 0;
    })
    .map((document) => [definition.id, document] as const),
);

describe('what depends on a map that is not measured yet', () => {
  it('is found in all nodes that read maps', () => {
    expect(new Set(readers.map(([id]) => id)).size).toBeGreaterThan(5);
  });
  it.each(readers)('is not known after %s, and what stands apart is', (_id, document) => {
    const session = new EvaluationSession(ALL);
    const unknown = session.unknown(document, mesh, none);
    expect(unknown.has('apart:value')).toBe(false);
    expect(unknown.size).toBeGreaterThan(0);
    const first = session.prepare(document).slots[0]?.key ?? '';
    if (unknown.has(first)) expect(unknown.has('after:value')).toBe(true);
    // With the maps there, all is known.
    expect(session.unknown(document, mesh, bell.maps).size).toBe(0);
  });
  it('is never missed: whatever changes with the maps is among it', () => {
    let checked = 0;
    for (let seed = 1; seed <= 60; seed++) {
      const document = randomDocument(seed, 9, isPlain);
      const session = new EvaluationSession(ALL);
      const demands = session.demands(document, mesh);
      // Maps by the normals of other nodes are measured one after the other.
      if (demands.length === 0 || demands.some(({ detail }) => detail)) continue;
      checked++;
      const unknown = session.unknown(document, mesh, none);
      const measured = session.evaluate(document, mesh, loaded.uniform, bell.maps);
      const without = new EvaluationSession(ALL).evaluate(document, mesh, loaded.uniform, none);
      for (const { key, first, lanes } of session.prepare(document).slots) {
        const differs = Array.from({ length: lanes }, (_, k) => first + k).some((k) =>
          measured[k]?.some((value, p) => value !== without[k]?.[p] && !Number.isNaN(value)),
        );
        if (differs) expect([seed, key, unknown.has(key)]).toEqual([seed, key, true]);
      }
    }
    expect(checked).toBeGreaterThan(3);
  });
});

describe('until it is known', () => {
  const document = documentOf(
    [node('o', 'model.occlusion'), node('s', 'surface.surface'), node('x', 'model.slope')],
    ['o:occlusion > s:roughness', 's:surface > @out:surface'],
  );
  const camera = framingCamera([0, 0, 0], mesh.size);
  const request = (): Parameters<TapEvaluator['evaluate']>[1] => ({
    document,
    path: [],
    taps: [
      ...(describePorts(document, node('o', 'model.occlusion'))?.outputs ?? []).map(({ id }) =>
        outputKey(['o'], id),
      ),
      's:surface',
      'x:slope',
    ],
    surface: true,
    camera,
    size: 32,
  });
  it('a picture is hatched, has no figures, and the surface has no appearance', () => {
    const model = new LoadedModel(mesh);
    const taps = new TapEvaluator();
    const before = taps.evaluate(model, request());
    expect(before.appearance).toBeNull();
    for (const { key, isKnown, statistics, histogram, picture } of before.taps) {
      expect([key, isKnown]).toEqual([key, key === 'x:slope']);
      if (isKnown) continue;
      expect([statistics, histogram]).toEqual([null, null]);
      const greys = new Set<number>();
      for (let k = 0; k < picture.pixels.length; k += 4)
        if (picture.pixels[k + 3]) greys.add(picture.pixels[k] ?? 0);
      expect([...greys].sort((a, b) => a - b)).toEqual([...UNKNOWN_GREYS]);
    }
    for (const { resolved } of before.demands) {
      const map = bell.maps(resolved);
      if (map) model.provide(resolved, map);
    }
    const after = taps.evaluate(model, request());
    expect(after.appearance).not.toBeNull();
    expect(after.taps.every(({ isKnown }) => isKnown)).toBe(true);
  });
  it('an image on its way counts alike', () => {
    const hash = 'a'.repeat(64);
    const pictured = documentOf(
      [
        node('i', 'patterns.image', { image: { image: hash, name: 'x' } }),
        node('m', 'math.math', {}, { operation: 'add' }),
      ],
      ['i:red > m:a'],
    );
    const session = new EvaluationSession(ALL);
    expect(session.unknown(pictured, mesh, none, { waiting: [] }).size).toBe(0);
    const unknown = session.unknown(pictured, mesh, none, { waiting: [hash] });
    expect([unknown.has('i:red'), unknown.has('m:value')]).toEqual([true, true]);
  });
  it('the stage is told so with the values, and exact questions are refused in words', () => {
    const model = new LoadedModel(mesh);
    const filler = new StageFiller();
    const filled = filler.fill(model, {
      subject: 'current',
      model: 'm',
      document,
      pin: null,
      version: 'fine 1',
      triangles: Uint32Array.of(0),
      weights: Float32Array.of(0.2, 0.2),
    });
    expect(filled.isKnown).toBe(false);
    const figures = new FigureReader();
    expect(() => figures.describe(model, document, ['o:occlusion'])).toThrow(
      'still being measured',
    );
    expect(figures.describe(model, document, ['x:slope'])).toHaveLength(1);
  });
});

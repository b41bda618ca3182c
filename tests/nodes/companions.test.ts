import { boundsOfAll, placeCompanions } from '@/core/compile/companion-places';
import { directionToObject, directionToWorld, toObject, toWorld } from '@/core/compile/model-scale';
import type { ModelBounds, CompanionFrame } from '@/core/compile/model-scale';
import {
  addCompanion,
  changeCompanion,
  getCompanions,
  removeCompanion,
  sizeCompanions,
} from '@/core/edit/companions';
import { EvaluationSession } from '@/core/evaluate/session';
import { LIMITS } from '@/core/graph/document';
import type { NetworkDocument, SceneLight, Triple } from '@/core/graph/document';
import { parseDocument } from '@/core/graph/schema';
import { uniformPoints } from '@/core/mesh/sample-points';
import type { SamplePoints } from '@/core/mesh/sample-points';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import { meshOfSketch } from '../support/meshes';
import { documentOf, node } from '../support/networks';

const current: ModelBounds = { size: 2, minimum: [-0.5, -1, -0.5], extent: [1, 2, 1] };
const slab: ModelBounds = { size: 0.5, minimum: [0, 0, 0], extent: [0.4, 0.1, 0.2] };
const PLACING = { at: [3, 0.5, -1] as Triple, turn: 50, scale: 2 };

describe('models beside the current one', () => {
  it('stand on its ground, right and left in turn, without touching', () => {
    for (const sizes of ['alike', 'true'] as const)
      for (const turn of [0, 33, -120]) {
        const bounds = [slab, slab, slab];
        const places = placeCompanions(
          current,
          bounds.map((each) => ({ bounds: each, turn })),
          sizes,
        );
        const boxes = places.map((placement) => {
          const { centre, size } = boundsOfAll(
            { ...slab, minimum: [1e9, 1e9, 1e9], extent: [-2e9, -2e9, -2e9] },
            [{ bounds: slab, placement }],
          );
          return { centre, size, placement };
        });
        for (const { placement } of boxes) {
          expect(placement.scale).toBeCloseTo(sizes === 'alike' ? 4 : 1, 6);
          const corners = Array.from({ length: 8 }, (_, k) =>
            toWorld([0.4 * (k & 1), 0.1 * ((k >> 1) & 1), 0.2 * (k >> 2)], placement),
          );
          expect(Math.min(...corners.map(([, y]) => y))).toBeCloseTo(-1, 6);
          expect(
            Math.min(...corners.map(([, , z]) => z)) + Math.max(...corners.map(([, , z]) => z)),
          ).toBeCloseTo(0, 6);
        }
        const spans = places.map((placement) => {
          const xs = Array.from(
            { length: 8 },
            (_, k) => toWorld([0.4 * (k & 1), 0.1 * ((k >> 1) & 1), 0.2 * (k >> 2)], placement)[0],
          );
          return [Math.min(...xs), Math.max(...xs)] as const;
        });
        const ordered = [...spans, [-0.5, 0.5] as const].sort(([a], [b]) => a - b);
        ordered.slice(1).forEach(([low], k) => {
          expect(low - (ordered[k]?.[1] ?? Infinity)).toBeGreaterThan(0.2);
        });
        expect((spans[0]?.[0] ?? 0) > 0.5 && (spans[1]?.[1] ?? 0) < -0.5).toBe(true);
      }
  });

  it('shows what is absurdly small or large still at a size that can be drawn', () => {
    const places = placeCompanions(
      current,
      [1e-9, 1e9].map((size) => ({
        bounds: { size, minimum: [0, 0, 0] as Triple, extent: [size, size, size] as Triple },
        turn: 0,
      })),
      'true',
    );
    expect([1e-9, 1e9].map((size, k) => (size * (places[k]?.scale ?? 0)) / current.size)).toEqual([
      expect.closeTo(1e-4, 6),
      expect.closeTo(1e4, 0),
    ]);
  });

  it('go from their own space to that of the scene and back', () => {
    const place: Triple = [0.3, -2, 5];
    toObject(toWorld(place, PLACING), PLACING).forEach((x, axis) => {
      expect(x).toBeCloseTo(place[axis as 0], 9);
    });
    directionToObject(directionToWorld(place, PLACING), PLACING).forEach((x, axis) => {
      expect(x).toBeCloseTo(place[axis as 0], 9);
    });
    expect(
      toWorld([1, 0, 0], { at: [0, 0, 0], turn: 90, scale: 3 }).map(
        (x) => Math.round(x * 1e6) / 1e6 + 0,
      ),
    ).toEqual([0, 0, -3]);
  });
});

describe('what a network reads on a model beside the current one', () => {
  const mesh = meshOfSketch(new ShapeSketch().sphere([0, 0, 0], 0.5, 16).finish());
  const points = uniformPoints(mesh, 300);
  const read = (
    document: NetworkDocument,
    taps: readonly string[],
    frame?: CompanionFrame,
  ): readonly Float32Array[] =>
    new EvaluationSession({ surface: false, taps }).evaluate(
      document,
      mesh,
      points,
      () => undefined,
      { frame },
    );
  const at = (from: SamplePoints['positions'], k: number): Triple => [
    from[k * 3] ?? 0,
    from[k * 3 + 1] ?? 0,
    from[k * 3 + 2] ?? 0,
  ];
  const frame: CompanionFrame = { placement: PLACING, current };

  it(
    'is the scene’s space where that is asked for, its own otherwise; on the current model ' +
      'both are the same to the bit',
    () => {
      const document = documentOf([
        node('w', 'model.position', {}, { space: 'world' }),
        node('o', 'model.position'),
        node('n', 'model.normal', {}, { space: 'world' }),
      ]);
      const taps = ['w:position', 'o:position', 'n:normal'];
      const there = read(document, taps, frame),
        here = read(document, taps);
      for (let k = 0; k < points.count; k++) {
        toWorld(at(points.positions, k), PLACING).forEach((x, axis) => {
          expect(there[axis]?.[k]).toBeCloseTo(x, 5);
        });
        directionToWorld(at(points.normals, k), PLACING).forEach((x, axis) => {
          expect(there[6 + axis]?.[k]).toBeCloseTo(x, 5);
        });
      }
      for (let axis = 0; axis < 3; axis++)
        expect([here[axis], there[3 + axis]]).toEqual([here[3 + axis], here[3 + axis]]);
    },
  );

  it(
    'sees the scene’s lights from where it stands, near ones as strong as the distance ' +
      'makes them',
    () => {
      const lights: readonly SceneLight[] = [
        { id: 'a', name: 'A', kind: 'far', at: [1, 0.5, 0.2], colour: [1, 1, 1], intensity: 2 },
        { id: 'b', name: 'B', kind: 'near', at: [1, 1, 0], colour: [1, 1, 1], intensity: 3 },
      ];
      const document = {
        ...documentOf([
          node('far', 'model.light-response', {}, { light: 'first' }),
          node('near', 'model.light-response', {}, { light: 'second' }),
        ]),
        lights,
      };
      const [far, near, arriving] = read(
        document,
        ['far:facing', 'near:facing', 'near:light'],
        frame,
      );
      const unit = (v: Triple): Triple => {
        const length = Math.hypot(...v);
        return [v[0] / length, v[1] / length, v[2] / length];
      };
      const dot = (a: Triple, b: Triple): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
      // The lamp stands one size of the current model right of and above the middle of it.
      const lamp: Triple = [2, 2, 0];
      for (let k = 0; k < points.count; k++) {
        const normal = directionToWorld(at(points.normals, k), PLACING),
          place = toWorld(at(points.positions, k), PLACING);
        const way: Triple = [lamp[0] - place[0], lamp[1] - place[1], lamp[2] - place[2]];
        expect(far?.[k]).toBeCloseTo(dot(normal, unit([1, 0.5, 0.2])), 4);
        expect(near?.[k]).toBeCloseTo(dot(normal, unit(way)), 4);
        expect(arriving?.[k]).toBeCloseTo(
          (Math.max(0, dot(normal, unit(way))) * 3 * current.size ** 2) / dot(way, way),
          3,
        );
      }
    },
  );
});

describe('the document’s companions', () => {
  const bare = documentOf([]);
  it('are added up to the limit, changed and taken away again without a trace', () => {
    const one = addCompanion(bare, { id: 'bell', name: 'Mooring bell' });
    expect(getCompanions(one)).toEqual({
      sizes: 'alike',
      models: [{ id: 'beside1', model: 'bell', name: 'Mooring bell', turn: 0 }],
    });
    const changed = sizeCompanions(
      changeCompanion(one, 'beside1', { turn: 40, material: 'bronze' }),
      'true',
    );
    expect(getCompanions(changed)).toEqual({
      sizes: 'true',
      models: [
        { id: 'beside1', model: 'bell', name: 'Mooring bell', turn: 40, material: 'bronze' },
      ],
    });
    expect(
      getCompanions(changeCompanion(changed, 'beside1', { material: null })).models[0],
    ).not.toHaveProperty('material');
    expect(parseDocument(JSON.parse(JSON.stringify(changed))).document).toEqual(changed);
    expect(removeCompanion(changed, 'beside1')).toEqual(bare);
    let full = bare;
    for (let k = 0; k < LIMITS.companions + 2; k++)
      full = addCompanion(full, { id: `m${String(k)}`, name: 'M' });
    expect(getCompanions(full).models).toHaveLength(LIMITS.companions);
  });
  it('are refused where they are not of that form', () => {
    const companion = { id: 'a', model: 'bell', name: 'Bell', turn: 0 };
    for (const wrong of [
      { sizes: 'huge', models: [] },
      { sizes: 'true' },
      { sizes: 'true', models: [{ ...companion, turn: 500 }] },
      { sizes: 'true', models: [companion, companion] },
      { sizes: 'true', models: ['a', 'b', 'c', 'd'].map((id) => ({ ...companion, id })) },
      { sizes: 'true', models: [{ ...companion, material: '../x' }] },
    ]) {
      expect(parseDocument({ ...bare, companions: wrong }).document).toBeNull();
    }
  });
});

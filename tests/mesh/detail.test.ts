import { EvaluationSession, detailNormals, withNested } from '@/core/evaluate/session';
import type { MapSource } from '@/core/evaluate/session';
import { feedingText } from '@/core/compile/feeding';
import type { NetworkDocument, NodeInstance } from '@/core/graph/document';
import { MeshAnalysis, isShared, isStored } from '@/core/mesh/analysis';
import type { MapSettings } from '@/core/mesh/analysis';
import { uniformPoints } from '@/core/mesh/sample-points';
import type { SamplePoints } from '@/core/mesh/sample-points';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import { meshOfSketch, unitTile } from '../support/meshes';
import { documentOf, node } from '../support/networks';

const plate = new MeshAnalysis(unitTile());
const inside = (points: SamplePoints, margin: number): number[] =>
  Array.from({ length: points.count }, (_, k) => k).filter(
    (k) =>
      (points.faceNormals[k * 3 + 1] ?? 0) > 0.99 &&
      Math.abs(points.positions[k * 3] ?? 9) < 0.5 - margin &&
      Math.abs(points.positions[k * 3 + 2] ?? 9) < 0.5 - margin,
  );
const told =
  (make: (x: number, y: number, z: number) => readonly [number, number, number]) =>
  (points: SamplePoints): Float32Array<ArrayBuffer> => {
    const result = new Float32Array(points.count * 3);
    for (let k = 0; k < points.count; k++) {
      const [x, y, z] = make(
          points.positions[k * 3] ?? 0,
          points.positions[k * 3 + 1] ?? 0,
          points.positions[k * 3 + 2] ?? 0,
        ),
        length = Math.hypot(x, y, z);
      result.set([x / length, y / length, z / length], k * 3);
    }
    return result;
  };

describe('curvature by told normals', () => {
  const points = uniformPoints(plate.mesh, 60_000);
  it('of waves on a plane is half the second derivative: ρ·A·k²·sin(kx)/2', () => {
    const amplitude = 0.001,
      k = 40;
    for (const radius of [0.015, 0.01]) {
      const settings: MapSettings = {
        kind: 'curvature',
        radius,
        detail: `waves ${String(radius)}`,
      };
      const values = plate.measure(
        settings,
        points,
        0,
        0,
        points.count,
        told((x) => [-amplitude * k * Math.cos(k * x), 1, 0]),
      );
      const errors = inside(points, 0.08).map(
        (at) =>
          (values[at] ?? NaN) -
          ((radius * amplitude * k * k) / 2) * Math.sin(k * (points.positions[at * 3] ?? 0)),
      );
      const strongest = (radius * amplitude * k * k) / 2;
      expect(Math.hypot(...errors) / Math.sqrt(errors.length)).toBeLessThan(strongest * 0.25);
      // The mean error of the crests: the disc rounds them by (kρ)²/8 or so.
      const crests = inside(points, 0.08)
        .filter((at) => Math.sin(k * (points.positions[at * 3] ?? 0)) > 0.98)
        .map((at) => values[at] ?? NaN);
      expect(
        Math.abs(crests.reduce((a, b) => a + b, 0) / crests.length / strongest - 1),
      ).toBeLessThan((k * radius) ** 2 / 8 + 0.03);
    }
  });
  it(
    'told the normals of a sphere, a plane bends like one, within 2 %; told its own, not ' +
      'at all',
    () => {
      const radius = 0.03,
        of = 2;
      const values = plate.measure(
        { kind: 'curvature', radius, detail: 'dome' },
        points,
        0,
        0,
        points.count,
        told((x, _y, z) => [x / of, Math.sqrt(1 - (x * x + z * z) / of ** 2), z / of]),
      );
      const middle = inside(points, 0.3);
      for (const at of middle)
        expect(Math.abs((values[at] ?? NaN) - radius / of)).toBeLessThan(
          (radius / of) * 0.02 + 4e-4,
        );
      const own = plate.measure(
        { kind: 'curvature', radius, detail: 'own' },
        points,
        0,
        0,
        points.count,
        ({ normals }) => normals.slice(),
      );
      expect(own).toEqual(plate.measure({ kind: 'curvature', radius }, points, 0));
    },
  );
  it('does not depend on the pieces it is measured in, and asks for the normals once', () => {
    let asked = 0;
    const detail = (given: SamplePoints): Float32Array<ArrayBuffer> => {
      asked++;
      return told((x, _y, z) => [x, 2, z])(given);
    };
    const settings: MapSettings = { kind: 'curvature', radius: 0.04, detail: 'pieces' };
    const whole = plate.measure(settings, points, 0, 0, points.count, detail);
    expect(plate.measure(settings, points, 0, 3000, 500, detail)).toEqual(whole.slice(3000, 3500));
    expect(asked).toBe(1);
    expect(() => plate.measure({ ...settings, detail: 'nobody tells' }, points, 0)).toThrow(
      'nobody supplies them',
    );
  });
});

describe('occlusion by told normals', () => {
  const points = uniformPoints(plate.mesh, 2000);
  it('of a plane whose normal leans by θ is open by (1 + cos θ)/2', () => {
    for (const degrees of [0, 20, 45, 80]) {
      const lean = (degrees * Math.PI) / 180;
      const values = plate.measure(
        {
          kind: 'occlusion',
          reach: 0.5,
          coneRad: Math.PI / 2,
          falloff: 0,
          side: 'open',
          detail: `lean ${String(degrees)}`,
        },
        points,
        2048,
        0,
        points.count,
        told(() => [Math.sin(lean), Math.cos(lean), 0]),
      );
      for (const at of inside(points, 0.05))
        expect(Math.abs((values[at] ?? NaN) - (1 + Math.cos(lean)) / 2)).toBeLessThan(0.012);
    }
  });
  it('told the surface’s own normals stays what it was, on a curved model too', () => {
    const ball = new MeshAnalysis(
      meshOfSketch(
        new ShapeSketch().sphere([0, 0, 0], 1, 32).sphere([1.6, 0, 0], 0.7, 24).finish(),
      ),
    );
    const seen = uniformPoints(ball.mesh, 1500);
    const settings = {
      kind: 'occlusion',
      reach: 1,
      coneRad: Math.PI / 2,
      falloff: 0,
      side: 'open',
    } as const;
    const plain = ball.measure(settings, seen, 512),
      own = ball.measure({ ...settings, detail: 'own' }, seen, 512, 0, seen.count, ({ normals }) =>
        normals.slice(),
      );
    for (let k = 0; k < seen.count; k++)
      expect(Math.abs((plain[k] ?? NaN) - (own[k] ?? NaN))).toBeLessThan(0.05);
  });
});

describe('a network that measures by its own normals', () => {
  const bumpy = (scale = 8, more: readonly NodeInstance[] = []): NetworkDocument =>
    documentOf(
      [
        node('n', 'patterns.noise', { scale }),
        node('b', 'surface.bump', { relief: 0.01 }),
        node('c', 'model.curvature', { radius: 0.03 }),
        node('o', 'model.occlusion'),
        ...more,
      ],
      ['n:value > b:height', 'b:normal > c:detail', 'b:normal > o:detail'],
    );
  const session = (): EvaluationSession =>
    new EvaluationSession({ surface: false, taps: ['c:signed', 'o:openness', 'b:normal'] });
  const mesh = plate.mesh;
  const source: MapSource = (settings, detail) => plate.fineMap(settings, 256, detail);

  it('finds the bumps on a flat plate that has none of its own', () => {
    const points = uniformPoints(mesh, 1500),
      at = inside(points, 0.1);
    const [signed, openness] = session().evaluate(bumpy(), mesh, points, source);
    const spread = (lane: Float32Array | undefined): number =>
      Math.max(...at.map((k) => lane?.[k] ?? NaN)) - Math.min(...at.map((k) => lane?.[k] ?? NaN));
    expect([spread(signed) > 0.02, spread(openness) > 0.005]).toEqual([true, true]);
    const without = {
      ...bumpy(),
      network: {
        ...bumpy().network,
        strands: bumpy().network.strands.filter(({ to }) => to.input !== 'detail'),
      },
    };
    const flat = session().evaluate(without, mesh, points, source);
    expect([spread(flat[0]) < 1e-3, spread(flat[1]) < 1e-3]).toEqual([true, true]);
  });
  it(
    'asks for another map when what feeds the normals changes, and for the same when ' +
      'anything else does',
    () => {
      const named = (document: NetworkDocument): readonly unknown[] =>
        session()
          .demands(document, mesh)
          .map(({ resolved }) => resolved);
      expect(named(bumpy())).toHaveLength(2);
      expect(named(bumpy(9))).not.toEqual(named(bumpy()));
      const moved = bumpy(8, [node('z', 'patterns.noise', { scale: 3 })]);
      expect(
        named({
          ...moved,
          name: 'Other',
          network: {
            ...moved.network,
            nodes: moved.network.nodes.map((each) => ({ ...each, at: [7, 7] as const, name: 'x' })),
          },
        }),
      ).toEqual(named(bumpy()));
      for (const { resolved } of session().demands(bumpy(), mesh))
        expect([isShared(resolved), isStored(resolved)]).toEqual([false, true]);
      const lit = bumpy(8, [node('l', 'model.light-response')]);
      const byLight = {
        ...lit,
        network: {
          ...lit.network,
          strands: lit.network.strands.map((strand) =>
            strand.to.input === 'height'
              ? { ...strand, from: { node: 'l', output: 'wrapped' } }
              : strand,
          ),
        },
      };
      expect(feedingText({ ...byLight, lights: [] }, ['c'], 'detail')).not.toBe(
        feedingText(byLight, ['c'], 'detail'),
      );
      expect(feedingText({ ...bumpy(), lights: [] }, ['c'], 'detail')).toBe(
        feedingText(bumpy(), ['c'], 'detail'),
      );
    },
  );
  it('has the maps that its normals need measured first', () => {
    const nested = documentOf(
      [node('a', 'model.occlusion'), node('b', 'surface.bump'), node('c', 'model.curvature')],
      ['a:openness > b:height', 'b:normal > c:detail'],
    );
    const demands = withNested(
      new EvaluationSession({ surface: false, taps: ['c:signed'] }).demands(nested, mesh),
      mesh,
    );
    expect(
      demands.map(({ field, resolved, needs }) => [field, resolved.kind, needs.length]),
    ).toEqual([
      ['', 'occlusion', 0],
      ['map:c', 'curvature', 1],
    ]);
    expect(demands[1]?.needs).toEqual([demands[0]?.resolved]);
  });
  it('reads normals through a group, and takes the surface’s own where none arrive', () => {
    const inner = {
      nodes: [node('c', 'model.curvature')],
      strands: [
        {
          id: 's',
          from: { node: '@in', output: 'n' },
          to: { node: 'c', input: 'detail' },
          order: 0,
        },
        {
          id: 't',
          from: { node: 'c', output: 'signed' },
          to: { node: '@out', input: 'v' },
          order: 0,
        },
      ],
      regions: [],
      notes: [],
    };
    const base = bumpy();
    const grouped: NetworkDocument = {
      ...base,
      groups: {
        g: {
          id: 'g',
          name: 'G',
          description: '',
          inputs: [{ id: 'n', name: 'N', kind: 'vector' }],
          outputs: [{ id: 'v', name: 'V', kind: 'scalar' }],
          dials: [],
          network: inner,
        },
      },
      network: {
        ...base.network,
        nodes: [...base.network.nodes, { ...node('q', 'group'), group: 'g' }],
        strands: [
          ...base.network.strands,
          {
            id: 'u',
            from: { node: 'b', output: 'normal' },
            to: { node: 'q', input: 'n' },
            order: 0,
          },
        ],
      },
    };
    const text = feedingText(grouped, ['q', 'c'], 'detail');
    expect(text).toContain('patterns.noise');
    expect(
      feedingText(
        {
          ...grouped,
          network: {
            ...grouped.network,
            nodes: grouped.network.nodes.map((each) =>
              each.id === 'n' ? { ...each, values: { scale: 99 } } : each,
            ),
          },
        },
        ['q', 'c'],
        'detail',
      ),
    ).not.toBe(text);
    const points = uniformPoints(mesh, 200);
    const zero = documentOf(
      [node('v', 'constants.vector', { vector: [0, 0, 0] }), node('c', 'model.curvature')],
      ['v:vector > c:detail'],
    );
    expect(
      detailNormals({ document: zero, key: 'c<detail' }, mesh, () => undefined)(points),
    ).toEqual(points.normals);
  });
});

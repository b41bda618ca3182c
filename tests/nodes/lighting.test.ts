import { compileNetwork } from '@/core/compile/compile';
import { framingCamera, seePoints } from '@/core/evaluate/camera';
import { drawOutput } from '@/core/evaluate/draw';
import { EvaluationSession } from '@/core/evaluate/session';
import { DEFAULT_LIGHTS } from '@/core/graph/document';
import type { NetworkDocument, SceneLight } from '@/core/graph/document';
import { MeshAnalysis, isStored, resolveMapSettings } from '@/core/mesh/analysis';
import { uniformPoints } from '@/core/mesh/sample-points';
import { shadowsOn } from '@/core/mesh/shadow';
import { ShapeSketch } from '@/core/mesh/shape-sketch';
import { meshOfSketch } from '../support/meshes';
import { documentOf, node } from '../support/networks';

/** A floor from −2 to 2 with its top at 0, and a wall of a height along its left rim. */
const HEIGHT = 0.8;
const scene = meshOfSketch(
  new ShapeSketch()
    .box([0, -0.05, 0], [2, 0.05, 2], 0.001)
    .box([-2.05, HEIGHT / 2 - 0.05, 0], [0.05, HEIGHT / 2 + 0.05, 2], 0.001)
    .finish(),
);
const analysis = new MeshAnalysis(scene);
const spread = uniformPoints(scene, 6000);
const onFloor = Array.from({ length: spread.count }, (_, k) => k).filter(
  (k) =>
    Math.abs(spread.positions[k * 3 + 1] ?? 1) < 1e-4 &&
    (spread.faceNormals[k * 3 + 1] ?? 0) > 0.9 &&
    Math.abs(spread.positions[k * 3 + 2] ?? 9) < 1 &&
    (spread.positions[k * 3] ?? 0) > -1.99,
);
const across = (k: number): number => (spread.positions[k * 3] ?? 0) + 2;

describe('shadows', () => {
  it(
    'of a wall reach as far as its height over the slope of a far light; the border is as ' +
      'wide as the light',
    () => {
      expect(onFloor.length).toBeGreaterThan(500);
      for (const up of [20, 45, 70]) {
        const e = (up * Math.PI) / 180,
          reach = HEIGHT / Math.tan(e);
        const shadow = shadowsOn(
          analysis.kernel,
          spread,
          { at: [-Math.cos(e), Math.sin(e), 0], isNear: false },
          scene.size,
          16,
        );
        // The light's disc moves the border by its radius over the sine, twice: along the ray and
        // against the floor.
        const border = (0.013 * Math.hypot(HEIGHT, reach)) / Math.sin(e) + 0.01;
        for (const k of onFloor) {
          if (across(k) < reach - border) expect(shadow[k]).toBe(1);
          if (across(k) > reach + border) expect(shadow[k]).toBe(0);
        }
      }
    },
  );
  it('of a lamp follow the lines through it', () => {
    const lamp: readonly [number, number, number] = [-3, 1.6, 0];
    const shadow = shadowsOn(analysis.kernel, spread, { at: lamp, isNear: true }, scene.size, 16);
    // Through the top of the wall's inner face at x = −2, in the plane z = 0 and all others
    // alike.
    const reach = (HEIGHT * (2 - 1 + 0)) / (1.6 - HEIGHT);
    for (const k of onFloor) {
      if (across(k) < reach - 0.08) expect(shadow[k]).toBe(1);
      if (across(k) > reach + 0.08) expect(shadow[k]).toBe(0);
    }
  });
  it('are not thrown by a model upon its lit side, nor upon sides that face away', () => {
    const ball = new MeshAnalysis(
      meshOfSketch(new ShapeSketch().sphere([0, 0, 0], 1, 24).finish()),
    );
    const shadow = shadowsOn(
      ball.kernel,
      uniformPoints(ball.mesh, 2000),
      { at: [0.6, 0.8, 0], isNear: false },
      ball.mesh.size,
      8,
    );
    const points = uniformPoints(ball.mesh, 2000);
    for (let k = 0; k < 2000; k++) {
      const facing = 0.6 * (points.normals[k * 3] ?? 0) + 0.8 * (points.normals[k * 3 + 1] ?? 0);
      if (facing > 0.15 || facing <= 0) expect(shadow[k]).toBe(0);
    }
  });
  it('depend on parts of the same points in no way on how they are divided', () => {
    const light = { at: [-0.6, 0.8, 0] as const, isNear: false };
    const whole = shadowsOn(analysis.kernel, spread, light, scene.size, 8);
    expect(shadowsOn(analysis.kernel, spread, light, scene.size, 8, 1000, 777)).toEqual(
      whole.slice(1000, 1777),
    );
  });
});

describe('light response with shadows', () => {
  const document = (
    options: Record<string, string>,
    lights: readonly SceneLight[],
  ): NetworkDocument => ({
    ...documentOf([node('n', 'model.light-response', {}, options)]),
    lights,
  });
  const low: SceneLight = {
    id: 'a',
    name: 'A',
    kind: 'far',
    at: [-1, 1, 0],
    colour: [1, 1, 1],
    intensity: 2,
  };
  const evaluate = (given: NetworkDocument): readonly Float32Array[] =>
    new EvaluationSession({ surface: false, taps: ['n:facing', 'n:light'] }).evaluate(
      given,
      scene,
      spread,
      (settings) => analysis.fineMap(settings, 512),
    );

  it('keeps the light from what the wall hides, and leaves the rest as it was', () => {
    const [plain, plainLight] = evaluate(document({}, [low])),
      [shadowed, light] = evaluate(document({ shadows: 'thrown' }, [low]));
    for (const k of onFloor) {
      if (across(k) < HEIGHT - 0.15)
        expect([shadowed?.[k], light?.[k]]).toEqual([expect.closeTo(0, 2), expect.closeTo(0, 2)]);
      if (across(k) > HEIGHT + 0.15)
        expect([shadowed?.[k], light?.[k]]).toEqual([
          expect.closeTo(plain?.[k] ?? NaN, 3),
          expect.closeTo(plainLight?.[k] ?? NaN, 3),
        ]);
    }
  });
  it(
    'asks for one map for each light there is, none without shadows, and never has them ' + 'kept',
    () => {
      const demands = (given: NetworkDocument): number =>
        new EvaluationSession({ surface: false, taps: ['n:light'] }).demands(given, scene).length;
      const lamp: SceneLight = { ...low, id: 'b', kind: 'near', at: [0, 0, 0] };
      expect([
        demands(document({}, [low])),
        demands(document({ shadows: 'thrown' }, [low])),
        demands(document({ shadows: 'thrown' }, [low, lamp])),
        demands(document({ shadows: 'thrown', light: 'second' }, [low, lamp])),
        demands(document({ shadows: 'thrown', light: 'third' }, [low, lamp])),
      ]).toEqual([0, 1, 2, 1, 0]);
      expect(isStored(resolveMapSettings('shadow', { x: 1, y: 0, z: NaN, near: 0 }, {}, 1))).toBe(
        false,
      );
      expect(resolveMapSettings('shadow', { x: 1, y: Infinity, z: NaN, near: 1 }, {}, 1)).toEqual({
        kind: 'shadow',
        at: [1, 0, 0],
        isNear: true,
      });
      expect(
        compileNetwork(document({ shadows: 'thrown' }, [low]), {
          surface: false,
          taps: ['n:light'],
        }).mapSlots.map(({ field }) => field),
      ).toEqual(['map:n~1', 'map:n~2', 'map:n~3', 'map:n~4']);
    },
  );
  it('shows the shadows of before until those of a moved light are measured', () => {
    const session = new EvaluationSession({ surface: false, taps: ['n:light'] });
    const before = session.evaluate(
      document({ shadows: 'thrown' }, [low]),
      scene,
      spread,
      (settings) => analysis.quickMap(settings, 256),
    );
    const moved = session.evaluate(
      document({ shadows: 'thrown' }, [{ ...low, intensity: 4 }]),
      scene,
      spread,
      () => undefined,
    );
    expect(moved[0]?.map((value) => value / 2)).toEqual(before[0]);
  });
});

describe('pictures of surfaces', () => {
  const ball = new MeshAnalysis(meshOfSketch(new ShapeSketch().sphere([0, 0, 0], 1, 32).finish()));
  const camera = { ...framingCamera(ball.mesh.centre, ball.mesh.size), eye: [0, 0, 4] as const };
  const seen = seePoints(ball, camera, 64, 64);
  const material = documentOf(
    [node('s', 'surface.surface', { roughness: 0.8 })],
    ['s:surface > @out:surface'],
  );
  /** Mean red of the left and of the right half. */
  const halves = (document: NetworkDocument): readonly [number, number] => {
    const { pixels, width } = drawOutput(document, 'surface', ball, seen, () => undefined);
    const sums = [0, 0],
      counts = [0, 0];
    for (let k = 0; k < pixels.length / 4; k++) {
      if (pixels[k * 4 + 3] !== 255) continue;
      const side = k % width < width / 2 ? 0 : 1;
      sums[side] = (sums[side] ?? 0) + (pixels[k * 4] ?? 0);
      counts[side] = (counts[side] ?? 0) + 1;
    }
    return [(sums[0] ?? 0) / (counts[0] ?? 1), (sums[1] ?? 0) / (counts[1] ?? 1)];
  };
  const one: SceneLight = {
    id: 'a',
    name: 'A',
    kind: 'far',
    at: [1, 0, 0.3],
    colour: [1, 1, 1],
    intensity: 3,
  };
  const dark = { turn: 0, strength: 0 };

  it(
    'are lit by the document’s own lights: from the side they come from, as strong as they ' +
      'are, with near ones and shadows',
    () => {
      const [left, right] = halves({ ...material, lights: [one], surroundings: dark });
      expect(right).toBeGreaterThan(left * 3);
      const [turnedLeft, turnedRight] = halves({
        ...material,
        lights: [{ ...one, at: [-1, 0, 0.3] }],
        surroundings: dark,
      });
      expect([turnedLeft, turnedRight]).toEqual([
        expect.closeTo(right, 0),
        expect.closeTo(left, 0),
      ]);
      const near = halves({
          ...material,
          lights: [{ ...one, kind: 'near', at: [0.8, 0, 0.4] }],
          surroundings: dark,
        }),
        far = halves({
          ...material,
          lights: [{ ...one, kind: 'near', at: [8, 0, 4] }],
          surroundings: dark,
        });
      expect(near[1]).toBeGreaterThan(far[1] * 3);
      expect(halves({ ...material, lights: [], surroundings: dark })).toEqual([0, 0]);
      expect(halves(material)).toEqual(halves({ ...material, lights: DEFAULT_LIGHTS }));
    },
  );
  it('show the surroundings turned and dimmed', () => {
    const shown = (turn: number, strength: number): readonly [number, number] =>
      halves({ ...material, lights: [], surroundings: { turn, strength } });
    expect(shown(0, 1)[1]).toBeGreaterThan(shown(0, 1)[0]);
    expect(shown(-100, 1)[0]).toBeGreaterThan(shown(-100, 1)[1]);
    expect(shown(0, 0.25)[0]).toBeLessThan(shown(0, 1)[0] * 0.7);
  });
  it('darken what a wall hides from a light that throws shadows', () => {
    const at = framingCamera(scene.centre, scene.size);
    const view = seePoints(analysis, { ...at, eye: [0, 8, 0.1] }, 64, 64);
    const light: SceneLight = { ...one, at: [-1, 0.8, 0] };
    const sum = (document: NetworkDocument): number =>
      drawOutput(document, 'surface', analysis, view, () => undefined).pixels.reduce(
        (total, value, k) => total + (k % 4 === 0 ? value : 0),
        0,
      );
    expect(
      sum({ ...material, lights: [{ ...light, shadows: true }], surroundings: dark }),
    ).toBeLessThan(sum({ ...material, lights: [light], surroundings: dark }) * 0.9);
  });
});

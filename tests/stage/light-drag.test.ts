import fc from 'fast-check';
import { lightPlace } from '@/core/compile/lights';
import { dragLight, isBehindModel, lightHandle, pushLight } from '@/core/edit/light-drag';
import { cameraAxes, framingCamera } from '@/core/evaluate/camera';
import { scaleBar } from '@/core/evaluate/scale-bar';
import type { SceneLight, Triple } from '@/core/graph/document';
import { normalise, sub } from '@/core/base/vector';

const MODEL = { minimum: [-1, 0, -2], extent: [2, 3, 4], size: 5.4 } as const;
const MIDDLE: Triple = [0, 1.5, 0];
const camera = framingCamera(MIDDLE, MODEL.size);
const { forward } = cameraAxes(camera);
const light = (kind: SceneLight['kind'], at: Triple): SceneLight => ({
  id: 'l',
  name: 'Key',
  kind,
  at,
  colour: [1, 1, 1],
  intensity: 1,
});
const rayTo = (place: Triple) => ({
  from: camera.eye,
  towards: normalise(sub(place, camera.eye)),
});
const triple = (most: number) =>
  fc.tuple(
    fc.float({ min: -most, max: most, noNaN: true }),
    fc.float({ min: -most, max: most, noNaN: true }),
    fc.float({ min: -most, max: most, noNaN: true }),
  );

describe('lights taken on the stage', () => {
  it('leaves a light where it is when its handle is taken and not moved', () => {
    fc.assert(
      fc.property(triple(1), fc.constantFrom('far' as const, 'near' as const), (at, kind) => {
        fc.pre(Math.hypot(...at) > 0.05);
        const lit = light(kind, at);
        const isBehind = isBehindModel(lit, MODEL, camera.eye);
        const ray = rayTo([...lightHandle(lit, MODEL)]);
        const next = light(kind, dragLight(lit, MODEL, ray, { forward, isBehind }));
        const [before, after] = [lightPlace(lit, MODEL), lightPlace(next, MODEL)];
        // Right at the rim of the sphere the two sides meet, and rounding decides.
        const apart = Math.hypot(...sub(before, after));
        expect(apart).toBeLessThan(kind === 'far' ? 0.2 : 0.002);
      }),
      // Where the two ways of saying “behind” once differed: near the rim, a little in front.
      { examples: [[[-0.015264475718140602, 0.047612980008125305, 0], 'far']], numRuns: 500 },
    );
  });
  it('turns a far light towards a place beyond the sphere by its rim', () => {
    const at = dragLight(light('far', [0, 1, 0]), MODEL, rayTo([0, 6, 0]), {
      forward,
      isBehind: false,
    });
    expect(Math.hypot(...at)).toBeCloseTo(1, 3);
    expect(at[1]).toBeGreaterThan(0.8);
  });
  it('has a side of the model that is seen, and another', () => {
    const ray = rayTo([0.4, 2, 0]);
    const [front, back] = [false, true].map((isBehind) =>
      dragLight(light('far', [0, 1, 0]), MODEL, ray, { forward, isBehind }),
    );
    const towards = (at: Triple | undefined): number =>
      (at ?? [0, 0, 0]).reduce((sum, x, axis) => sum + x * (forward[axis] ?? 0), 0);
    expect(towards(front)).toBeLessThan(0);
    expect(towards(back)).toBeGreaterThan(0);
  });
  it('pushes a lamp along the view, and back by as much', () => {
    const lamp = light('near', [0.3, 0.2, 0.1]);
    const far = light('near', pushLight(lamp, MODEL, camera.eye, 0.1));
    const away = (each: SceneLight): number =>
      Math.hypot(...sub(lightPlace(each, MODEL), camera.eye));
    expect(away(far) / away(lamp)).toBeCloseTo(1.1, 3);
    const back = pushLight(far, MODEL, camera.eye, 1 / 1.1 - 1);
    back.forEach((x, axis) => {
      expect(x).toBeCloseTo(lamp.at[axis] ?? 0, 3);
    });
  });
});

describe('the scale bar', () => {
  it('is the longest of 1, 2, 5 that fits, as long as it says', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-3, max: 1e4, noNaN: true }),
        fc.integer({ min: 100, max: 2000 }),
        (distance, height) => {
          const seen = { eye: [0, 0, distance], target: [0, 0, 0], fieldRad: 0.6 } as const;
          const bar = scaleBar({ ...seen, aspect: 1 }, height, 110);
          if (!bar) throw new Error('no bar');
          expect(bar.pixels).toBeLessThanOrEqual(110 * (1 + 1e-6));
          expect(bar.pixels).toBeGreaterThan(110 / 2.5 - 1e-6);
          const factor = bar.metres / 10 ** Math.floor(Math.log10(bar.metres) + 1e-9);
          expect([1, 2, 5].some((each) => Math.abs(each - factor) < 1e-6)).toBe(true);
          // A length across the view at that depth takes so many pixels.
          const seenRad = 2 * Math.tan(0.3) * distance;
          expect(bar.pixels).toBeCloseTo((bar.metres / seenRad) * height, 6);
        },
      ),
    );
  });
  it('is none where the camera stands in what it looks at', () => {
    const at = { eye: [1, 1, 1], target: [1, 1, 1], fieldRad: 0.6, aspect: 1 } as const;
    expect(scaleBar(at, 400, 110)).toBeNull();
  });
});

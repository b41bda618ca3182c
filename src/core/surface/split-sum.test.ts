import { normalise } from '../base/vector';
import { filteredRadiance, lobeReflectance } from './split-sum';
import { studioRadiance } from './studio';
import { toneMap } from './tone';

/** The mean of a function over all directions, by a fine even grid. */
function overSphere(f: (x: number, y: number, z: number) => number): number {
  const steps = 160;
  let sum = 0;
  for (let i = 0; i < steps; i++)
    for (let j = 0; j < steps * 2; j++) {
      const y = -1 + (2 * (i + 0.5)) / steps,
        around = (Math.PI * (j + 0.5)) / steps;
      const r = Math.sqrt(1 - y * y);
      sum += f(r * Math.cos(around), y, r * Math.sin(around));
    }
  return sum / (steps * steps * 2);
}

describe('light of the studio in a lobe', () => {
  const directions = [
    [0, 1, 0],
    [0, -1, 0],
    [0.6, 0.5, 0.6],
    [-0.9, 0.1, 0.3],
    [0.2, 0.3, -1],
  ].map(([x = 0, y = 0, z = 0]) => normalise([x, y, z]));

  it('at roughness 1 is the irradiance over π, by brute force', () => {
    for (const n of directions) {
      const weight = overSphere((x, y, z) => Math.max(0, x * n[0] + y * n[1] + z * n[2]));
      const light = overSphere(
        (x, y, z) => Math.max(0, x * n[0] + y * n[1] + z * n[2]) * studioRadiance([x, y, z]),
      );
      expect(filteredRadiance(n, 1)).toBeCloseTo(light / weight, 1);
      expect(Math.abs(filteredRadiance(n, 1) / (light / weight) - 1)).toBeLessThan(0.03);
    }
  });
  it('at roughness 0 is what arrives, and gets no brighter than the brightest', () => {
    for (const n of directions) {
      expect(filteredRadiance(n, 0)).toBe(studioRadiance(n));
      for (const roughness of [0.1, 0.35, 0.6, 0.9]) {
        const found = filteredRadiance(n, roughness);
        expect(found).toBeGreaterThan(0.17);
        expect(found).toBeLessThan(4);
      }
    }
  });
});

describe('what a lobe reflects of even light', () => {
  it('is everything on a mirror, less where roughness hides bounces', () => {
    const energy = (roughness: number, nv: number): number => {
      const [scale, bias] = lobeReflectance(roughness, nv);
      return scale + bias;
    };
    expect(energy(0.03, 0.9)).toBeCloseTo(1, 2);
    expect(energy(1, 0.9)).toBeLessThan(0.7);
    expect(energy(1, 0.9)).toBeGreaterThan(0.3);
    for (let k = 1; k < 8; k++)
      expect(energy((k + 1) / 8, 0.7)).toBeLessThan(energy(k / 8, 0.7) + 1e-3);
  });
  it('turns to the edge as Fresnel does', () => {
    expect(lobeReflectance(0.1, 0.05)[1]).toBeGreaterThan(0.5);
    expect(lobeReflectance(0.1, 0.95)[1]).toBeLessThan(0.01);
  });
});

describe('tone mapping', () => {
  it('keeps grey grey, rises, and stays below white', () => {
    let last = -1;
    for (const x of [0, 0.02, 0.1, 0.18, 0.5, 0.8, 1, 2, 8, 100]) {
      const [r, g, b] = toneMap([x, x, x]);
      expect([g, b]).toEqual([r, r]);
      expect(r).toBeGreaterThan(last - 1e-12);
      expect(r).toBeLessThan(1);
      last = r;
    }
  });
  it('takes off the offset of the standard where nothing is compressed', () => {
    expect(toneMap([0.5, 0.3, 0.2]).map((x) => Number(x.toFixed(6)))).toEqual([0.46, 0.26, 0.16]);
  });
});

import { expect, test } from '@jest/globals';
import type { Vec3 } from '../base/vector';
import { filteredRadiance } from './split-sum';
import { studioRadiance } from './studio';
import { roughnessOfLevel, studioCube } from './studio-cube';

const levels = studioCube();

/**
 * Which texel of a cube a direction meets, by the formulas of OpenGL ES 3.0, table 3.21: the axis
 * that is largest, then the other two over it.
 */
function texelOf([x, y, z]: Vec3, side: number): { readonly face: number; readonly at: number } {
  const [ax, ay, az] = [Math.abs(x), Math.abs(y), Math.abs(z)];
  const [face, s, t, major] =
    ax >= ay && ax >= az
      ? x > 0
        ? [0, -z, -y, ax]
        : [1, z, -y, ax]
      : ay >= az
        ? y > 0
          ? [2, x, z, ay]
          : [3, x, -z, ay]
        : z > 0
          ? [4, x, -y, az]
          : [5, -x, -y, az];
  const place = (v: number): number => Math.min(side - 1, Math.floor(((v / major + 1) / 2) * side));
  return { face, at: place(t) * side + place(s) };
}

const DIRECTIONS: readonly Vec3[] = Array.from({ length: 200 }, (_, k) => {
  const y = 1 - (2 * (k + 0.5)) / 200,
    around = k * 2.399963;
  const ring = Math.sqrt(1 - y * y);
  return [ring * Math.cos(around), y, ring * Math.sin(around)];
});

test('the sharp level holds the studio as it is, in the places where a cube is read', () => {
  const [{ side, faces } = { side: 0, faces: [] }] = levels;
  for (const direction of DIRECTIONS) {
    const { face, at } = texelOf(direction, side);
    expect(Math.abs((faces[face]?.[at] ?? 0) - studioRadiance(direction))).toBeLessThan(0.1);
  }
});

test('each further level is half as wide and gathers what the swatches gather', () => {
  levels.slice(1).forEach(({ side, faces }, k) => {
    expect(side).toBe((levels[0]?.side ?? 0) >> (k + 1));
    const differences = DIRECTIONS.map((direction) => {
      const { face, at } = texelOf(direction, side);
      return Math.abs(
        (faces[face]?.[at] ?? 0) - filteredRadiance(direction, roughnessOfLevel(k + 1)),
      );
    });
    expect(differences.reduce((sum, each) => sum + each, 0) / 200).toBeLessThan(0.04);
  });
  expect(roughnessOfLevel(levels.length - 1)).toBe(1);
});

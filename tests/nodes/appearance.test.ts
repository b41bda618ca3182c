import { PLAIN_SURFACE, SURFACE_LANES } from '@/core/nodes/surface-parameters';
import { sampleSurface, shadePoint } from '@/core/surface/shade';
import type { ShadedScene, SurfaceSample } from '@/core/surface/shade';
import {
  ALL_TARGETS,
  PLAIN_LANES,
  SURFACE_PLACES,
  computeAppearance,
  chooseOpacityMode,
  surfaceWrites,
} from '@/core/surface/stage-layout';

/** Lanes of a few points of plain clay, with some of them changed. */
function lanesWith(changes: Record<string, readonly number[]> = {}, count = 4): Float32Array[] {
  return SURFACE_LANES.map((name, k) =>
    Float32Array.from(
      { length: count },
      (_, point) => changes[name]?.[point] ?? (name === 'normal.z' ? 1 : (PLAIN_SURFACE[k] ?? 0)),
    ),
  );
}
const point = (changes: Partial<SurfaceSample> = {}): SurfaceSample => ({
  ...sampleSurface(lanesWith(), 0),
  ...changes,
});
const STUDIO: ShadedScene = {
  lights: [
    { towards: [0.46, 0.69, 0.55], colour: [2.5, 2.4, 2.3] },
    { towards: [-0.9, 0.28, 0.34], colour: [0.5, 0.5, 0.6] },
  ],
  surroundings: { turn: 0, strength: 1 },
};
const brightness = (
  surface: SurfaceSample,
  view: [number, number, number] = [0, 0, 1],
  scene: ShadedScene = STUDIO,
): number => shadePoint(surface, view, scene).reduce((sum, x) => sum + x, 0);

describe('what the stage needs of a surface', () => {
  it('finds each feature where a single point uses it', () => {
    expect(computeAppearance(lanesWith()).features).toEqual([]);
    const uses = (name: string, value: number): string[] => [
      ...computeAppearance(
        lanesWith({ [name]: [PLAIN_SURFACE[SURFACE_LANES.indexOf(name)] ?? 0, value] }),
      ).features,
    ];
    expect(uses('coat', 0.1)).toEqual(['coat']);
    expect(uses('sheen.b', 0.1)).toEqual(['sheen']);
    expect(uses('transmission', 1)).toEqual(['transmission']);
    expect(uses('refractiveIndex', 1.33)).toEqual(['reflection']);
    expect(uses('specularColour.g', 0.5)).toEqual(['reflection']);
    expect(uses('dispersion', 0.3)).toEqual(['dispersion']);
    expect(uses('coatRoughness', 0.9)).toEqual([]);
  });
  it('writes every lane but the height to one place', () => {
    const written = SURFACE_PLACES.flat().filter((lane) => lane >= 0);
    expect(new Set(written).size).toBe(written.length);
    expect(SURFACE_LANES.filter((_, k) => !written.includes(k))).toEqual(['height']);
    expect(surfaceWrites(ALL_TARGETS).split('\n')).toHaveLength(8);
    expect(
      [...PLAIN_LANES].filter((lane) => lane >= 0).map((lane) => SURFACE_LANES[lane]),
    ).toContain('unlit');
  });
  it('chooses how opacity is shown by its values', () => {
    const spread = (values: readonly number[]): number[] =>
      Array.from({ length: 100 }, (_, k) => values[k % values.length] as number);
    expect(chooseOpacityMode(spread([1]))).toBe('opaque');
    expect(chooseOpacityMode(spread([0, 1, 1]))).toBe('cut-off');
    expect(chooseOpacityMode(spread([0.5]))).toBe('blend');
    expect(chooseOpacityMode(spread([0, 0.5, 1]))).toBe('dithered');
    expect(chooseOpacityMode([])).toBe('opaque');
  });
});

describe('shading on the processor', () => {
  it('shows an unlit colour as it is', () => {
    expect(shadePoint(point({ unlit: 1, baseColour: [0.2, 0.3, 0.4] }), [0, 0, 1], STUDIO)).toEqual(
      [0.2, 0.3, 0.4],
    );
  });
  it('adds what glows, and nothing of it to what does not', () => {
    expect(brightness(point({ emission: [1, 1, 1] })) - brightness(point())).toBeCloseTo(3, 6);
  });
  it('reflects more with a higher index, nothing at index 1 head-on', () => {
    const black = { baseColour: [0, 0, 0] as const, roughness: 0.3 };
    expect(brightness(point({ ...black, refractiveIndex: 1 }))).toBeCloseTo(0, 4);
    expect(brightness(point({ ...black, refractiveIndex: 2 }))).toBeGreaterThan(
      2 * brightness(point({ ...black, refractiveIndex: 1.5 })),
    );
    expect(brightness(point({ ...black, specular: 0 }))).toBeCloseTo(0, 4);
  });
  it('brightens a rim with sheen, darkens under a coat, tints what shines through', () => {
    const rim: [number, number, number] = [Math.sin(1.4), 0, Math.cos(1.4)];
    expect(brightness(point({ sheen: [1, 1, 1] }), rim)).toBeGreaterThan(brightness(point(), rim));
    const glow = (coat: number): number =>
      brightness(point({ coat, baseColour: [1, 1, 1], roughness: 1 })) -
      brightness(point({ coat, baseColour: [0, 0, 0], roughness: 1 }));
    expect(glow(1)).toBeLessThan(glow(0));
    const [red, , blue] = shadePoint(
      point({ transmission: 1, baseColour: [1, 1, 1], transmissionColour: [1, 0.5, 0] }),
      [0, 0, 1],
      STUDIO,
    );
    expect(red).toBeGreaterThan(blue + 0.1);
  });
});

import { lightPlace, listLights } from '../compile/lights';
import { DEFAULT_SURROUNDINGS } from '../graph/document';
import type { NetworkDocument } from '../graph/document';
import type { MeshAnalysis } from '../mesh/analysis';
import type { SamplePoints } from '../mesh/sample-points';
import { shadowsOn } from '../mesh/shadow';
import type { PointLight, ShadedScene } from '../surface/shade';

/**
 * How a document's scene lights the k-th of some points of a model: shadows only where a light
 * throws them.
 */
export function sceneLighting(
  document: NetworkDocument,
  analysis: MeshAnalysis,
  points: SamplePoints,
): (point: number) => ShadedScene {
  const { mesh } = analysis;
  const lights = listLights(document)
    .filter(({ intensity }) => intensity > 0)
    .map((light) => {
      const at = lightPlace(light, mesh),
        isNear = light.kind === 'near';
      return {
        at,
        isNear,
        colour: light.colour.map((channel) => channel * light.intensity) as [
          number,
          number,
          number,
        ],
        shadow: light.shadows
          ? shadowsOn(analysis.kernel, points, { at, isNear }, mesh.size, 1)
          : null,
      };
    });
  const surroundings = document.surroundings ?? DEFAULT_SURROUNDINGS;
  return (point) => ({
    surroundings,
    lights: lights.map((light) => arriving(light, points.positions, point, mesh.size)),
  });
}

function arriving(
  {
    at,
    isNear,
    colour,
    shadow,
  }: {
    readonly at: readonly [number, number, number];
    readonly isNear: boolean;
    readonly colour: readonly [number, number, number];
    readonly shadow: Float32Array | null;
  },
  positions: Float32Array,
  point: number,
  size: number,
): PointLight {
  const lit = 1 - (shadow?.[point] ?? 0);
  if (!isNear) return { towards: at, colour: [colour[0] * lit, colour[1] * lit, colour[2] * lit] };
  const way = [
    at[0] - (positions[point * 3] as number),
    at[1] - (positions[point * 3 + 1] as number),
    at[2] - (positions[point * 3 + 2] as number),
  ] as const;
  const distance = Math.max(Math.hypot(...way), size * 0.01);
  const strength = lit * (size / distance) ** 2;
  return {
    towards: [way[0] / distance, way[1] / distance, way[2] / distance],
    colour: [colour[0] * strength, colour[1] * strength, colour[2] * strength],
  };
}

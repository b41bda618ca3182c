import { CreaseDistance } from '../crease';
import type { SurfaceMesh } from '../surface-mesh';
import { defineMap, setting } from './define';

/** For the next part of the same map: finding creases walks the whole mesh. */
const cached = new WeakMap<
  SurfaceMesh,
  { readonly angleRad: number; readonly width: number; readonly distance: CreaseDistance }
>();
function creasesOf(mesh: SurfaceMesh, angleRad: number, width: number): CreaseDistance {
  const known = cached.get(mesh);
  if (known?.angleRad === angleRad && known.width === width) return known.distance;
  const distance = new CreaseDistance(mesh, angleRad, width);
  cached.set(mesh, { angleRad, width, distance });
  return distance;
}

export const crease = defineMap({
  title: 'crease distance',
  settings: { width: setting.length, angleRad: setting.number(0, Math.PI) },
  takesDetail: false,
  views: {
    crease: {
      given: { angle: 30, width: 0.05 },
      choices: {},
      store: (value) => value,
      stores: 'distance to creases, 1 from the width on',
      look: { title: 'Crease bands', description: 'White along sharp edges.', black: 1, white: 0 },
    },
  },
  resolve: (given) => ({
    width: given.length('width'),
    angleRad: (given.number('angle', 30, 0.5, 179) * Math.PI) / 180,
  }),
  measure: ({ angleRad, width }, { mesh, points, first, count }) =>
    creasesOf(mesh, angleRad, width).measure(points, first, count),
});

import { defineMap, setting } from './define';

export const curvature = defineMap({
  title: 'curvature',
  settings: { radius: setting.length },
  takesDetail: true,
  views: {
    curvature: {
      given: { radius: 0.03 },
      choices: {},
      store: (value) => value / 2 + 0.5,
      stores: '½ + ½·ρ·H',
      look: {
        title: 'Curvature',
        description: 'White on edges, black in hollows.',
        black: -0.4,
        white: 0.4,
      },
    },
  },
  resolve: (given) => ({ radius: given.length('radius') }),
  measure({ radius }, { kernel, points, first, count, normals }) {
    const smooth = kernel.curvature(points, radius, first, count);
    return normals ? normals.bend(radius).addTo(smooth, first) : smooth;
  },
});

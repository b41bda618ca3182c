import { defineMap, setting } from './define';

/** Object sizes that stand for a distance to nothing. */
const FAR_AWAY = 2;

/** Metres to the nearest point of a part by name, or of all parts but the point's own. */
export const proximity = defineMap({
  title: 'proximity',
  settings: { part: setting.part },
  takesDetail: false,
  views: {
    proximity: {
      given: {},
      choices: { to: 'others' },
      store: (value, size) => value / size,
      stores: 'distance to other parts in object sizes',
    },
  },
  resolve: (given) => ({
    part: given.choice('to') === 'part' ? (given.choice('part') ?? '') : null,
  }),
  measure: ({ part }, { mesh, kernel, points, first, count }) =>
    kernel.distances(
      points,
      mesh.partNames.indexOf(part ?? ''),
      part === null,
      mesh.size * FAR_AWAY,
      first,
      count,
    ),
});

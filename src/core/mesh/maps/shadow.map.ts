import { shadowsOn } from '../shadow';
import { defineMap, setting } from './define';

/** Rays per point and light. */
const RAYS = { quick: 2, fine: 8 } as const;
const LARGEST = 3.4e38;

/** What the model itself keeps of a light: 0 lit, 1 in shadow. */
export const shadow = defineMap({
  title: 'shadows',
  settings: {
    /** Metres, or a unit direction where the light is far. */
    at: setting.place,
    isNear: setting.truth,
  },
  takesDetail: false,
  isTransient: true,
  views: {},
  resolve(given) {
    // To a precision that no eye sees, so that equal lights give equal maps.
    const rounded = (name: string): number =>
      Number(given.number(name, 0, -LARGEST, LARGEST).toPrecision(6)) + 0;
    return {
      at: [rounded('x'), rounded('y'), rounded('z')] as const,
      isNear: given.number('near', 0, 0, 1) > 0.5,
    };
  },
  // A light that is not there throws no shadow.
  isNothing: ({ at, isNear }) => !isNear && at.every((x) => x === 0),
  measure: (light, { mesh, kernel, points, isQuick, first, count }) =>
    shadowsOn(kernel, points, light, mesh.size, isQuick ? RAYS.quick : RAYS.fine, first, count),
});

import { defineMap, setting } from './define';

export const occlusion = defineMap({
  title: 'occlusion',
  settings: {
    reach: setting.length,
    side: setting.choice('open', 'solid', 'both'),
    falloff: setting.number(0, 1e6),
    coneRad: setting.number(0, Math.PI / 2),
    /** Whether the model stands on a plane at its lowest point. */
    floor: setting.flag,
  },
  takesDetail: true,
  views: {
    occlusion: {
      given: { reach: 0.25, cone: 90, falloff: 0 },
      choices: {},
      store: (value) => value,
      stores: 'openness',
      look: {
        title: 'Openness',
        description: 'Black where something is in the way.',
        black: 0,
        white: 1,
      },
    },
    thickness: {
      given: { reach: 0.25, cone: 90, falloff: 1 },
      choices: { side: 'solid' },
      store: (value) => value,
      stores: 'mean inside distance within reach',
      look: { title: 'Thickness', description: 'Black where it is thin.', black: 0, white: 1 },
    },
  },
  resolve(given) {
    const side = given.choice('side');
    return {
      reach: given.length('reach'),
      side: side === 'solid' || side === 'both' ? side : 'open',
      falloff: given.number('falloff', 0, 0, 1e6),
      coneRad: (given.number('cone', 90, 1, 90) * Math.PI) / 180,
      ...(given.choice('floor') === 'ground' ? { floor: true } : {}),
    };
  },
  measure({ floor, detail: _detail, ...asked }, { mesh, kernel, points, rays, ...work }) {
    return kernel.openness(
      points,
      {
        ...asked,
        rays,
        ...(floor ? { floor: mesh.minimum[1] } : {}),
        ...(work.normals ? { detail: work.normals.normals } : {}),
      },
      work.first,
      work.count,
    );
  },
});

import { escapeSigns, unescapeSigns } from './escape';
import type { LaneName } from './ids';

/** The axes of space, in the order of components. */
export const AXES = ['x', 'y', 'z'] as const;
/** One of the axes of space; Y is up. */
export type Axis = (typeof AXES)[number];
/** A component of an attribute: attributes have up to four. */
export type Component = Axis | 'w';

/** Vectors a program may read at a point, one lane per component. */
const VECTORS = ['position', 'normal', 'faceNormal', 'uv', 'view', 'part.centre'] as const;
/** A vector of the point that a program may read. */
export type VectorLane = (typeof VECTORS)[number];

/**
 * What a lane holds: a component of a vector of the point, the number of its part, the width of
 * what the sample stands for (metres), a component of a named attribute of the model, or the value
 * of a mesh map. `slope`: not the value but how it changes along an axis, per metre.
 */
export type Lane = { readonly slope?: Axis } & (
  | { readonly of: VectorLane; readonly component: Axis }
  | { readonly of: 'part.id' }
  | { readonly of: 'footprint' }
  | { readonly of: 'attribute'; readonly name: string; readonly component: Component }
  | { readonly of: 'map'; readonly field: string }
);

/** Characters that mean something in a lane's name, written apart where a name holds them. */
const SIGNS = '.:';

/** The name of a lane; different lanes have different names, whatever ids they are made of. */
export function laneName(lane: Lane): LaneName {
  const slope = lane.slope ? `.d${lane.slope}` : '';
  if (lane.of === 'map') return `map:${escapeSigns(lane.field, SIGNS)}${slope}`;
  if (lane.of === 'attribute')
    return `attribute:${escapeSigns(lane.name, SIGNS)}.${lane.component}${slope}`;
  return `${lane.of}${'component' in lane ? `.${lane.component}` : ''}${slope}`;
}

const PATTERN = new RegExp(
  [
    '^(?:map:(?<field>[^.:]*)',
    'attribute:(?<name>[^.:]*)\\.(?<letter>[xyzw])',
    '(?<plain>[A-Za-z.]+?))(?:\\.d(?<slope>[xyz]))?$',
  ].join('|'),
);

/** @throws Error when the name is none that `laneName` makes */
export function parseLaneName(text: LaneName): Lane {
  const { field, name, letter, plain, slope } = PATTERN.exec(text)?.groups ?? {};
  const along = slope === undefined ? {} : { slope: slope as Axis };
  if (field !== undefined) return { of: 'map', field: unescapeSigns(field), ...along };
  if (name !== undefined)
    return {
      of: 'attribute',
      name: unescapeSigns(name),
      component: letter as Component,
      ...along,
    };
  if (plain === 'part.id' || plain === 'footprint') return { of: plain, ...along };
  const vector = VECTORS.find((each) => plain?.startsWith(`${each}.`));
  const component = plain?.slice((vector?.length ?? 0) + 1);
  const axis = AXES.find((each) => each === component);
  if (!vector || !axis) throw new Error(`Invariant broken: no lane is called ${text}`);
  return { of: vector, component: axis, ...along };
}

/** How a lane changes along an axis. */
export const slopeLane = (text: LaneName, slope: Axis): LaneName => `${text}.d${slope}`;
/** The lane itself, of which a lane may be the slope. */
export const valueLane = (text: LaneName): LaneName => text.replace(/\.d[xyz]$/, '');
/** Whether a lane holds the value of a mesh map, or its slope. */
export const isMapLane = (text: LaneName): boolean => text.startsWith('map:');

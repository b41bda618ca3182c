import { add, dot, normalise, scale, sub } from '../base/vector';
import type { Vec3 } from '../base/vector';
import { lightPlace } from '../compile/lights';
import type { ModelBounds } from '../compile/model-scale';
import type { SceneLight, Triple } from '../graph/document';

/** How far from the middle a far light's handle stands, in model sizes. */
const REACH = 0.45;
/** Decimals a place or direction is kept with. */
const PLACES = 1e4;

/** A ray through a pixel: where it starts, metres of the scene, and its unit direction. */
export interface Ray {
  readonly from: Vec3;
  readonly towards: Vec3;
}

const middleOf = ({ minimum, extent }: ModelBounds): Vec3 => add(minimum, scale(extent, 0.5));
const rounded = (at: Vec3): Triple =>
  at.map((x) => Math.round(x * PLACES) / PLACES + 0) as unknown as Triple;

/** Where the handle of a light stands, metres: a lamp itself, or a point towards a far light. */
export function lightHandle(light: SceneLight, model: ModelBounds): Vec3 {
  const place = lightPlace(light, model);
  return light.kind === 'near' ? place : add(middleOf(model), scale(place, REACH * model.size));
}

/** The unit direction from the middle of a sphere to where a ray meets it, or comes closest. */
function directionOnSphere(ray: Ray, middle: Vec3, radius: number, isBehind: boolean): Vec3 {
  const along = dot(sub(middle, ray.from), ray.towards);
  const closest = add(ray.from, scale(ray.towards, along));
  const miss = sub(closest, middle);
  const half = Math.sqrt(Math.max(0, radius * radius - dot(miss, miss)));
  return normalise(add(miss, scale(ray.towards, isBehind ? half : -half)));
}

/**
 * What `at` of a light becomes when its handle is taken along a ray: a far light turns about the
 * model, on the side of it that is seen or on the other; a lamp keeps its depth, or is pushed
 * along the view.
 *
 * @param isBehind for a far light: whether it shines from behind the model as it is seen
 */
export function dragLight(
  light: SceneLight,
  model: ModelBounds,
  ray: Ray,
  { forward, isBehind }: { readonly forward: Vec3; readonly isBehind: boolean },
): Triple {
  const middle = middleOf(model);
  if (light.kind === 'far')
    return rounded(directionOnSphere(ray, middle, REACH * model.size, isBehind));
  const place = lightPlace(light, model);
  const depth = dot(sub(place, ray.from), forward) / dot(ray.towards, forward);
  return rounded(scale(sub(add(ray.from, scale(ray.towards, depth)), middle), 1 / model.size));
}

/** A lamp pulled towards the eye or pushed away: by a share of its distance. */
export function pushLight(light: SceneLight, model: ModelBounds, eye: Vec3, share: number): Triple {
  const away = sub(lightPlace(light, model), eye);
  const middle = middleOf(model);
  return rounded(scale(sub(add(eye, scale(away, 1 + share)), middle), 1 / model.size));
}

/**
 * Whether the handle of a light stands behind the model as it is seen: beyond the place where the
 * ray from the eye through it comes closest to the middle, as a drag along that ray finds it again.
 */
export function isBehindModel(light: SceneLight, model: ModelBounds, eye: Vec3): boolean {
  const handle = lightHandle(light, model);
  return dot(sub(handle, middleOf(model)), sub(handle, eye)) > 0;
}

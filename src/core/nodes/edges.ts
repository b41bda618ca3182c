import type { Builder } from '../ir/builder';
import { gradient } from '../ir/differentiate';
import type { F32 } from '../ir/types';
import type { ModelReads } from './define';
import { map3, smooth } from './lanes';

/** How fast a value changes along the surface, per metre. */
export function slopeAlongSurface(b: Builder, value: F32, model: ModelReads): F32 {
  const slope = gradient(b, value);
  const outward = b.dot(slope, model.normal);
  const along = map3(slope, (lane, k) => b.sub(lane, b.mul(outward, model.normal[k as 0])));
  return b.sqrt(b.dot(along, along));
}

/**
 * How much a value changes over what a sample stands for; null where nothing is antialiased.
 */
export function sampleWidth(b: Builder, value: F32, model: ModelReads): F32 | null {
  const footprint = model.footprint('steps');
  return footprint && !value.laneUniform
    ? b.mul(footprint, slopeAlongSurface(b, value, model))
    : null;
}

/**
 * The hard step x ≥ edge, 0 or 1; where a sample stands for a width of surface, the share of that
 * width beyond the edge, as far as a straight edge goes: limit((x − edge)/(footprint·|∇(x −
 * edge)|) + ½).
 */
export function evenStep(b: Builder, x: F32, edge: F32, model: ModelReads): F32 {
  const hard = b.select(b.le(edge, x), b.f(1), b.f(0));
  const beyond = b.sub(x, edge);
  const width = sampleWidth(b, beyond, model);
  if (!width) return hard;
  const isSharp = b.le(width, b.f(1e-12));
  return b.select(
    isSharp,
    hard,
    b.saturate(b.add(b.div(beyond, b.select(isSharp, b.f(1), width)), b.f(0.5))),
  );
}

/**
 * 1 within a band about a centre, eased outwards over a softness; at softness 0 the border is hard,
 * and inside.
 */
export function softBand(
  b: Builder,
  distance: F32,
  width: F32,
  softness: F32,
  model: ModelReads,
): F32 {
  const out = b.sub(distance, b.mul(b.max(width, b.f(0)), b.f(0.5)));
  const soft = b.max(softness, b.f(0));
  const hard = b.eq(soft, b.f(0));
  const eased = smooth(b, b.saturate(b.div(out, b.select(hard, b.f(1), soft))));
  return b.select(hard, evenStep(b, b.f(0), out, model), b.sub(b.f(1), eased));
}

/**
 * A soft border upwards at an edge: 0 below, 1 above, eased over a width; at width 0 the step x ≥
 * edge.
 */
export function softStep(b: Builder, x: F32, edge: F32, width: F32, model: ModelReads): F32 {
  const soft = b.max(width, b.f(0));
  const hard = b.eq(soft, b.f(0));
  const t = b.saturate(b.add(b.div(b.sub(x, edge), b.select(hard, b.f(1), soft)), b.f(0.5)));
  return b.select(hard, evenStep(b, x, edge, model), smooth(b, t));
}

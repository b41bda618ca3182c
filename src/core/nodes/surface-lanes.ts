import { present } from '../base/assert';
import type { Builder } from '../ir/builder';
import type { Bool, F32, Lanes3 } from '../ir/types';
import { normalise, zip3 } from './lanes';
import type { ModelReads } from './model-reads';
import type { ParameterDefinition } from './parameters/define';
import type { SurfaceLanes, SurfaceParameter } from './parameters/lanes';
import type { AnyLowered } from './ports';
import { SURFACE_ENTRIES } from './surface-parameters';

/** All lanes of a surface in the order of SURFACE_LANES. */
export const surfaceLanes = (surface: SurfaceLanes): readonly F32[] =>
  SURFACE_ENTRIES.flatMap(([name]) => lanesIn(surface, name));

const lanesIn = (surface: SurfaceLanes, name: SurfaceParameter): readonly F32[] => {
  const value: F32 | Lanes3 = surface[name];
  return isLanes(value) ? value : [value];
};
const amountIn = (surface: SurfaceLanes, name: SurfaceParameter): F32 =>
  present(lanesIn(surface, name)[0], `${name} has no lane`);
const isLanes = (value: F32 | Lanes3): value is Lanes3 => Array.isArray(value);

function fromLanes(
  lanesOf: (name: SurfaceParameter, parameter: ParameterDefinition) => readonly F32[],
): SurfaceLanes {
  return Object.fromEntries(
    SURFACE_ENTRIES.map(([name, parameter]) => {
      const lanes = lanesOf(name, parameter);
      return [name, parameter.lanes === 1 ? lanes[0] : lanes];
    }),
  ) as unknown as SurfaceLanes;
}

/** Plain clay: what stands where no surface is wired. */
export const plainSurface = (b: Builder, normal: Lanes3): SurfaceLanes =>
  fromLanes((name, { lanes, plain }) =>
    name === 'normal' ? normal : Array.from({ length: lanes }, () => b.f(plain)),
  );

/** A surface out of the inputs of the surface node. */
export const lowerSurface = (
  b: Builder,
  given: Readonly<Record<string, AnyLowered>>,
  model: ModelReads,
): SurfaceLanes =>
  fromLanes((_, parameter) => {
    const lanes = parameter.lower(b, given, model);
    return isLanes(lanes) ? lanes : [lanes];
  });

/**
 * One surface over another: each parameter by its own share of the upper one. What only colours a
 * coat or what shines through is weighed by how much of that there is on either side, so that bare
 * paint lends no roughness to a coat.
 */
export function mixSurfaces(
  b: Builder,
  under: SurfaceLanes,
  over: SurfaceLanes,
  shareOf: (parameter: SurfaceParameter) => F32,
): SurfaceLanes {
  const mixed = fromLanes((name, parameter) => {
    const share = shareOf(name);
    const weight = parameter.shareOf;
    const t = weight ? weighed(b, amountIn(under, weight), amountIn(over, weight), share) : share;
    const upper = lanesIn(over, name);
    return lanesIn(under, name).map((lane, k) => b.mix(lane, upper[k] as F32, t));
  });
  return { ...mixed, normal: normalise(b, mixed.normal, under.normal) };
}

/** One of two surfaces, whole. */
export const selectSurface = (
  b: Builder,
  condition: Bool,
  chosen: SurfaceLanes,
  other: SurfaceLanes,
): SurfaceLanes =>
  fromLanes((name) => {
    const others = lanesIn(other, name);
    return lanesIn(chosen, name).map((lane, k) => b.select(condition, lane, others[k] as F32));
  });

/**
 * The upper one's share among what there is of both: o·t/(u·(1 − t) + o·t); t where there is
 * nothing of either.
 */
function weighed(b: Builder, under: F32, over: F32, share: F32): F32 {
  const upper = b.mul(over, share);
  const sum = b.add(b.mul(under, b.sub(b.f(1), share)), upper);
  const none = b.le(sum, b.f(0));
  return b.select(none, share, b.div(upper, b.select(none, b.f(1), sum)));
}

/** Adds the relief of one normal to another: both as slopes against the surface's own normal. */
export function addRelief(b: Builder, base: Lanes3, detail: Lanes3, own: Lanes3): Lanes3 {
  const slopes = (n: Lanes3): Lanes3 => {
    const outward = b.max(b.dot(n, own), b.f(0.05));
    return zip3(n, own, (lane, axis) => b.sub(b.div(lane, outward), axis));
  };
  const [u, v] = [slopes(base), slopes(detail)];
  return normalise(
    b,
    [
      b.add(b.add(own[0], u[0]), v[0]),
      b.add(b.add(own[1], u[1]), v[1]),
      b.add(b.add(own[2], u[2]), v[2]),
    ],
    own,
  );
}

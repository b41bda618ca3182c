import type { LaneName, ResultKey } from '../base/ids';
import { AXES, slopeLane } from '../base/lane-name';
import type { CompiledNetwork } from '../compile/compile';
import { findDependents } from '../ir/dependents';

/** What of a program depends on some maps, by their fields, or images, by their slots. */
export function dependentKeys(
  { program, slots }: CompiledNetwork,
  fields: readonly string[],
  images: readonly number[],
): ReadonlySet<ResultKey> {
  if (fields.length === 0 && images.length === 0) return new Set();
  const lanes = new Set<LaneName>(
    fields.flatMap((field) => [field, ...AXES.map((axis) => slopeLane(field, axis))]),
  );
  const dependent = findDependents(
    program,
    ({ operation, immediate }) =>
      (operation === 'input' && lanes.has(program.inputs[immediate] ?? '')) ||
      (operation === 'texel' && images.includes(immediate >> 2)),
  );
  return new Set(
    slots
      .filter(({ first, lanes: count }) =>
        Array.from({ length: count }, (_, k) => first + k).some((k) => dependent.has(k)),
      )
      .map(({ key }) => key),
  );
}

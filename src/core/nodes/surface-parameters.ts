import type { InputPort } from './ports';
import type { ParameterDefinition } from './parameters/define';
import type { SurfaceParameter } from './parameters/lanes';
import { SURFACE_PARAMETERS } from './parameters/registry.generated';

/** The parameters one by one, in the order in which programs write their lanes. */
export const SURFACE_ENTRIES = Object.entries(SURFACE_PARAMETERS) as readonly (readonly [
  SurfaceParameter,
  ParameterDefinition,
])[];

/** The inputs of the surface node: those of all parameters. */
export const SURFACE_INPUTS: Readonly<Record<string, InputPort>> = Object.fromEntries(
  SURFACE_ENTRIES.flatMap(([, { inputs }]) => Object.entries(inputs)),
);

const COLOUR_AXES = ['r', 'g', 'b'];
/** The names of a parameter's lanes, like `baseColour.r`. */
export const laneNames = (name: SurfaceParameter): readonly string[] => {
  const { lanes, axes = COLOUR_AXES } = SURFACE_PARAMETERS[name];
  return lanes === 1 ? [name] : axes.map((axis) => `${name}.${axis}`);
};
/** The names of all lanes in the order in which programs write them. */
export const SURFACE_LANES: readonly string[] = SURFACE_ENTRIES.flatMap(([name]) =>
  laneNames(name),
);
/** The places of a parameter's lanes in SURFACE_LANES. */
export const laneIndices = (name: SurfaceParameter): readonly number[] =>
  laneNames(name).map((lane) => SURFACE_LANES.indexOf(lane));

/** The value of each lane that changes nothing, in the order of SURFACE_LANES. */
export const PLAIN_SURFACE: readonly number[] = SURFACE_ENTRIES.flatMap(([, { lanes, plain }]) =>
  Array.from({ length: lanes }, () => plain),
);

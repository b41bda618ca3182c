import type { F32, Lanes3 } from '../../ir/types';
import type { ParameterWidths } from './widths.generated';

/** The name of a parameter of a surface. */
export type SurfaceParameter = keyof ParameterWidths;
/** The lanes of a surface: one or three for each of its parameters. */
export type SurfaceLanes = {
  readonly [N in SurfaceParameter]: ParameterWidths[N] extends 3 ? Lanes3 : F32;
};

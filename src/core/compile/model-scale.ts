import type { Triple } from '../graph/document';

/** What programs need to know of a model as a whole: metres. */
export interface ModelScale {
  readonly size: number; readonly minimum: Triple; readonly extent: Triple;
  /** The attributes the model has, with their widths. */
  readonly attributes?: readonly { readonly name: string; readonly width: number }[];
}

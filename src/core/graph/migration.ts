import type { JsonRecord } from '../base/record';

/** How documents of one version become documents of the next. */
export interface Migration {
  readonly from: number;
  /** What changed, in a sentence a person reads. */
  readonly what: string;
  /**
   * @param document parsed JSON whose shape is not checked yet; never throws: what it does not
   *   understand it leaves as it is, for the check of the shape
   */
  readonly migrate: (document: JsonRecord) => JsonRecord;
}

/** What was put in order. */
export interface Tidied {
  readonly revisions: number;
  readonly files: number;
  readonly maps: number;
  readonly outlooks: number;
  /** Of files and maps. */
  readonly bytes: number;
}

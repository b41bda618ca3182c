import { createStore } from 'zustand/vanilla';
import type { GroupNote } from '../core/notes/group-note';
import type { Proof } from '../core/evaluate/proof';

/** What was found of the open group by computing: its proof, and how its dials behave. */
export interface Inspection {
  /** Which group it is about; null for none. */
  readonly groupId: string | null;
  readonly measured: readonly GroupNote[];
  /** What is still to be tried; 0 when all is known. */
  readonly waiting: number;
  readonly proof: Proof | null;
}

/** What is known of the open group; kept up to date while its front is shown. */
export const inspection = createStore<Inspection>(() => ({
  groupId: null,
  measured: [],
  waiting: 0,
  proof: null,
}));

/** Notes something found of a group; what is known of another group is forgotten. */
export function tellFound(groupId: string, found: Partial<Omit<Inspection, 'groupId'>>): void {
  inspection.setState((known) =>
    known.groupId === groupId
      ? found
      : { groupId, measured: [], waiting: 0, proof: null, ...found },
  );
}

import type { NodeInstance } from './document';

/** What of a node, beside what is wired into it, decides its results. */
export const RESULT_MEMBERS = [
  'type',
  'version',
  'values',
  'options',
  'limited',
  'off',
  'amount',
  'amounts',
  'group',
] as const satisfies readonly (keyof NodeInstance)[];

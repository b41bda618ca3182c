import { keepConsequence } from '@/db/queries/outlooks';

/** Tries to write over what was found of a material: what is kept stays. */
export const findConsequence = (outlookId: string, materialId: string, reason: string) =>
  keepConsequence(outlookId, materialId, { state: 'failed', reason });

import type { MaterialOrder } from '@/contract/materials';

/** The orders of the list, with the words for each. */
export const ORDERS: Readonly<Record<MaterialOrder, string>> = {
  lately: 'lately saved',
  name: 'by name',
  model: 'by model',
};

/** The model a new material stands on, where it is there. */
export const FIRST_MODEL = 'demo-buoy';

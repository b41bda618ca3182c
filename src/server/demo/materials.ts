import { STARTERS } from '@/core/starters/starters';
import type { Starter } from '@/core/starters/define';

/** Every starter is a material of the demo studio, too, under an id of its own. */
export const DEMO_MATERIALS: readonly Starter[] = STARTERS.map((starter) => ({
  ...starter,
  id: `demo-${starter.id}`,
}));

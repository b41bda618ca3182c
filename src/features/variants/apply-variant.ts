import { boardAt } from '@/core/edit/board';
import { setDials } from '@/core/edit/variants';
import type { Variant } from '@/core/graph/document';
import { commit } from '@/state/editing';

/** Puts all dials of a card as a variant has them, as one step. */
export function applyVariant(
  path: readonly string[],
  card: string,
  { name, values }: Pick<Variant, 'name' | 'values'>,
): void {
  commit(`Applied “${name}”`, (current) =>
    setDials(current, boardAt(current, path.slice(0, -1)), card, values),
  );
}

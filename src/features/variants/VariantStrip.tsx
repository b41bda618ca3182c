'use client';
import { boardAt } from '@/core/edit/board';
import { setDials, shownVariant } from '@/core/edit/variants';
import type { GroupDefinition, NodeInstance, Variant } from '@/core/graph/document';
import { commit } from '@/state/editing';
import type { Evaluation } from '@/state/evaluation';
import { useGroupPictures } from '@/state/group-pictures';
import { PictureCanvas } from '@/ui/PictureCanvas';

interface Props {
  readonly group: GroupDefinition;
  readonly card: NodeInstance;
  /** The nodes that lead to the card, it included. */
  readonly path: readonly string[];
  readonly evaluation: Evaluation | null;
}

/** Puts all dials of a card as a variant has them, as one step. */
function applyVariant(
  path: readonly string[],
  card: string,
  { name, values }: Pick<Variant, 'name' | 'values'>,
): void {
  commit(`Applied “${name}”`, (current) =>
    setDials(current, boardAt(current, path.slice(0, -1)), card, values),
  );
}

/** The variants of a group in pictures; pressing one applies it to the card. */
export function VariantStrip({ group, card, path, evaluation }: Props) {
  const variants = group.variants ?? [];
  const settings = variants.map(({ values }) => values);
  const pictures = useGroupPictures(evaluation, group, path, settings, 56);
  if (variants.length === 0) return null;
  const shown = shownVariant(group, card)?.id;
  return (
    <ul className="mb-2 flex flex-wrap gap-1" aria-label="Variants" data-testid="variants">
      {variants.map((variant, k) => (
        <li key={variant.id}>
          <button
            type="button"
            aria-pressed={variant.id === shown}
            aria-label={`Apply ${variant.name}`}
            title={`Put every dial as in “${variant.name}”`}
            className={
              'w-[64px] border p-0.5 text-[11px] ' +
              (variant.id === shown ? 'border-weld' : 'border-line hover:border-seam')
            }
            onClick={() => {
              applyVariant(path, card.id, variant);
            }}
          >
            <PictureCanvas
              picture={pictures[k]?.picture}
              label={`How “${variant.name}” looks`}
              className="mx-auto h-[56px] w-[56px] bg-stage"
            />
            <span className="block truncate">{variant.name}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

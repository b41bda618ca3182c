'use client';
import { shownVariant } from '@/core/edit/variants';
import type { GroupDefinition, NodeInstance } from '@/core/graph/document';
import type { Evaluation } from '@/state/evaluation';
import { useGroupPictures } from '@/state/group-pictures';
import { RackVariants } from './RackVariants';
import { VariantTile } from './VariantTile';
import { applyVariant } from './apply-variant';

interface Props {
  readonly group: GroupDefinition;
  readonly card: NodeInstance;
  /** The nodes that lead to the card, it included. */
  readonly path: readonly string[];
  readonly evaluation: Evaluation | null;
  /** The entry it is a release of, where the group does not say so itself. */
  readonly entryId?: string;
}

/** The variants of a group in pictures; pressing one applies it to the card. */
export function VariantStrip(props: Props) {
  const entryId = props.group.release?.entryId ?? props.entryId;
  return (
    <>
      <OwnVariants {...props} />
      {entryId === undefined ? null : <RackVariants {...props} entryId={entryId} />}
    </>
  );
}

/** Those that are published with the group. */
function OwnVariants({ group, card, path, evaluation }: Props) {
  const variants = group.variants ?? [];
  const settings = variants.map(({ values }) => values);
  const pictures = useGroupPictures(evaluation, group, path, settings, 56);
  if (variants.length === 0) return null;
  const shown = shownVariant(group, card)?.id;
  return (
    <ul className="mb-2 flex flex-wrap gap-1" aria-label="Variants" data-testid="variants">
      {variants.map((variant, k) => (
        <li key={variant.id}>
          <VariantTile
            name={variant.name}
            picture={pictures[k]?.picture}
            isShown={variant.id === shown}
            onApply={() => {
              applyVariant(path, card.id, variant);
            }}
          />
        </li>
      ))}
    </ul>
  );
}

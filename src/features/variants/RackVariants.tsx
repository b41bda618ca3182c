'use client';
import { toast } from 'sonner';
import type { PresetView } from '@/contract/presets';
import { own } from '@/core/base/own';
import { describeError } from '@/core/base/problem';
import { movedDials } from '@/core/edit/variants';
import type { DialValues } from '@/core/edit/variants';
import type { GroupDefinition, NodeInstance } from '@/core/graph/document';
import type { Evaluation } from '@/state/evaluation';
import { useGroupPictures } from '@/state/group-pictures';
import { usePresetActs, usePresets } from '@/state/presets';
import { ProblemNote } from '@/ui/ProblemNote';
import { KeepPreset } from '@/ui/presets/KeepPreset';
import { tellProblem } from '@/ui/tell-problem';
import { VariantTile } from './VariantTile';
import { applyVariant } from './apply-variant';

interface Props {
  readonly entryId: string;
  readonly group: GroupDefinition;
  readonly card: NodeInstance;
  readonly path: readonly string[];
  readonly evaluation: Evaluation | null;
}

/** Variants of a group of the library that stand on racks, and a place to keep the dials as one. */
export function RackVariants({ entryId, group, card, path, evaluation }: Props) {
  const { data: list, error } = usePresets({ kind: 'variant', entry: entryId });
  const { keep } = usePresetActs();
  const presets = list?.presets ?? [];
  const pictures = useGroupPictures(evaluation, group, path, presets.map(valuesOf), 56);
  return (
    <details className="mb-2 text-[12px]" open={presets.length > 0} data-testid="rack-variants">
      <summary className="min-h-[24px] cursor-pointer text-soft">
        Variants on racks <span className="figures">{presets.length || 'none'}</span>
      </summary>
      {error ? <ProblemNote problem={describeError(error)} /> : null}
      <ul className="mb-2 flex flex-wrap gap-1" aria-label="Variants on racks">
        {presets.map((preset, k) => (
          <li key={preset.id}>
            <VariantTile
              name={preset.name}
              picture={pictures[k]?.picture}
              isShown={false}
              onApply={() => {
                take(preset, { group, card, path });
              }}
            />
          </li>
        ))}
      </ul>
      <KeepPreset
        what="these dials"
        list={list}
        onKeep={(name, rack) => {
          const value = { entryId, values: movedDials(group, card) };
          keep({ kind: 'variant', value, name, rack: rack.id }).then(() => {
            toast(`Kept the variant ${name} on the ${rack.name} rack`);
          }, tellProblem);
        }}
      />
    </details>
  );
}

const valuesOf = ({ value }: PresetView): DialValues =>
  value && 'entryId' in value ? value.values : {};

/** Applies a variant; what this release has no dial for is told. */
function take(preset: PresetView, { group, card, path }: Pick<Props, 'group' | 'card' | 'path'>) {
  const values = valuesOf(preset);
  applyVariant(path, card.id, { name: preset.name, values });
  const lost = Object.keys(values).filter((id) => !group.dials.some((dial) => dial.id === id));
  const kept = Object.keys(values).filter(
    (id) => own(values, id) !== undefined && !lost.includes(id),
  );
  if (lost.length > 0)
    toast(
      `“${preset.name}” sets ${String(lost.length)} dials that this release does not have; ` +
        `the other ${String(kept.length)} were set.`,
    );
}

'use client';
import { toast } from 'sonner';
import type { MaterialSummary } from '@/contract/materials';
import { describeError } from '@/core/base/problem';
import { usePresetActs, usePresets } from '@/state/presets';
import { ProblemNote } from '@/ui/ProblemNote';
import { Sheet } from '@/ui/Sheet';
import { Swatch } from '@/ui/Swatch';
import { KeepPreset } from '@/ui/presets/KeepPreset';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly material: MaterialSummary;
  readonly onClose: () => void;
}

/** Keeps a material, as it is saved now, as a starter on a rack. */
export function KeepStarter({ material, onClose }: Props) {
  const { id, name, head, swatchHash } = material;
  const { data: list, error } = usePresets({ kind: 'starter' });
  const { keepAsStarter } = usePresetActs();
  return (
    <Sheet
      open
      onClose={onClose}
      title={`Keep ${name} as a starter`}
      description={
        `New materials of whoever sees the rack may begin from revision ${String(head)}. ` +
        'Later changes of the material do not change the starter.'
      }
    >
      <Swatch hash={swatchHash} label={name} className="mb-3 h-[160px] w-full object-contain" />
      {error ? <ProblemNote problem={describeError(error)} /> : null}
      <KeepPreset
        what="this starter"
        list={list}
        onKeep={(given, rack) => {
          keepAsStarter({ materialId: id, name: given, rack: rack.id }).then(() => {
            toast(`Kept the starter ${given} on the ${rack.name} rack`);
            onClose();
          }, tellProblem);
        }}
      />
    </Sheet>
  );
}

'use client';
import { isRamp } from '@/core/graph/document';
import { paletteOfRamp, rampOfPalette } from '@/core/presets/palettes';
import { usePresetActs, usePresets } from '@/state/presets';
import { toast } from 'sonner';
import { KeepPreset } from '@/ui/presets/KeepPreset';
import { RackRows } from '@/ui/presets/PresetRows';
import type { PresetRow } from '@/ui/presets/PresetRows';
import { tellProblem } from '@/ui/tell-problem';
import { RackPresets } from '../RackPresets';
import { RAMP_PRESETS } from './ramp-presets';
import type { RampToolsProps } from './edited-ramp';

const SHIPPED = RAMP_PRESETS.map(({ name, ramp }) => ({ name, value: ramp }));

/** Ramps and palettes to start from, and a place to keep this ramp or its colours. */
export function RampPresets({ ramp, modes, onChange }: RampToolsProps) {
  const take = ({ name, value }: PresetRow): void => {
    if (isRamp(value)) onChange(value, null, `Took the ramp ${name}`);
    else if (value && 'colours' in value)
      onChange(rampOfPalette(value), null, `Took the palette ${name}`);
  };
  return (
    <RackPresets
      noun="ramp"
      kept={{ kind: 'ramp', value: ramp }}
      shipped={SHIPPED}
      modes={modes}
      onTake={take}
      more={(close) => (
        <Palettes
          ramp={ramp}
          onTake={(row) => {
            take(row);
            close();
          }}
        />
      )}
    />
  );
}

/** Palettes, each colour of which becomes an equal part of the ramp; and the ramp's own as one. */
function Palettes({
  ramp,
  onTake,
}: Pick<RampToolsProps, 'ramp'> & { readonly onTake: (row: PresetRow) => void }) {
  const { data: list } = usePresets({ kind: 'palette' });
  const { keep } = usePresetActs();
  return (
    <details className="border-t border-line pt-1">
      <summary className="min-h-[24px] cursor-pointer">
        Palettes <span className="figures text-soft">{list?.presets.length ?? ''}</span>
      </summary>
      <div className="flex flex-col gap-2">
        <RackRows list={list} onTake={onTake} />
        <KeepPreset
          what="its colours"
          list={list}
          onKeep={(name, rack) => {
            const kept = { kind: 'palette', value: paletteOfRamp(ramp) } as const;
            keep({ ...kept, name, rack: rack.id }).then(() => {
              toast(`Kept the palette ${name} on the ${rack.name} rack`);
            }, tellProblem);
          }}
        />
      </div>
    </details>
  );
}

'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import type { Triple } from '@/core/graph/document';
import { usePresetActs, usePresets } from '@/state/presets';
import { Choose } from '@/ui/Choose';
import { ColourChip } from '@/ui/ColourChip';
import { colours } from '@/ui/colours';
import type { ShowPalettes } from '@/ui/palette-slot';
import { KeepPreset, rackTitle } from '@/ui/presets/KeepPreset';
import { tellProblem } from '@/ui/tell-problem';

/** Colours of the palettes on the racks, to be taken one by one; and those used last as one. */
function Palettes({ onTake }: { readonly onTake: (colour: Triple) => void }) {
  const { data: list } = usePresets({ kind: 'palette' });
  const { keep } = usePresetActs();
  const recent = useStore(colours, (state) => state.recent);
  const [chosen, setChosen] = useState('');
  const palettes = list?.presets ?? [];
  const palette = palettes.find(({ id }) => id === chosen) ?? palettes[0];
  const shown = palette?.value && 'colours' in palette.value ? palette.value.colours : [];
  const rackOf = (id: string): string => {
    const rack = list?.racks.find((each) => each.id === id);
    return rack ? rackTitle(rack) : '';
  };
  return (
    <div className="flex flex-col gap-1" role="group" aria-label="Palettes">
      {palette ? (
        <Choose
          label="Palette"
          value={palette.id}
          items={palettes.map(({ id, name, rack }) => ({
            ...{ value: id, title: name, help: rackOf(rack) },
          }))}
          onChange={setChosen}
        />
      ) : null}
      <div className="flex flex-wrap gap-1">
        {shown.map((colour, k) => (
          <ColourChip key={`${String(k)} ${colour.join()}`} colour={colour} onTake={onTake} />
        ))}
      </div>
      {recent.length > 0 ? (
        <details>
          <summary className="min-h-[24px] cursor-pointer text-soft">
            Keep those used last as a palette
          </summary>
          <KeepPreset
            what="this palette"
            list={list}
            onKeep={(name, rack) => {
              const kept = { kind: 'palette', value: { colours: recent } } as const;
              keep({ ...kept, name, rack: rack.id }).then(() => {
                toast(`Kept the palette ${name} on the ${rack.name} rack`);
              }, tellProblem);
            }}
          />
        </details>
      ) : null}
    </div>
  );
}

/** For `PaletteSlot`. */
export const showPalettes: ShowPalettes = (onTake) => <Palettes onTake={onTake} />;

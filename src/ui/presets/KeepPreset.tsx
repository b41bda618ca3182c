'use client';
import { useState } from 'react';
import type { PresetList, PresetRack } from '@/contract/presets';
import { Button } from '../Button';
import { Choose } from '../Choose';

interface Props {
  /** What is kept, in the middle of a sentence: “this ramp”. */
  readonly what: string;
  readonly list: PresetList | undefined;
  readonly onKeep: (name: string, rack: PresetRack) => void;
}

/** A name and a rack to keep something under; one’s own rack is offered first. */
export function KeepPreset({ what, list, onKeep }: Props) {
  const [name, setName] = useState('');
  const [chosen, setChosen] = useState('');
  const racks = (list?.racks ?? []).filter(({ mayKeep }) => mayKeep);
  const own = racks.find(({ id }) => id.startsWith('person:'));
  const rack = racks.find(({ id }) => id === chosen) ?? own ?? racks[0];
  const given = name.trim();
  const known = list?.presets.find((each) => each.name === given && each.rack === rack?.id);
  return (
    <form
      className="flex flex-wrap items-center gap-1 border-t border-line pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (given === '' || !rack) return;
        onKeep(given, rack);
        setName('');
      }}
    >
      <input
        aria-label={`Name to keep ${what} under`}
        placeholder={`Name for ${what}`}
        maxLength={80}
        value={name}
        onChange={(event) => {
          setName(event.target.value);
        }}
        className="min-h-[24px] min-w-[110px] flex-1 border border-line bg-ground px-1.5"
      />
      <Choose
        label={`Rack to keep ${what} on`}
        value={rack?.id ?? ''}
        items={racks.map((each) => ({ value: each.id, title: rackTitle(each) }))}
        onChange={setChosen}
      />
      <Button type="submit" disabled={given === '' || !rack}>
        {known?.mayEdit ? 'Replace' : 'Keep'}
      </Button>
    </form>
  );
}

/** The name of a rack among others. */
export const rackTitle = ({ name }: Pick<PresetRack, 'name'>): string => `${name} rack`;

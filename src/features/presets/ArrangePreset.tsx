'use client';
import { useState } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { arrangePreset, copyPreset } from '@/contract/presets';
import type { PresetArrangement, PresetRack, PresetView } from '@/contract/presets';
import { describeError } from '@/core/base/problem';
import { renewPresets, usePresetActs } from '@/state/presets';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { ProblemNote } from '@/ui/ProblemNote';
import { Sheet } from '@/ui/Sheet';
import { WordsForm } from '@/ui/WordsForm';
import { PresetPicture } from '@/ui/presets/PresetPicture';
import { rackTitle } from '@/ui/presets/KeepPreset';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly preset: PresetView;
  readonly racks: readonly PresetRack[];
  readonly onClose: () => void;
}

/** Renames, describes, tags, moves, copies or forgets a preset. */
export function ArrangePreset({ preset, racks, onClose }: Props) {
  const { id, name, value, swatchHash } = preset;
  const client = useQueryClient();
  const arrange = useChange(arrangePreset);
  const { forget } = usePresetActs();
  const done = (told: string): void => {
    toast(told);
    onClose();
    void renewPresets(client);
  };
  const send = (body: PresetArrangement, told: string): void => {
    arrange.mutate(
      { params: { id }, body },
      {
        onSuccess: () => {
          done(told);
        },
      },
    );
  };
  return (
    <Sheet
      open
      onClose={onClose}
      title={`Arrange ${name}`}
      description={
        preset.mayEdit ? 'Its words, and where it stands.' : `Kept by ${preset.authorName}.`
      }
    >
      <div className="flex flex-col gap-4">
        <PresetPicture
          value={value}
          swatchHash={swatchHash}
          name={name}
          className="h-[90px] w-full"
        />
        {preset.mayEdit ? <WordsForm words={preset} onSend={send} /> : null}
        <Places preset={preset} racks={racks} onMove={send} onDone={done} />
        {preset.mayEdit ? (
          <section aria-label="Forget it">
            <Button
              onClick={() => {
                forget(id).then(() => {
                  done(`Forgot ${name}. Materials that took it keep what they took.`);
                }, tellProblem);
              }}
            >
              Forget it
            </Button>
          </section>
        ) : null}
        {arrange.error ? <ProblemNote problem={describeError(arrange.error)} /> : null}
      </div>
    </Sheet>
  );
}

interface PlacesProps {
  readonly preset: PresetView;
  readonly racks: readonly PresetRack[];
  readonly onMove: (body: PresetArrangement, told: string) => void;
  readonly onDone: (told: string) => void;
}

function Places({ preset, racks, onMove, onDone }: PlacesProps) {
  const copy = useChange(copyPreset);
  const others = racks.filter(({ id, mayKeep }) => mayKeep && id !== preset.rack);
  const [chosen, setChosen] = useState('');
  const rack = others.find(({ id }) => id === chosen) ?? others[0];
  if (!rack) return null;
  return (
    <section aria-label="Rack" className="flex flex-wrap items-center gap-2">
      <Choose
        label="Another rack"
        value={rack.id}
        items={others.map((each) => ({ value: each.id, title: rackTitle(each) }))}
        onChange={setChosen}
      />
      {preset.mayEdit ? (
        <Button
          onClick={() => {
            onMove({ rack: rack.id }, `Moved ${preset.name} to the ${rack.name} rack`);
          }}
        >
          Move it there
        </Button>
      ) : null}
      <Button
        onClick={() => {
          const given = { params: { id: preset.id }, body: { rack: rack.id, name: preset.name } };
          copy.mutate(given, {
            onSuccess: () => {
              onDone(`Copied ${preset.name} to the ${rack.name} rack`);
            },
          });
        }}
      >
        Copy it there
      </Button>
      {copy.error ? <ProblemNote problem={describeError(copy.error)} /> : null}
    </section>
  );
}

'use client';
import { ToggleGroup } from 'radix-ui';
import { getStretch } from '@/state/looks';
import { STAGE_LOOKS, stores } from '@/state/stores';
import type { StageLook } from '@/state/stores';
import { useResults, useView } from '@/state/use-stores';

const WORDS: Readonly<Record<StageLook, readonly [string, string]>> = {
  finished: ['As it is', 'The finished surface, or the pinned value flat.'],
  clay: [
    'Clay',
    'Mid-grey, lit: the shape and the relief alone, or the pinned value painted on them.',
  ],
  exaggerated: [
    'Exaggerated',
    'Small differences made large: contrast and relief, or the pinned value stretched over ' +
      'its range.',
  ],
};
const number = (value: number): string => String(Number(value.toPrecision(3)));

/** Ways of looking at the model; nothing of the material changes. */
export function LookChoice() {
  const look = useView((state) => state.look);
  return (
    <ToggleGroup.Root
      type="single"
      aria-label="How the stage is looked at"
      value={look}
      onValueChange={(next) => {
        if (next) stores.view.setState({ look: next as StageLook });
      }}
      className="flex rounded-[2px] border border-line bg-panel"
    >
      {STAGE_LOOKS.map((each) => (
        <ToggleGroup.Item
          key={each}
          value={each}
          title={WORDS[each][1]}
          className={
            'min-h-[24px] px-1.5 text-soft hover:text-ink data-[state=on]:border-b-2 ' +
            'data-[state=on]:border-weld data-[state=on]:text-ink'
          }
        >
          {WORDS[each][0]}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

/** Which values stand as black and white while small differences are made large. */
export function StretchNote() {
  const look = useView((state) => state.look);
  const pin = useView((state) => state.pin);
  const tap = useResults((state) => (pin === null ? undefined : state.taps.get(pin)));
  const stretch = look === 'exaggerated' && pin !== null ? getStretch(tap) : null;
  if (!stretch) return null;
  return (
    <span role="status" className="bg-panel px-1.5 text-ink" data-testid="stretch">
      {stretch === 'constant' ? (
        'The same everywhere: nothing to stretch.'
      ) : (
        <>
          Black is <span className="figures">{number(stretch[0])}</span>, white{' '}
          <span className="figures">{number(stretch[1])}</span>
        </>
      )}
    </span>
  );
}

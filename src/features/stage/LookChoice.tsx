'use client';
import { ToggleGroup } from 'radix-ui';
import type { TapResult } from '@/core/evaluate/tap-results';
import { getStretch, rangeOfLook } from '@/state/looks';
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
  limits: [
    'Limits',
    'Of a pinned value: stripes falling below 0, rising above 1, both for no number, dots between.',
  ],
  signed: [
    'Signed',
    'Of a pinned value: dark and bluish below 0, light and warm above, grey at 0.',
  ],
};
/** Ways of looking at pinned values alone. */
const OF_PINNED: ReadonlySet<StageLook> = new Set(['limits', 'signed']);
const number = (value: number): string => String(Number(value.toPrecision(3)));

/** Ways of looking at the model; nothing of the material changes. */
export function LookChoice() {
  const look = useView((state) => state.look);
  const isPinned = useView((state) => state.pin !== null);
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
      {STAGE_LOOKS.filter((each) => isPinned || !OF_PINNED.has(each)).map((each) => (
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

/** What the way of looking shows of a pinned value, in words and figures. */
export function StretchNote() {
  const look = useView((state) => state.look);
  const pin = useView((state) => state.pin);
  const tap = useResults((state) => (pin === null ? undefined : state.taps.get(pin)));
  if (pin === null || look === 'finished' || look === 'clay') return null;
  const words = look === 'limits' ? <LimitWords tap={tap} /> : <RangeWords look={look} tap={tap} />;
  return (
    <span role="status" className="bg-panel px-1.5 text-ink" data-testid="stretch">
      {words}
    </span>
  );
}

interface WordProps {
  readonly tap: TapResult | undefined;
}

/** Which values stand at the ends of what is shown. */
function RangeWords({ look, tap }: WordProps & { readonly look: StageLook }) {
  if (look === 'exaggerated' && getStretch(tap) === 'constant')
    return <>The same everywhere: nothing to stretch.</>;
  if (!tap?.statistics) return null;
  const [low, high] = rangeOfLook(look, tap).map(number);
  const [dark, light] = look === 'signed' ? ['Darkest', 'lightest'] : ['Black', 'white'];
  return (
    <>
      {dark} is <span className="figures">{low}</span>, {light}{' '}
      <span className="figures">{high}</span>
    </>
  );
}

const percent = (share: number): string =>
  `${(share * 100).toFixed(share > 0 && share < 0.01 ? 2 : 1)} %`;

/** What each mark stands for, with its share of the surface. */
function LimitWords({ tap }: WordProps) {
  if (!tap?.statistics) return null;
  const { below, above, notANumber } = tap.statistics;
  return (
    <>
      ╲ below 0 <span className="figures">{percent(below)}</span> · ╱ above 1{' '}
      <span className="figures">{percent(above)}</span> · ╳ no number{' '}
      <span className="figures">{percent(notANumber)}</span> · ⁘ between
    </>
  );
}

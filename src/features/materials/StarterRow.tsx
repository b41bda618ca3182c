'use client';
import Image from 'next/image';
import { ToggleGroup } from 'radix-ui';
import type { ModelEntry } from '@/contract/models';
import { Swatch } from '@/ui/Swatch';
import type { StarterChoice } from './starter-choices';

interface Props {
  readonly starters: readonly StarterChoice[];
  readonly models: readonly ModelEntry[];
  readonly chosen: StarterChoice | null;
  readonly onChoose: (starter: StarterChoice | null) => void;
}
const NOTHING = 'nothing';
const TILE =
  'press flex flex-col border border-line bg-ground text-left hover:border-seam ' +
  'data-[state=on]:border-weld data-[state=on]:outline data-[state=on]:outline-1 ' +
  'data-[state=on]:outline-weld';

/** What a new material may begin from, in pictures; nothing is a choice, too. */
export function StarterRow({ starters, models, chosen, onChoose }: Props) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label="What the new material begins from"
      value={chosen?.id ?? NOTHING}
      onValueChange={(id) => {
        onChoose(starters.find((each) => each.id === id) ?? null);
      }}
      className={
        // Two rows at most: however many are on racks, the materials stay in sight.
        'grid grid-cols-[repeat(auto-fill,minmax(clamp(80px,6.1vw,150px),1fr))] gap-1.5 ' +
        'max-h-[clamp(212px,17vw,320px)] overflow-y-auto'
      }
    >
      <ToggleGroup.Item value={NOTHING} className={TILE} title="An empty board and plain clay">
        <span className="grid aspect-[4/3] w-full place-items-center bg-stage">
          <EmptyLoom />
        </span>
        <span className="px-1.5 py-1 text-[12px] leading-[1.2]">From nothing</span>
      </ToggleGroup.Item>
      {starters.map((starter) => {
        const model = models.find(({ id }) => id === starter.model);
        return (
          <ToggleGroup.Item
            key={starter.id}
            value={starter.id}
            className={TILE}
            title={
              model
                ? `${starter.help} Made on ${model.name}.`
                : `${starter.help} The model it was made on is gone; it begins on another.`
            }
          >
            <StarterPicture starter={starter} />
            <span className="px-1.5 py-1 text-[12px] leading-[1.2]">{starter.title}</span>
          </ToggleGroup.Item>
        );
      })}
    </ToggleGroup.Root>
  );
}

const PICTURE = 'aspect-[4/3] w-full bg-stage object-contain p-0.5';

function StarterPicture({ starter }: { readonly starter: StarterChoice }) {
  if (starter.kept)
    return <Swatch hash={starter.kept.swatchHash} label={starter.help} className={PICTURE} />;
  return (
    <Image
      unoptimized
      src={`/starters/${starter.id}.png`}
      alt={starter.help}
      width={144}
      height={108}
      className={PICTURE}
    />
  );
}

/** A warp without weft. */
function EmptyLoom() {
  return (
    <svg viewBox="0 0 48 36" className="h-1/2" aria-hidden>
      {[6, 15, 24, 33, 42].map((x) => (
        <line key={x} x1={x} x2={x} y1={2} y2={34} stroke="var(--ink-soft)" strokeWidth={1.2} />
      ))}
    </svg>
  );
}

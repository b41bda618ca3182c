import Link from 'next/link';
import type { PresetView } from '@/contract/presets';
import { Button } from '@/ui/Button';
import { Tags } from '@/ui/Tags';
import { PresetPicture } from '@/ui/presets/PresetPicture';

interface Props {
  readonly preset: PresetView;
  readonly rack: string;
  readonly onArrange: () => void;
}

/** A preset: what it looks like, its name, where it stands and who kept it. */
export function PresetCard({ preset, rack, onArrange }: Props) {
  const { name, kind, value, swatchHash, description, tags, authorName } = preset;
  const isFlat = kind === 'ramp' || kind === 'palette';
  return (
    <li
      className="flex flex-col border border-line bg-panel p-2 hover:border-seam"
      data-testid={`preset-${name}`}
    >
      <PresetPicture
        value={value}
        swatchHash={swatchHash}
        name={name}
        className={isFlat ? 'h-[44px] w-full' : 'aspect-[4/3] w-full'}
      />
      <h2 className="mt-1 text-[14px] leading-[1.25] font-semibold">{name}</h2>
      <p className="flex justify-between text-[11.5px] text-soft">
        <span>{rack} rack</span>
        <span>{authorName}</span>
      </p>
      {value && 'entryId' in value ? (
        <p className="text-[12px]">
          of{' '}
          <Link className="underline" href={`/library/${value.entryId}`}>
            {preset.entryName}
          </Link>
        </p>
      ) : null}
      {description ? <p className="line-clamp-2 text-[12px] text-soft">{description}</p> : null}
      <Tags tags={tags} />
      <span>
        <Button look="quiet" onClick={onArrange} aria-label={`Arrange ${name}`}>
          Arrange …
        </Button>
      </span>
    </li>
  );
}

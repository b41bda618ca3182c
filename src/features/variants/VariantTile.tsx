import type { Picture } from '@/core/evaluate/picture';
import { PictureCanvas } from '@/ui/PictureCanvas';

interface Props {
  readonly name: string;
  readonly picture: Picture | undefined;
  readonly isShown: boolean;
  readonly onApply: () => void;
}

/** A variant as a picture; pressing it applies it. */
export function VariantTile({ name, picture, isShown, onApply }: Props) {
  return (
    <button
      type="button"
      aria-pressed={isShown}
      aria-label={`Apply ${name}`}
      title={`Put every dial as in “${name}”`}
      className={
        'w-[64px] border p-0.5 text-[11px] ' +
        (isShown ? 'border-weld' : 'border-line hover:border-seam')
      }
      onClick={onApply}
    >
      <PictureCanvas
        picture={picture}
        label={`How “${name}” looks`}
        className="mx-auto h-[56px] w-[56px] bg-stage"
      />
      <span className="block truncate">{name}</span>
    </button>
  );
}

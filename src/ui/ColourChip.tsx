import type { Triple } from '@/core/graph/document';
import { toHex } from '@/core/surface/colour-science';

interface Props {
  readonly colour: Triple;
  readonly onTake: (colour: Triple) => void;
}

/** A colour to take by pressing it. */
export function ColourChip({ colour, onTake }: Props) {
  const hex = toHex(colour);
  return (
    <button
      type="button"
      aria-label={`Use ${hex}`}
      title={hex}
      className="h-[24px] w-[24px] border border-line"
      style={{ background: hex }}
      onClick={() => {
        onTake(colour);
      }}
    />
  );
}

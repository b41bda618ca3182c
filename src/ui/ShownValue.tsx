import { isChoice, isCurve, isFormula, isImage, isRamp, isTriple } from '@/core/graph/document';
import type { InputValue } from '@/core/graph/document';
import { toHex } from '@/core/surface/colour-science';
import { shortNumber } from './NumberField';

interface Props {
  readonly value: InputValue;
  /** Whether three numbers are a colour. */
  readonly isColour: boolean;
}

/** A value in the space of a few letters: as a number, as a patch of colour, or in words. */
export function ShownValue({ value, isColour }: Props) {
  if (typeof value === 'number') return <span className="figures">{shortNumber(value)}</span>;
  if (isTriple(value))
    return isColour ? (
      <span
        className="inline-block h-[11px] w-5 border border-line"
        style={{ background: toHex(value) }}
      />
    ) : (
      <span className="figures">{value.map((x) => shortNumber(x)).join(' ')}</span>
    );
  return <span className="max-w-[120px] truncate">{wordsFor(value)}</span>;
}

function wordsFor(value: Exclude<InputValue, number | readonly number[]>): string {
  if (isImage(value)) return value.name || 'no image';
  if (isChoice(value)) return value.choice;
  if (isFormula(value)) return value.formula;
  if (isCurve(value)) return `${String(value.points.length)} points`;
  return isRamp(value) ? `${String(value.stops.length)} stops` : '';
}

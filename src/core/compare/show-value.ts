import { isChoice, isCurve, isFormula, isImage, isRamp } from '../graph/document';

const number = (value: number): string =>
  Number.isInteger(value) ? String(value) : String(Number(value.toPrecision(6)));

/** A value in a few words, for lists of changes. */
export function showValue(value: unknown): string {
  if (value === undefined || value === null) return 'its default';
  if (typeof value === 'number') return number(value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string') return value === '' ? 'nothing' : value;
  if (isRamp(value)) return `a ramp of ${String(value.stops.length)} stops`;
  if (isCurve(value)) return `a curve of ${String(value.points.length)} points`;
  if (isImage(value)) return value.name || 'no image';
  if (isFormula(value)) return value.formula;
  if (isChoice(value)) return value.choice;
  if (Array.isArray(value)) {
    if (value.every((each) => typeof each === 'number')) return value.map(number).join(', ');
    return `${String(value.length)} of them`;
  }
  return 'set';
}

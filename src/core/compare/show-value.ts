import { toHex } from '../surface/colour-science';
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

interface Part {
  readonly words: string;
  readonly was: unknown;
  readonly is: unknown;
}
/** Parts that are named of those that differ. */
const MOST_PARTS = 3;
const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isNumbers = (value: unknown): boolean =>
  Array.isArray(value) && value.every((each) => typeof each === 'number');
const idOf = (value: unknown): unknown => (isRecord(value) ? value['id'] : undefined);

const nameOf = (value: unknown): string | undefined => {
  const name = isRecord(value) ? value['name'] : undefined;
  return typeof name === 'string' && name !== '' ? `“${name}”` : undefined;
};

/** Pairs up what two lists hold: by their ids where they have some, else by their places. */
function pairUp(was: readonly unknown[], is: readonly unknown[]): readonly [unknown, unknown][] {
  if (![...was, ...is].every((each) => idOf(each) !== undefined))
    return Array.from({ length: Math.max(was.length, is.length) }, (_, k) => [was[k], is[k]]);
  const gone = was.filter((old) => !is.some((now) => idOf(now) === idOf(old)));
  return [
    ...is.map((now): [unknown, unknown] => [was.find((old) => idOf(old) === idOf(now)), now]),
    ...gone.map((old): [unknown, unknown] => [old, undefined]),
  ];
}

/** What of two values is not alike, as deep as both have the same parts. */
function unlikeParts(was: unknown, is: unknown, words: string): readonly Part[] {
  if (was === is || JSON.stringify(was) === JSON.stringify(is)) return [];
  if (Array.isArray(was) && Array.isArray(is) && !(isNumbers(was) && isNumbers(is))) {
    const one = words.replace(/s$/, '');
    return pairUp(was, is).flatMap(([old, now], k) =>
      unlikeParts(old, now, `${one} ${nameOf(now ?? old) ?? String(k + 1)}`.trim()),
    );
  }
  if (isRecord(was) && isRecord(is))
    return [...new Set([...Object.keys(was), ...Object.keys(is)])].flatMap((key) =>
      unlikeParts(was[key], is[key], `${words} ${key}`.trim()),
    );
  return [{ words, was, is }];
}

const showPart = (words: string, value: unknown): string => {
  if (value === undefined) return `${words} not there`;
  const isColour = /colour$/i.test(words) && isNumbers(value);
  const text = isColour ? toHex(value as readonly number[]) : showValue(value);
  return `${words} ${text === 'set' ? 'there' : text}`;
};

/** Two different values in a few words that differ, too: what inside them is not alike. */
export function showPair(was: unknown, is: unknown): readonly [before: string, after: string] {
  const whole = [showValue(was), showValue(is)] as const;
  if (whole[0] !== whole[1]) return whole;
  const parts = unlikeParts(was, is, '');
  const named = parts.slice(0, MOST_PARTS);
  const rest = parts.length - named.length;
  const more = rest > 0 ? `, ${String(rest)} more` : '';
  return [
    named.map(({ words, was: old }) => showPart(words, old)).join(', ') + more,
    named.map(({ words, is: now }) => showPart(words, now)).join(', ') + more,
  ];
}

import { parseFormula } from './parse';
import type { BinarySign, Expression } from './parse';
import { FormulaError } from './tokens';

/** A number as it was typed, or why the text is none. */
export type TypedNumber = { readonly value: number } | { readonly reason: string };

const CONSTANTS: Readonly<Record<string, number>> = { PI: Math.PI, TAU: 2 * Math.PI };
const FUNCTIONS: Readonly<Record<string, (...given: readonly number[]) => number>> = {
  abs: (x = NaN) => Math.abs(x),
  sqrt: (x = NaN) => Math.sqrt(x),
  floor: (x = NaN) => Math.floor(x),
  ceil: (x = NaN) => Math.ceil(x),
  round: (x = NaN) => Math.round(x),
  pow: (x = NaN, y = NaN) => x ** y,
  sin: (x = NaN) => Math.sin(x),
  cos: (x = NaN) => Math.cos(x),
  tan: (x = NaN) => Math.tan(x),
  radians: (x = NaN) => (x * Math.PI) / 180,
  degrees: (x = NaN) => (x * 180) / Math.PI,
  min: (...given) => Math.min(...given),
  max: (...given) => Math.max(...given),
};
const SIGNS: Partial<Record<BinarySign, (x: number, y: number) => number>> = {
  '+': (x, y) => x + y,
  '-': (x, y) => x - y,
  '*': (x, y) => x * y,
  '/': (x, y) => x / y,
  '%': (x, y) => x - y * Math.floor(x / y),
};

function valueOf(of: Expression): number {
  if (of.kind === 'number') return of.value;
  if (of.kind === 'negate') return -valueOf(of.of);
  const sign = of.kind === 'binary' ? SIGNS[of.sign] : undefined;
  if (of.kind === 'binary' && sign) return sign(valueOf(of.left), valueOf(of.right));
  if (of.kind === 'name' && Object.hasOwn(CONSTANTS, of.name)) return CONSTANTS[of.name] ?? NaN;
  if (of.kind === 'call' && Object.hasOwn(FUNCTIONS, of.name))
    return FUNCTIONS[of.name]?.(...of.given.map(valueOf)) ?? NaN;
  if (of.kind === 'name' || of.kind === 'call')
    throw new FormulaError(of.at, `“${of.name}” is not known here.`);
  throw new FormulaError(of.at, 'only numbers can be worked with here.');
}

/** @param text an expression, as in formulas; a comma may stand for the decimal point */
function calculate(text: string): number {
  const decimal = /^[^(]*$/.test(text) ? text.replace(',', '.') : text;
  const { declarations, result } = parseFormula(decimal);
  const [first] = declarations;
  if (first) throw new FormulaError(first.at, 'only numbers can be worked with here.');
  return valueOf(result);
}

/** A text that works on the number that is there: a sign before, or a share of it. */
function fromPresent(text: string, present: number): number {
  const share = /^([+-])(.+)%$/.exec(text);
  if (share) return present * (1 + ((share[1] === '-' ? -1 : 1) * calculate(share[2] ?? '')) / 100);
  if (text.endsWith('%')) return calculate(text.slice(0, -1)) / 100;
  const sign = /^([*/])(.+)$/.exec(text);
  if (!sign) return calculate(text);
  const by = calculate(sign[2] ?? '');
  return sign[1] === '*' ? present * by : present / by;
}

function reasonIn(error: unknown): string {
  if (error instanceof FormulaError) return error.reason.replace(/\.$/, '');
  throw error;
}

/**
 * Reads what is typed into the field of a number: a number, a calculation of the grammar of
 * formulas (`3*0.2`, `1/3`, `sqrt(2)`), a percentage (`25%` is 0.25), or one that starts from the
 * number there: `+10%`, `-10%`, `*2`, `/3`.
 */
export function readTypedNumber(text: string, present: number): TypedNumber {
  try {
    const value = fromPresent(text.trim(), present);
    if (Number.isFinite(value)) return { value };
    return { reason: 'it has no value: a division by 0, or a root of less than 0' };
  } catch (error) {
    return { reason: reasonIn(error) };
  }
}

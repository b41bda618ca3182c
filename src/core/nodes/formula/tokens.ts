/** A formula that cannot be read or does not make sense; `at` counts characters from 0. */
export class FormulaError extends Error {
  constructor(
    readonly at: number,
    readonly reason: string,
  ) {
    super(`At character ${String(at + 1)}: ${reason}`);
    this.name = 'FormulaError';
  }
}

/** The longest formula, in characters. */
export const FORMULA_LIMIT = 20000;

/** A piece of a formula's text; `at` is where it begins, counted from 0. */
export interface Token {
  readonly kind: 'number' | 'name' | 'sign' | 'end';
  readonly text: string;
  readonly at: number;
}

const SKIPPED = /\s+|\/\/[^\n]*/;
const NUMBER = /(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?f?/;
const NAME = /[A-Za-z_][A-Za-z_0-9]*/;
const SIGN = /<=|>=|==|!=|&&|\|\||[-+*/%<>!?:(),.;={}]/;
const PATTERN = new RegExp(
  `${SKIPPED.source}|(${NUMBER.source})|(${NAME.source})|(${SIGN.source})`,
  'y',
);

/** @throws FormulaError at a character no formula may contain, or when it is too long */
export function tokenise(text: string): readonly Token[] {
  if (text.length > FORMULA_LIMIT)
    throw new FormulaError(
      FORMULA_LIMIT,
      `a formula may have ${FORMULA_LIMIT.toLocaleString('en')} characters; this one has ` +
        `${text.length.toLocaleString('en')}. Split it over several nodes.`,
    );
  const tokens: Token[] = [];
  let at = 0;
  while (at < text.length) {
    PATTERN.lastIndex = at;
    const match = PATTERN.exec(text);
    if (!match)
      throw new FormulaError(
        at,
        `“${String.fromCodePoint(text.codePointAt(at) ?? 0)}” means nothing in a formula.`,
      );
    const [whole, number, name, sign] = match;
    if (number !== undefined) tokens.push({ kind: 'number', text: number.replace(/f$/, ''), at });
    else if (name !== undefined) tokens.push({ kind: 'name', text: name, at });
    else if (sign !== undefined) tokens.push({ kind: 'sign', text: sign, at });
    at += whole.length;
  }
  tokens.push({ kind: 'end', text: '', at: text.length });
  return tokens;
}

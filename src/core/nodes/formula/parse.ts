import { FormulaError, tokenise } from './tokens';
import type { Token } from './tokens';

/** An operator between two expressions. */
export type BinarySign =
  '+' | '-' | '*' | '/' | '%' | '<' | '>' | '<=' | '>=' | '==' | '!=' | '&&' | '||';
/** An expression; `at` is where it begins in the text, counted from 0. */
export type Expression = { readonly at: number } & (
  | { readonly kind: 'number'; readonly value: number }
  | { readonly kind: 'name'; readonly name: string }
  | { readonly kind: 'negate' | 'not'; readonly of: Expression }
  | {
      readonly kind: 'binary';
      readonly sign: BinarySign;
      readonly left: Expression;
      readonly right: Expression;
    }
  | {
      readonly kind: 'choice';
      readonly condition: Expression;
      readonly yes: Expression;
      readonly no: Expression;
    }
  | { readonly kind: 'call'; readonly name: string; readonly given: readonly Expression[] }
  | { readonly kind: 'part'; readonly of: Expression; readonly lanes: readonly (0 | 1 | 2)[] }
);
/** The types of values in formulas. */
export type FormulaType = 'float' | 'vec3' | 'bool';
/** A named intermediate value. */
export interface Declaration {
  readonly type: FormulaType;
  readonly name: string;
  readonly value: Expression;
  readonly at: number;
}
/** Named intermediate values, then the result. */
export interface Formula {
  readonly declarations: readonly Declaration[];
  readonly result: Expression;
}

/** How deep brackets and choices may nest: the reader must not run out of stack. */
const DEEPEST = 200;
const LEVELS: readonly (readonly BinarySign[])[] = [
  ['||'],
  ['&&'],
  ['==', '!='],
  ['<', '>', '<=', '>='],
  ['+', '-'],
  ['*', '/', '%'],
];
/** The words that name a type. */
export const FORMULA_TYPES: readonly string[] = ['float', 'vec3', 'bool'];

/**
 * Reads a formula: `float t = a * 2.0; mix(b, c, t)`. The grammar of expressions is that of GLSL
 * (Khronos, The OpenGL ES Shading Language 3.00, chapter 5), less assignment and indexing.
 * @throws FormulaError with the character where it stops making sense
 */
export function parseFormula(text: string): Formula {
  return new Reader(tokenise(text)).formula();
}

class Reader {
  private next = 0;
  private depth = 0;

  constructor(private readonly tokens: readonly Token[]) {}

  private get token(): Token {
    return this.tokens[Math.min(this.next, this.tokens.length - 1)] as Token;
  }
  private is(sign: string): boolean {
    return this.token.kind === 'sign' && this.token.text === sign;
  }
  private accept(sign: string): boolean {
    const found = this.is(sign);
    if (found) this.next++;
    return found;
  }
  private expect(sign: string, why: string): void {
    if (!this.accept(sign))
      throw new FormulaError(
        this.token.at,
        `“${sign}” is missing ` +
          `${why}${this.token.kind === 'end' ? '' : `; here stands “${this.token.text}”`}.`,
      );
  }

  formula(): Formula {
    const declarations: Declaration[] = [];
    while (
      this.token.kind === 'name' &&
      FORMULA_TYPES.includes(this.token.text) &&
      this.tokens[this.next + 1]?.kind === 'name'
    )
      declarations.push(this.declaration());
    const result = this.expression();
    this.accept(';');
    if (this.token.kind !== 'end')
      throw new FormulaError(
        this.token.at,
        `the formula should end here; “${this.token.text}” does not fit.`,
      );
    return { declarations, result };
  }

  private declaration(): Declaration {
    const type = this.token.text as FormulaType;
    this.next++;
    const { text: name, at } = this.token;
    this.next++;
    this.expect('=', `after the name ${name}`);
    const value = this.expression();
    this.expect(';', `after the value of ${name}`);
    return { type, name, value, at };
  }

  private deeper<T>(read: () => T): T {
    if (++this.depth > DEEPEST)
      throw new FormulaError(
        this.token.at,
        `brackets nest deeper than ${String(DEEPEST)} levels. Name parts of it first: ` +
          'float t = …;',
      );
    const result = read();
    this.depth--;
    return result;
  }

  private expression(): Expression {
    return this.deeper(() => {
      const condition = this.level(0);
      const { at } = this.token;
      if (!this.accept('?')) return condition;
      const yes = this.expression();
      this.expect(':', 'between the two alternatives of “?”');
      return { kind: 'choice', condition, yes, no: this.expression(), at };
    });
  }

  private level(k: number): Expression {
    const signs = LEVELS[k];
    if (!signs) return this.unary();
    let left = this.level(k + 1);
    for (let sign = this.signAmong(signs); sign; sign = this.signAmong(signs)) {
      const { at } = this.token;
      this.next++;
      left = { kind: 'binary', sign, left, right: this.level(k + 1), at };
    }
    return left;
  }

  private signAmong(signs: readonly BinarySign[]): BinarySign | undefined {
    return this.token.kind === 'sign' ? signs.find((sign) => sign === this.token.text) : undefined;
  }

  private unary(): Expression {
    const { at } = this.token;
    if (this.accept('+')) return this.deeper(() => this.unary());
    if (this.accept('-')) return this.deeper(() => ({ kind: 'negate', of: this.unary(), at }));
    if (this.accept('!')) return this.deeper(() => ({ kind: 'not', of: this.unary(), at }));
    return this.parts(this.atom());
  }

  private parts(given: Expression): Expression {
    let of = given;
    while (this.accept('.')) {
      const { text, at, kind } = this.token;
      const lanes =
        kind === 'name'
          ? Array.from(text, (letter) =>
              'xyz'.includes(letter) ? 'xyz'.indexOf(letter) : 'rgb'.indexOf(letter),
            )
          : [];
      if ((lanes.length !== 1 && lanes.length !== 3) || lanes.includes(-1))
        throw new FormulaError(at, 'after “.” stands one or three of x, y, z, or of r, g, b.');
      this.next++;
      of = { kind: 'part', of, lanes: lanes as (0 | 1 | 2)[], at };
    }
    return of;
  }

  private atom(): Expression {
    const { kind, text, at } = this.token;
    if (kind === 'number') {
      this.next++;
      return { kind: 'number', value: Number(text), at };
    }
    if (kind === 'name') {
      this.next++;
      return this.accept('(')
        ? { kind: 'call', name: text, given: this.list(), at }
        : { kind: 'name', name: text, at };
    }
    if (this.accept('(')) {
      const inner = this.expression();
      this.expect(')', 'to close a bracket');
      return inner;
    }
    throw new FormulaError(
      at,
      kind === 'end'
        ? at === 0
          ? 'there is no formula yet.'
          : 'the formula stops too early.'
        : `a value should stand here, not “${text}”.`,
    );
  }

  private list(): readonly Expression[] {
    const given: Expression[] = [];
    if (this.accept(')')) return given;
    do given.push(this.expression());
    while (this.accept(','));
    this.expect(')', 'to close the list of arguments');
    return given;
  }
}

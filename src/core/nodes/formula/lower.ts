import type { Builder } from '../../ir/builder';
import type { Bool, F32, Lanes3 } from '../../ir/types';
import { divide, stepAt } from '../lanes';
import { CONSTANTS, FUNCTIONS, functionsWith } from './functions';
import type { FormulaFunction, Step } from './functions';
import type { BinarySign, Expression, Formula } from './parse';
import { FormulaError } from './tokens';

type Typed =
  | { readonly type: 'float'; readonly lanes: readonly [F32] }
  | { readonly type: 'vec3'; readonly lanes: Lanes3 }
  | { readonly type: 'bool'; readonly truth: Bool };
type Numeric = Exclude<Typed, { type: 'bool' }>;

/** The most operations a formula may have after names are opened; beyond, it is refused. */
const MOST_OPERATIONS = 4000;

/**
 * Compiles a formula to the representation every back end reads; nothing is interpreted at run
 * time.
 * @param inputs one or three lanes for each name
 * @param step how hard steps are made; antialiased where samples stand for a width of surface
 * @returns one lane for a float, three for a vec3
 * @throws FormulaError where types do not fit or a name is unknown
 */
export function lowerFormula(
  b: Builder,
  formula: Formula,
  inputs: Readonly<Record<string, readonly F32[]>>,
  step: Step = stepAt,
): readonly F32[] {
  const lowering = new FormulaLowering(b, inputs, functionsWith(step));
  for (const { type, name, value, at } of formula.declarations)
    lowering.declare(type, name, value, at);
  const result = lowering.lower(formula.result);
  if (result.type === 'bool')
    throw new FormulaError(
      formula.result.at,
      'the result is a condition. Choose what it gives: … ? 1.0 : 0.0',
    );
  return result.lanes;
}

class FormulaLowering {
  private readonly names = new Map<string, Typed>();
  private operations = 0;

  constructor(
    private readonly b: Builder,
    inputs: Readonly<Record<string, readonly F32[]>>,
    private readonly functions: Readonly<Record<string, FormulaFunction>>,
  ) {
    for (const [name, lanes] of Object.entries(inputs)) this.names.set(name, numeric(lanes));
  }

  declare(type: Typed['type'], name: string, value: Expression, at: number): void {
    if (name in FUNCTIONS || name in CONSTANTS || this.names.has(name))
      throw new FormulaError(at, `the name ${name} is taken.`);
    const found = this.lower(value);
    if (found.type !== type && !(type === 'vec3' && found.type === 'float'))
      throw new FormulaError(at, `${name} should be a ${type}, and its value is a ${found.type}.`);
    this.names.set(
      name,
      type === 'vec3' && found.type === 'float'
        ? { type, lanes: [found.lanes[0], found.lanes[0], found.lanes[0]] }
        : found,
    );
  }

  lower(expression: Expression): Typed {
    this.count(expression);
    switch (expression.kind) {
      case 'number':
        return { type: 'float', lanes: [this.b.f(expression.value)] };
      case 'name':
        return this.named(expression.name, expression.at);
      case 'negate':
        return this.eachLane([this.numeric(expression.of)], ([x]) => this.b.neg(x as F32));
      case 'not':
        return { type: 'bool', truth: this.b.not(this.condition(expression.of)) };
      case 'binary':
        return this.chain(expression);
      case 'choice':
        return this.choice(expression.condition, expression.yes, expression.no, expression.at);
      case 'call':
        return this.call(expression.name, expression.given, expression.at);
      case 'part': {
        const of = this.numeric(expression.of);
        if (of.type !== 'vec3')
          throw new FormulaError(
            expression.at,
            'a float has no parts; only a vec3 has x, y and z.',
          );
        return numeric(expression.lanes.map((k) => of.lanes[k]));
      }
    }
  }

  private count({ at }: Expression): void {
    if (++this.operations > MOST_OPERATIONS)
      throw new FormulaError(
        at,
        `a formula may have ${String(MOST_OPERATIONS)} operations. Split it over several nodes.`,
      );
  }

  /**
   * a + b + c … leans to the left without end: walked in a loop, so that a long sum needs no deep
   * stack.
   */
  private chain(expression: Expression & { kind: 'binary' }): Typed {
    const spine = [expression];
    let leftmost: Expression = expression.left;
    for (; leftmost.kind === 'binary'; leftmost = leftmost.left) {
      this.count(leftmost);
      spine.push(leftmost);
    }
    return spine.reduceRight(
      (left, { sign, left: { at }, right }) => this.binary(sign, left, at, right),
      this.lower(leftmost),
    );
  }

  private named(name: string, at: number): Typed {
    const constant = CONSTANTS[name];
    if (constant !== undefined) return { type: 'float', lanes: [this.b.f(constant)] };
    if (name === 'true' || name === 'false')
      return { type: 'bool', truth: this.b.bool(name === 'true') };
    const found = this.names.get(name);
    if (found) return found;
    throw new FormulaError(
      at,
      name in FUNCTIONS
        ? `${name} is a function: write ${name}(…).`
        : `there is no ${name} here. Known: ${[...this.names.keys()].join(', ')}.`,
    );
  }

  private numeric(expression: Expression): Numeric {
    return asNumber(this.lower(expression), expression.at);
  }
  private condition(expression: Expression): Bool {
    return asCondition(this.lower(expression), expression.at);
  }

  private eachLane(given: readonly Numeric[], make: (lanes: readonly F32[]) => F32): Numeric {
    const width = given.some((value) => value.type === 'vec3') ? 3 : 1;
    return numeric(
      Array.from({ length: width }, (_, k) =>
        make(given.map((value) => value.lanes[value.type === 'vec3' ? (k as 0) : 0])),
      ),
    );
  }

  private binary(sign: BinarySign, left: Typed, leftAt: number, right: Expression): Typed {
    const { b } = this;
    if (sign === '&&' || sign === '||') {
      const [x, y] = [asCondition(left, leftAt), this.condition(right)];
      return { type: 'bool', truth: sign === '&&' ? b.and(x, y) : b.or(x, y) };
    }
    const [x, y] = [asNumber(left, leftAt), this.numeric(right)];
    const arithmetic: Partial<Record<BinarySign, (p: F32, q: F32) => F32>> = {
      '+': (p, q) => b.add(p, q),
      '-': (p, q) => b.sub(p, q),
      '*': (p, q) => b.mul(p, q),
      '/': (p, q) => divide(b, p, q),
      '%': (p, q) =>
        b.select(b.eq(q, b.f(0)), b.f(0), b.sub(p, b.mul(q, b.floor(divide(b, p, q))))),
    };
    const make = arithmetic[sign];
    if (make) return this.eachLane([x, y], ([p, q]) => make(p as F32, q as F32));
    if (sign === '==' || sign === '!=') {
      const same = this.sameLanes(x, y);
      return { type: 'bool', truth: sign === '==' ? same : b.not(same) };
    }
    if (x.type !== 'float' || y.type !== 'float')
      throw new FormulaError(
        x.type === 'float' ? right.at : leftAt,
        `“${sign}” compares floats, not a vec3.`,
      );
    const [p, q] = [x.lanes[0], y.lanes[0]];
    return {
      type: 'bool',
      truth:
        sign === '<'
          ? b.lt(p, q)
          : sign === '>'
            ? b.gt(p, q)
            : sign === '<='
              ? b.le(p, q)
              : b.ge(p, q),
    };
  }

  private sameLanes(x: Numeric, y: Numeric): Bool {
    const { b } = this;
    const lane = (value: Numeric, k: number): F32 =>
      value.lanes[value.type === 'vec3' ? (k as 0) : 0];
    const first = b.eq(lane(x, 0), lane(y, 0));
    if (x.type === 'float' && y.type === 'float') return first;
    return b.and(first, b.and(b.eq(lane(x, 1), lane(y, 1)), b.eq(lane(x, 2), lane(y, 2))));
  }

  private choice(condition: Expression, yes: Expression, no: Expression, at: number): Typed {
    const truth = this.condition(condition);
    const [x, y] = [this.lower(yes), this.lower(no)];
    if (x.type === 'bool' && y.type === 'bool')
      return { type: 'bool', truth: this.b.select(truth, x.truth, y.truth) };
    if (x.type === 'bool' || y.type === 'bool')
      throw new FormulaError(at, 'one side of “?” is a condition and the other a number.');
    return this.eachLane([x, y], ([p, q]) => this.b.select(truth, p as F32, q as F32));
  }

  private call(name: string, given: readonly Expression[], at: number): Typed {
    if (name === 'vec3') return this.makeVector(given, at);
    if (name === 'float') {
      const [only, ...rest] = given.map((each) => this.lower(each));
      if (!only || rest.length > 0) throw new FormulaError(at, 'float takes one value.');
      return only.type === 'bool'
        ? { type: 'float', lanes: [this.b.select(only.truth, this.b.f(1), this.b.f(0))] }
        : { type: 'float', lanes: [only.lanes[0]] };
    }
    const entry = Object.hasOwn(this.functions, name) ? this.functions[name] : undefined;
    if (!entry)
      throw new FormulaError(
        at,
        `there is no function ${name}. Known: ${Object.keys(FUNCTIONS).join(', ')}, vec3, float.`,
      );
    const most = name === 'atan' ? 2 : entry.takes;
    if (given.length < entry.takes || given.length > most) {
      const single = entry.takes === 1 ? 'one value' : `${String(entry.takes)} values`;
      throw new FormulaError(
        at,
        `${name} takes ${most > entry.takes ? 'one or two values' : single}; ` +
          `${String(given.length)} ${given.length === 1 ? 'stands' : 'stand'} here.`,
      );
    }
    const values = given.map((each) => this.numeric(each));
    if ('lane' in entry) return this.eachLane(values, (lanes) => entry.lane(this.b, ...lanes));
    values.forEach((value, k) => {
      if (value.type !== 'vec3')
        throw new FormulaError(given[k]?.at ?? at, `${name} takes a vec3, and this is a float.`);
    });
    return numeric(entry.vector(this.b, ...values.map((value) => value.lanes as Lanes3)));
  }

  private makeVector(given: readonly Expression[], at: number): Numeric {
    const lanes = given.flatMap((each) => this.numeric(each).lanes as readonly F32[]);
    if (lanes.length === 1) return numeric([lanes[0] as F32, lanes[0] as F32, lanes[0] as F32]);
    if (lanes.length !== 3)
      throw new FormulaError(
        at,
        `vec3 takes one or three numbers; these are ${String(lanes.length)}.`,
      );
    return numeric(lanes);
  }
}

function asNumber(value: Typed, at: number): Numeric {
  if (value.type === 'bool')
    throw new FormulaError(at, 'a number should stand here, not a condition.');
  return value;
}

function asCondition(value: Typed, at: number): Bool {
  if (value.type !== 'bool')
    throw new FormulaError(
      at,
      `a condition should stand here, not a ${value.type}. Compare it: … > 0.5`,
    );
  return value.truth;
}

function numeric(lanes: readonly F32[]): Numeric {
  return lanes.length === 3
    ? { type: 'vec3', lanes: lanes as unknown as Lanes3 }
    : { type: 'float', lanes: [lanes[0] as F32] };
}

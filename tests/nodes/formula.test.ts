import fc from 'fast-check';
import { checkDocument } from '@/core/compile/check/check';
import { CompileError, checkCompiled, compileNetwork } from '@/core/compile/compile';
import { structureKey } from '@/core/compile/structure';
import { parseFormula } from '@/core/nodes/formula/parse';
import { FORMULA_LIMIT, FormulaError } from '@/core/nodes/formula/tokens';
import type { InputValue } from '@/core/graph/document';
import { outputAt, valueAt } from '../support/evaluate';
import { documentOf, node } from '../support/networks';

const of = (formula: string, values: Record<string, InputValue> = {}): number[] =>
  valueAt('math.formula', 'value', { formula: { formula }, ...values });
const mistake = (formula: string): string => {
  try {
    parseFormula(formula);
  } catch (error) {
    if (error instanceof FormulaError) return error.message;
    throw error;
  }
  return '';
};
/** The first finding about types, which show only when it is compiled. */
const typeMistake = (formula: string): string =>
  checkCompiled(documentOf([node('n', 'math.formula', { formula: { formula } })]))[0]?.message ??
  '';
const close = (actual: readonly number[], expected: readonly number[]): void => {
  expect(actual).toHaveLength(expected.length);
  actual.forEach((value, k) => {
    expect(Math.abs(value - (expected[k] as number))).toBeLessThan(
      2e-5 * Math.max(1, Math.abs(expected[k] as number)),
    );
  });
};

describe('a formula', () => {
  it('keeps the precedence and the association of its operators', () => {
    close(of('1 + 2 * 3 - 4 / 2'), [5]);
    close(of('(1 + 2) * 3'), [9]);
    close(of('10 - 4 - 3'), [3]);
    close(of('-2 * -3 + +1'), [7]);
    close(of('16 / 4 / 2'), [2]);
    close(of('-7 % 3'), [2]);
    close(of('1 < 2 && 3 > 2 || false ? 1.0 : 0.0'), [1]);
    close(of('!(1 == 1) ? 5 : 1 != 2 ? 6 : 7'), [6]);
    close(of('2.5e1 + .5 + 1.f // a remark'), [26.5]);
  });
  it('agrees with ordinary arithmetic on random expressions', () => {
    type Case = readonly [string, number];
    const leaf = fc.oneof(
      fc.integer({ min: 1, max: 9 }).map((n): Case => [String(n), n]),
      fc.constantFrom<Case>(['a', 0.5], ['b', 2], ['c', -3]),
    );
    const { tree } = fc.letrec<{ tree: Case }>((tie) => ({
      tree: fc.oneof(
        { depthSize: 'medium', withCrossShrink: true },
        leaf,
        fc
          .tuple(fc.constantFrom('+', '-', '*'), tie('tree'), tie('tree'))
          .map(([sign, [lt, lv], [rt, rv]]): Case => [
            `(${lt} ${sign} ${rt})`,
            Math.fround(sign === '+' ? lv + rv : sign === '-' ? lv - rv : lv * rv),
          ]),
      ),
    }));
    fc.assert(
      fc.property(tree, ([text, expected]) => {
        fc.pre(Math.abs(expected) < 1e9);
        close(of(text, { a: 0.5, b: 2, c: -3 }), [expected]);
      }),
      { numRuns: 60, seed: 11 },
    );
  });
  it('knows its functions, with every undefined case defined', () => {
    close(of('vec3(sin(1), cos(1), tan(1))'), [Math.sin(1), Math.cos(1), Math.tan(1)]);
    close(of('vec3(asin(0.3), acos(0.3), atan(2))'), [
      Math.asin(0.3),
      Math.acos(0.3),
      Math.atan(2),
    ]);
    close(of('vec3(asin(2), acos(-2), atan(1, -1))'), [Math.PI / 2, Math.PI, Math.atan2(1, -1)]);
    close(of('vec3(pow(2, 3), exp(1), log(2))'), [8, Math.E, Math.log(2)]);
    close(of('vec3(exp2(3), log2(8), sqrt(-4))'), [8, 3, 0]);
    close(of('vec3(inversesqrt(4), inversesqrt(0), 1 / 0)'), [0.5, 0, 0]);
    close(of('vec3(sign(-2), fract(-0.25), mod(-1, 3))'), [-1, 0.75, 2]);
    close(of('vec3(floor(-0.5), ceil(0.2), trunc(-1.7))'), [-1, 1, -1]);
    close(of('vec3(clamp(5, 0, 1), mix(10, 20, 0.25), step(0.5, 0.5))'), [1, 12.5, 1]);
    close(
      of('vec3(smoothstep(0, 1, 0.25), smoothstep(1, 0, 0.25), smoothstep(0.5, 0.5, 0.5))'),
      [0.15625, 0.84375, 1],
    );
    close(of('vec3(radians(180), degrees(PI), round(2.5))'), [Math.PI, 180, 2]);
    close(
      of(
        'vec3(length(vec3(2, 3, 6)), distance(vec3(1), vec3(1, 1, 3)), dot(vec3(1, 2, 3), ' +
          'vec3(4, 5, 6)))',
      ),
      [7, 2, 32],
    );
    close(
      of(
        'cross(vec3(1, 0, 0), vec3(0, 1, 0)) + normalize(vec3(0)) + reflect(vec3(1, -1, ' +
          '0), vec3(0, 1, 0))',
      ),
      [1, 1, 1],
    );
    close(of('vec3(min(1, 2), max(1, 2), abs(-3))'), [1, 2, 3]);
  });
  it('works on vectors channel by channel, picks parts and names intermediate values', () => {
    close(
      of('vec3 p = a * vec3(1, 2, 3); float t = p.y; vec3 q = t; p.zyx + q + vec3(p.rgb).bgr', {
        a: 2,
      }),
      [16, 12, 8],
    );
    close(of('a.x + a.b', { a: [1, 2, 3] }), [4]);
    close(of('a == vec3(1, 2, 3) ? 1 : 0', { a: [1, 2, 3] }), [1]);
    close(of('float(a > 0.2) + float(b)', { a: 0.5, b: 7 }), [8]);
  });
  it('takes the type of what is wired in', () => {
    const wired = documentOf(
      [
        node('p', 'model.position'),
        node('n', 'math.formula', { formula: { formula: 'a.x * 2.0 + a.y' } }),
      ],
      ['p:position > n:a'],
    );
    expect(outputAt(wired, 'n:value', { 'position.x': [3], 'position.y': [1] }, 1)).toEqual([[7]]);
  });
});

describe('mistakes in a formula', () => {
  it.each([
    ['1 +', 'At character 4: the formula stops too early.'],
    ['a $ b', 'At character 3: “$” means nothing in a formula.'],
    ['(a', 'At character 3: “)” is missing to close a bracket.'],
    ['a b', 'At character 3: the formula should end here; “b” does not fit.'],
    ['a.xy', 'At character 3: after “.” stands one or three of x, y, z, or of r, g, b.'],
    ['', 'At character 1: there is no formula yet.'],
    ['float t a', 'At character 9: “=” is missing after the name t; here stands “a”.'],
    ['a ? 1', 'At character 6: “:” is missing between the two alternatives of “?”.'],
    ['*2', 'At character 1: a value should stand here, not “*”.'],
  ])('%s', (formula, message) => {
    expect(mistake(formula)).toBe(message);
  });
  it.each([
    ['g + 1', 'At character 1: there is no g here. Known: a, b, c, d, e, f.'],
    ['wobble(a)', 'At character 1: there is no function wobble.'],
    ['sin + 1', 'At character 1: sin is a function: write sin(…).'],
    ['a > 0.5', 'At character 3: the result is a condition.'],
    ['a ? 1 : 0', 'At character 1: a condition should stand here, not a float.'],
    ['1 + a.x', 'At character 7: a float has no parts'],
    ['dot(a, b)', 'At character 5: dot takes a vec3, and this is a float.'],
    ['mix(a, b)', 'At character 1: mix takes 3 values; 2 stand here.'],
    ['vec3(1, 2)', 'At character 1: vec3 takes one or three numbers; these are 2.'],
    ['float a = 1; a', 'At character 7: the name a is taken.'],
    ['float t = vec3(1); t', 'At character 7: t should be a float, and its value is a vec3.'],
    ['vec3(1) < vec3(2) ? 1 : 0', 'compares floats, not a vec3.'],
    ['constructor(1)', 'there is no function constructor'],
  ])('%s', (formula, message) => {
    const found = typeMistake(formula);
    expect(found).toContain('The formula of “Formula” cannot be used.');
    expect(found).toContain(message);
  });
  it(
    'never ends in anything but a finding: bottomless brackets, a hundred thousand ' +
      'characters, noise',
    () => {
      expect(mistake('('.repeat(FORMULA_LIMIT))).toContain('brackets nest deeper than 200 levels');
      expect(mistake('-'.repeat(FORMULA_LIMIT))).toContain('brackets nest deeper than 200 levels');
      expect(mistake('a?'.repeat(9000))).toContain('deeper than 200');
      expect(mistake(`1${'+1'.repeat(50000)}`)).toContain(
        'a formula may have 20,000 characters; this one has 100,001.',
      );
      expect(typeMistake(`1${'+a'.repeat(5000)}`)).toContain('may have 4000 operations');
      close(of(`0${'+a'.repeat(1900)}`, { a: 1 }), [1900]);
      fc.assert(
        fc.property(
          fc.array(
            fc.constantFrom(
              'a',
              '(',
              ')',
              '+',
              '.',
              'x',
              ',',
              '?',
              ':',
              ';',
              '1',
              'sin',
              'vec3',
              ' ',
              'float',
              '=',
              '%',
              '!',
              '\u{1F9F5}',
            ),
            { maxLength: 30 },
          ),
          (parts) => {
            const text = parts.join('');
            expect(mistake(text) || typeMistake(text)).toEqual(expect.any(String));
          },
        ),
        { numRuns: 300, seed: 5 },
      );
    },
  );
  it('are found by the check of a document, with pointer and node, and refuse to compile', () => {
    const document = documentOf([node('n', 'math.formula', { formula: { formula: 'a +' } })]);
    expect(checkDocument(document).diagnostics).toEqual([
      expect.objectContaining({
        code: 'formula.wrong',
        severity: 'error',
        pointer: '/network/nodes/0/values/formula',
        nodeId: 'n',
      }),
    ]);
    expect(() => compileNetwork(document, { surface: true, taps: 'all' })).toThrow(CompileError);
    const untyped = documentOf([node('n', 'math.formula', { formula: { formula: 'a.x' } })]);
    expect(() => compileNetwork(untyped, { surface: true, taps: 'all' })).toThrow('At character 3');
    expect(
      checkDocument(documentOf([node('n', 'math.formula', { formula: 3 })])).diagnostics[0]?.code,
    ).toBe('value.wrong-type');
  });
  it('are structure: another formula is another program, the same one is not', () => {
    const key = (formula: string, a: number): string =>
      structureKey(documentOf([node('n', 'math.formula', { formula: { formula }, a })]));
    expect(key('a', 1)).not.toBe(key('b', 1));
    expect(key('a', 1)).toBe(key('a', 2));
  });
});

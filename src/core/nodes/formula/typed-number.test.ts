import { describe, expect, it } from '@jest/globals';
import { readTypedNumber } from './typed-number';

const read = (text: string, present = 0.5): number | string => {
  const typed = readTypedNumber(text, present);
  return 'value' in typed ? typed.value : typed.reason;
};

describe('a typed number', () => {
  it.each([
    ['0.25', 0.25],
    ['-2', -2],
    ['+3', 3],
    ['0,5', 0.5],
    [' 1e-3 ', 0.001],
    ['3*0.2', 3 * 0.2],
    ['1/3', 1 / 3],
    ['(1 + 2) * 4 - 1', 11],
    ['-7 % 3', 2],
    ['max(1, 4) / min(2, 8)', 2],
    ['sqrt(2)', Math.SQRT2],
    ['degrees(PI)', 180],
    ['25%', 0.25],
    ['+10%', 0.55],
    ['-10%', 0.45],
    ['*2', 1],
    ['/ 4', 0.125],
  ])('%s is %d', (text, value) => {
    expect(read(text)).toBeCloseTo(value, 12);
  });

  it.each([
    ['', /there is no formula yet/],
    ['rough', /“rough” is not known here/],
    ['constructor(1)', /“constructor” is not known here/],
    ['1 +', /stops too early/],
    ['vec3(1)', /“vec3” is not known here/],
    ['1 < 2', /only numbers/],
    ['float a = 1; a', /only numbers/],
    ['1/0', /no value/],
    ['sqrt(-1)', /no value/],
    ['∞', /means nothing/],
    ['%', /no formula yet/],
  ])('%s is none, with the reason', (text, reason) => {
    expect(read(text)).toMatch(reason);
  });

  it('is none where brackets nest too deep', () => {
    expect(read('('.repeat(5000))).toMatch(/deeper than/);
  });
});

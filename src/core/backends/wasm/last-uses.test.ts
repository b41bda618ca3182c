import { expect, test } from '@jest/globals';
import { Builder } from '../../ir/builder';
import { WasmRunner } from './runner';

test('a program of more values than a function may have locals compiles and is right', () => {
  const b = new Builder();
  let value = b.input('x');
  let reference = Float32Array.of(0.3, -0.7, 0.11, 0.9);
  const x = reference.slice();
  // Each value is used twice, so none is written in place.
  for (let k = 0; k < 30_000; k++) {
    const squared = b.mul(value, value);
    value = b.sub(squared, b.add(squared, b.f(0.5 + (k % 7) / 100)));
    value = b.add(b.mul(value, b.f(0.5)), b.input('x'));
    reference = reference.map((each, lane) => {
      const square = Math.fround(each * each);
      const sum = Math.fround(square + Math.fround(0.5 + (k % 7) / 100));
      return Math.fround(Math.fround(Math.fround(square - sum) * 0.5) + (x[lane] ?? 0));
    });
  }
  const program = b.finish([{ name: 'value', value }]);
  const output = new Float32Array(4);
  new WasmRunner(program).run(() => x, 4, [output]);
  expect([...output]).toEqual([...reference]);
});

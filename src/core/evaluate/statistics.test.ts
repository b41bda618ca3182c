import { describeValues, histogram } from './statistics';

describe('statistics', () => {
  it('tell least, most, shares outside 0–1, and values that are none', () => {
    const found = describeValues([Float32Array.of(-1, 0.5, 2, NaN)]);
    expect(found).toMatchObject({
      minimum: -1,
      maximum: 2,
      below: 0.25,
      above: 0.25,
      notANumber: 0.25,
      constant: false,
    });
    expect(found.mean).toBeCloseTo(0.5);
    expect(describeValues([Float32Array.of(0.3, 0.3), Float32Array.of(0.7, 0.7)]).constant).toBe(
      true,
    );
    expect(describeValues([Float32Array.of(0, 1.000001)]).above).toBe(0);
    expect(describeValues([Float32Array.of(NaN)]).minimum).toBeNaN();
  });
  it('count values into bins, those outside into the end bins', () => {
    expect([...histogram(Float32Array.of(-5, 0.1, 0.6, 0.9, 7, NaN), 2, 0, 1)]).toEqual([2, 3]);
    expect([...histogram(Float32Array.of(1), 2, 0, 0)]).toEqual([1, 0]);
  });
});

import { describe, expect, it } from '@jest/globals';
import { COLOUR_MODELS, colourText, readColourText } from './colour-models';
import { fromHex, toHex } from './colour-science';

const modelOf = (id: string) => {
  const model = COLOUR_MODELS.find((each) => each.id === id);
  if (!model) throw new Error(`no ${id}`);
  return model;
};
const colourOf = (hex: string) => {
  const colour = fromHex(hex);
  if (!colour) throw new Error(hex);
  return colour;
};

describe('the numbers of a colour', () => {
  // Values of CSS Color 4, section 15 (sample code), and of A. R. Smith's hexcone.
  it.each([
    ['hsv', '#ff0000', [0, 100, 100]],
    ['hsv', '#80c040', [90, 66.667, 75.294]],
    ['hsv', '#4000ff', [255.059, 100, 100]],
    ['hsv', '#777777', [0, 0, 46.667]],
    ['bytes', '#80c040', [128, 192, 64]],
    ['oklch', '#ff0000', [62.796, 0.25768, 29.234]],
    ['oklch', '#0000ff', [45.201, 0.31321, 264.052]],
    ['oklch', '#ffffff', [100, 0, 0]],
  ])('%s of %s', (id, hex, numbers) => {
    modelOf(id)
      .read(colourOf(hex))
      .forEach((value, k) => {
        expect(Math.abs(value - (numbers[k] ?? NaN))).toBeLessThan(0.01);
      });
  });

  it('give the same colour back', () => {
    for (const model of COLOUR_MODELS)
      for (const hex of ['#000000', '#123456', '#fedcba', '#00ff7f', '#ffffff', '#808080'])
        expect([model.id, toHex(model.write(model.read(colourOf(hex))))]).toEqual([model.id, hex]);
  });

  it('turn hues round', () => {
    const { write } = modelOf('hsv');
    expect(toHex(write([-120, 100, 100]))).toBe(toHex(write([240, 100, 100])));
    expect(toHex(write([480, 100, 100]))).toBe('#00ff00');
  });
});

describe('a colour as text', () => {
  it('keeps what is brighter than white', () => {
    const colour = [1.5, 0.25, 0.003921569] as const;
    expect(readColourText(colourText(colour))).toEqual(colour);
  });
  it.each([
    ['#80c040', '#80c040'],
    ['80C040', '#80c040'],
    ['#8c4', '#88cc44'],
    ['rgb(128, 192, 64)', '#80c040'],
    ['rgb(300 0 0)', '#ff0000'],
  ])('reads %s', (text, hex) => {
    expect(toHex(readColourText(text) ?? [])).toBe(hex);
  });
  it.each(['', 'red-ish', '#12345', 'rgb(1, 2)', 'color(1 2 3)', 'rgb(-1 0 0)', '{"nodes":[]}'])(
    'does not take “%s” for a colour',
    (text) => {
      expect(readColourText(text)).toBeNull();
    },
  );
});

import type { F32, Lanes3 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { luminance, map3 } from '../lanes';

export const hueSaturationValue = defineNode({
  id: 'colour.hue-saturation-value', version: 1, title: 'Hue, saturation, value', family: 'colour',
  synonyms: ['hsv', 'colour shift', 'desaturate', 'vivid', 'darken', 'brighten', 'hue'],
  help: 'Turns the hue, strengthens or greys the colour, and brightens or darkens it.',
  formula: 'hue turned on the hexagonal colour wheel; s: grey + (c − grey)·s, grey the largest channel or the luminance; then c·v',
  inputs: {
    colour: input.colour({ title: 'Colour', help: 'What is adjusted.', default: [0.5, 0.2, 0.1] }),
    hue: input.scalar({ title: 'Hue', help: 'Turn of the colour wheel.', default: 0, soft: [-180, 180], step: 1, unit: '°', low: 'towards red', high: 'towards blue' }),
    saturation: input.scalar({ title: 'Saturation', help: '1 leaves it as it is.', default: 1, soft: [0, 2], hard: [0, 100], low: 'grey', high: 'vivid' }),
    value: input.scalar({ title: 'Value', help: '1 leaves it as it is.', default: 1, soft: [0, 2], hard: [0, 100], low: 'black', high: 'bright' }),
  },
  options: {
    hold: option('Saturation holds', 'What greying keeps.', { value: ['Value', 'The largest channel stays.'], luminance: ['Luminance', 'The perceived brightness stays.'] }),
  },
  outputs: { colour: output.colour('Colour', 'The adjusted colour.') },
  lower: (b, { colour, hue, saturation, value }, { hold }) => {
    const [r, g, bl] = colour;
    const largest = b.max(b.max(r, g), bl);
    const smallest = b.min(b.min(r, g), bl);
    const chroma = b.sub(largest, smallest);
    const grey = b.le(chroma, b.f(0));
    const divisor = b.select(grey, b.f(1), chroma);
    const sector = (x: F32, y: F32, base: number): F32 => b.add(b.div(b.sub(x, y), divisor), b.f(base));
    const angle = b.select(b.eq(largest, r), sector(g, bl, 6), b.select(b.eq(largest, g), sector(bl, r, 2), sector(r, g, 4)));
    const turned = b.add(angle, b.div(hue, b.f(60)));
    // Each channel is a trapezoid of the angle around the wheel of six sectors.
    const channel = (shift: number): F32 => {
      const at = b.add(turned, b.f(shift));
      const wrapped = b.sub(at, b.mul(b.f(6), b.floor(b.div(at, b.f(6)))));
      const weight = b.saturate(b.min(wrapped, b.sub(b.f(4), wrapped)));
      return b.sub(largest, b.mul(chroma, weight));
    };
    const still = b.eq(hue, b.f(0));
    const rotated: Lanes3 = [b.select(still, r, channel(5)), b.select(still, g, channel(3)), b.select(still, bl, channel(1))];
    const pivot = hold === 'value' ? largest : luminance(b, rotated);
    return {
      colour: map3(rotated, (lane) => b.mul(b.select(b.eq(saturation, b.f(1)), lane, b.add(pivot, b.mul(b.sub(lane, pivot), saturation))), value)),
    };
  },
});

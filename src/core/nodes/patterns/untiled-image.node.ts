import { latticeWord, seedWord } from '../../ir/library/hash';
import { pow } from '../../ir/library/transcendental';
import type { F32 } from '../../ir/types';
import { defineNode, input, output } from '../define';
import { imageLevel, placedAt, readingOption, sampleImage } from '../image-lanes';
import type { Texel } from '../image-lanes';
import { chance, reseed } from '../lanes';

const ROOT3 = Math.sqrt(3);
export const untiledImage = defineNode({
  id: 'patterns.untiled-image',
  version: 1,
  title: 'Untiled image',
  family: 'patterns',
  synonyms: ['stochastic', 'hide repetition', 'no tiling', 'random patches', 'texture bombing'],
  help:
    'Repeats an image without showing that it repeats: the plane is cut into triangles, ' +
    'every corner reads the image at a random offset, ' +
    'and the three are blended so that contrast stays. Best for images without large figures.',
  formula:
    'c = m + Σ wᵢ(cᵢ − m)/√Σ wᵢ²; wᵢ barycentric weights to the power of ' +
    'sharpness; m the ' +
    'image’s mean',
  inputs: {
    image: input.image({ title: 'Image', help: 'The file; its edges should meet.' }),
    at: input.vector({
      title: 'Coordinates',
      help: 'Where the image is read; unwired, the texture coordinates.',
      default: 'texture coordinates',
      soft: [0, 1],
    }),
    repeat: input.scalar({
      title: 'Repeat',
      help: 'How often it stands side by side over coordinates 0–1.',
      default: 4,
      soft: [1, 32],
      hard: [-10000, 10000],
      low: 'enlarged',
      high: 'many',
    }),
    patches: input.scalar({
      title: 'Patches',
      help: 'Patches across one image.',
      default: 2,
      soft: [0.5, 8],
      hard: [0.01, 1000],
      low: 'large',
      high: 'small',
    }),
    sharpness: input.scalar({
      title: 'Sharpness',
      help: 'How soon one patch takes over from the next.',
      default: 3,
      soft: [1, 12],
      hard: [1, 100],
      step: 0.1,
      low: 'soft',
      high: 'hard borders',
    }),
    seed: input.seed('Other offsets; whole numbers.'),
  },
  outputs: {
    colour: output.colour('Colour', 'Red, green and blue.'),
    alpha: output.scalar('Alpha', 'Blended alike.'),
  },
  options: { reading: readingOption },
  tolerance: {
    value: 5e-2,
    reason: 'As for Image, at three places; the offsets are large multiples of a texel.',
  },
  lower: (b, { image, at, repeat, patches, sharpness, seed }, _options, model) => {
    const [u, v] = placedAt(b, at, repeat, [b.f(0), b.f(0), b.f(0)]);
    const level = imageLevel(b, image, u, v, model);
    // A lattice of equilateral triangles, skewed onto a square one.
    const [x, y] = [b.mul(u, patches), b.mul(v, patches)];
    const [p, q] = [b.sub(x, b.mul(y, b.f(1 / ROOT3))), b.mul(y, b.f(2 / ROOT3))];
    const [column, row] = [b.floor(p), b.floor(q)];
    const [s, t] = [b.sub(p, column), b.sub(q, row)];
    const upper = b.sub(b.f(1), b.add(s, t));
    const isUpper = b.le(b.f(0), upper);
    const one = b.f(1),
      none = b.f(0);
    const corners = [
      { dx: b.select(isUpper, none, one), dy: b.select(isUpper, none, one), weight: b.abs(upper) },
      {
        dx: b.select(isUpper, none, one),
        dy: b.select(isUpper, one, none),
        weight: b.select(isUpper, t, b.sub(one, t)),
      },
      {
        dx: b.select(isUpper, one, none),
        dy: b.select(isUpper, none, one),
        weight: b.select(isUpper, s, b.sub(one, s)),
      },
    ];
    const read = corners.map(({ dx, dy, weight }): { texel: Texel; weight: F32 } => {
      const word = latticeWord(
        b,
        [b.toInt(b.add(column, dx)), b.toInt(b.add(row, dy)), b.i(0)],
        seedWord(b, b.toInt(seed)),
      );
      const offset = [chance(b, word), chance(b, reseed(b, word, 0x5bd1e995 | 0))] as const;
      return {
        texel: sampleImage(b, image, b.add(u, offset[0]), b.add(v, offset[1]), level, {
          wrap: 'repeat',
          filter: 'smooth',
        }),
        weight: pow(b, b.max(weight, b.f(1e-6)), sharpness),
      };
    });
    const total = read.reduce<F32>((sum, { weight }) => b.add(sum, weight), b.f(0));
    const squares = read.reduce<F32>(
      (sum, { weight }) => b.add(sum, b.mul(weight, weight)),
      b.f(0),
    );
    const scale = b.div(b.f(1), b.sqrt(squares));
    const channel = (k: 0 | 1 | 2 | 3, keepsContrast: boolean): F32 => {
      const mean = image.mean[k];
      const sum = read.reduce<F32>(
        (running, { texel, weight }) => b.add(running, b.mul(weight, b.sub(texel[k], mean))),
        b.f(0),
      );
      return b.add(mean, keepsContrast ? b.mul(sum, scale) : b.div(sum, total));
    };
    return {
      colour: [channel(0, true), channel(1, true), channel(2, true)],
      alpha: b.saturate(channel(3, false)),
    };
  },
});

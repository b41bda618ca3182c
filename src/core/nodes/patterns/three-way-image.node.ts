import type { F32, Lanes3 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import { imageLevel, readingOption, sampleImage } from '../image-lanes';
import { map3, normalise, patternCoordinates, perOption } from '../lanes';
import { outOfPlane, threeWayPlanes, threeWayWeights } from '../three-way';

export const threeWayImage = defineNode({
  id: 'patterns.three-way-image',
  version: 1,
  title: 'Three-way image',
  family: 'patterns',
  synonyms: ['box projection', 'no uv', 'project', 'cube projection', 'three-way projection'],
  help:
    'Projects an image along X, Y and Z and blends the three by the normal: no texture ' +
    'coordinates are needed. Seen from either side ' +
    'the image is never mirrored. As a normal map the reliefs of the three are added to ' +
    'the surface’s own normal.',
  formula: 'c = Σ wₖ·image(planeₖ(at)·scale/size); wₖ ∝ max(|nₖ| − (1 − blend)·max|n|, 0)²',
  inputs: {
    image: input.image({ title: 'Image', help: 'The file; its edges should meet.' }),
    at: input.vector({
      title: 'Coordinates',
      help: 'Where it is projected; unwired, the position on the object.',
      default: 'position',
      soft: [-1, 1],
    }),
    scale: input.scalar({
      title: 'Scale',
      help: 'How many images fit across the object.',
      default: 3,
      soft: [0.5, 16],
      hard: [0, 100000],
      step: 0.1,
      low: 'enlarged',
      high: 'many',
      unit: 'images across the object',
    }),
    blend: input.scalar({
      title: 'Blend width',
      help: 'How far the projections run into each other.',
      default: 0.3,
      low: 'hard borders',
      high: 'wide',
    }),
    turn: input.vector({
      title: 'Turn',
      help: 'Degrees by which the image is turned along X, Y and Z.',
      default: [0, 0, 0],
      soft: [-180, 180],
      step: 1,
      unit: '°',
    }),
    normal: input.vector({
      title: 'Normal',
      help: 'What the projections are chosen by, and where relief starts.',
      default: 'normal',
      soft: [-1, 1],
    }),
  },
  outputs: {
    colour: output.colour('Colour', 'The blended image; the map itself where it is a normal map.'),
    alpha: output.scalar('Alpha', 'Blended alike.'),
    normal: output.vector(
      'Normal',
      'The surface’s normal with the map’s relief; the plain normal unless it is read as one.',
    ),
  },
  options: {
    as: option('What it holds', 'How the three are put together.', {
      colour: ['Colours or data', 'Values are mixed.'],
      normal: ['A normal map', 'Slopes are turned into space and added.'],
    }),
    per: perOption,
    reading: readingOption,
  },
  tolerance: { value: 5e-2, reason: 'As for Image, at three places.' },
  lower: (b, { image, at, scale, blend, turn, normal }, { as, per }, model) => {
    const outward = normalise(b, normal, model.normal);
    const weights = threeWayWeights(b, outward, blend);
    const planes = threeWayPlanes(b, patternCoordinates(b, at, scale, per, model), outward, turn);
    const read = planes.map(({ u, v }) =>
      sampleImage(b, image, u, v, imageLevel(b, image, u, v, model), {
        wrap: 'repeat',
        filter: 'smooth',
      }),
    );
    const blended = [0, 1, 2, 3].map((channel) =>
      read.reduce<F32>(
        (sum, texel, k) => b.add(sum, b.mul(texel[channel as 0], weights[k as 0])),
        b.f(0),
      ),
    ) as [F32, F32, F32, F32];
    if (as === 'colour')
      return { colour: [blended[0], blended[1], blended[2]], alpha: blended[3], normal: outward };
    let leaned: Lanes3 = outward;
    read.forEach((texel, k) => {
      const [x, y, z] = [0, 1, 2].map((channel) =>
        b.sub(b.mul(texel[channel as 0], b.f(2)), b.f(1)),
      ) as [F32, F32, F32];
      const steep = b.div(weights[k as 0], b.max(z, b.f(0.05)));
      const slope = outOfPlane(
        b,
        k as 0,
        planes[k as 0],
        b.mul(x, steep),
        b.neg(b.mul(y, steep)),
        outward,
      );
      leaned = map3(leaned, (lane, axis) => b.add(lane, slope[axis as 0]));
    });
    return {
      colour: [blended[0], blended[1], blended[2]],
      alpha: blended[3],
      normal: normalise(b, leaned, outward),
    };
  },
});

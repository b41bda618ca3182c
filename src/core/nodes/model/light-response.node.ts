import type { Builder } from '../../ir/builder';
import type { F32, Lanes3 } from '../../ir/types';
import { defineNode, input, option, output } from '../define';
import type { Advice } from '../advice';
import type { LightLanes, ModelReads } from '../define';
import { constant3, luminance, map3, normalise } from '../lanes';

interface Shine {
  readonly facing: F32;
  readonly colour: Lanes3;
}
/**
 * How squarely a light shines on the point, −1 to 1, and how strongly it does (near lights fall
 * with the square of the distance).
 */
function shineOn(
  b: Builder,
  { at, isNear, colour }: LightLanes,
  n: Lanes3,
  model: ModelReads,
): Shine {
  const near = b.lt(b.f(0.5), isNear);
  const way = map3(at, (lane, k) => b.select(near, b.sub(lane, model.position[k as 0]), lane));
  const apart = b.div(b.dot(way, way), b.max(b.mul(model.size, model.size), b.f(1e-12)));
  const strength = b.select(near, b.div(b.f(1), b.max(apart, b.f(1e-4))), b.f(1));
  return {
    facing: b.dot(n, normalise(b, way, n)),
    colour: map3(colour, (channel) => b.mul(channel, strength)),
  };
}

const NUMBERS = { all: 0, first: 1, second: 2, third: 3, fourth: 4 } as const;
const shadowOf = ({ at: [x, y, z], isNear }: LightLanes, number: number, model: ModelReads): F32 =>
  model.meshMap(
    'shadow',
    {
      x: { everywhere: x },
      y: { everywhere: y },
      z: { everywhere: z },
      near: { everywhere: isNear },
    },
    { which: String(number) },
  );

/** In full shadow a point that faces the light counts as one on the border of light. */
function shadowed(b: Builder, { facing, colour }: Shine, shadow: F32 | null): Shine {
  if (!shadow) return { facing, colour };
  const lit = b.sub(b.f(1), b.saturate(shadow));
  return { facing: b.select(b.lt(b.f(0), facing), b.mul(facing, lit), facing), colour };
}

/** What there is to say where no lamp that it looks at gives light. */
function darkness(lamps: readonly boolean[], which: string): readonly Advice[] {
  const number = which in NUMBERS ? NUMBERS[which as keyof typeof NUMBERS] : 0;
  if (number === 0 ? lamps.some(Boolean) : lamps[number - 1]) return [];
  const fault = number > lamps.length ? 'does not exist' : 'gives no light';
  const isElsewhere = number > 0 && lamps.some(Boolean);
  return [
    {
      code: 'light.none',
      mark: 'dark',
      message:
        number === 0
          ? 'No lamp of the stage gives light: it answers to nothing.'
          : `Lamp ${String(number)} of the stage ${fault}: it answers to nothing.`,
      cure: isElsewhere
        ? { title: 'Answer to all lamps', option: 'light', choice: 'all' }
        : { title: 'Light a lamp', lamp: true },
    },
  ];
}

export const lightResponse = defineNode({
  id: 'model.light-response',
  version: 1,
  title: 'Light response',
  family: 'model',
  follows: 'lights',
  synonyms: [
    'lambert',
    'diffuse',
    'n dot l',
    'two tone',
    'cel',
    'toon',
    'shading',
    'lit',
    'light direction',
    'storybook',
  ],
  help:
    'How the lights of the stage fall on the surface: how squarely, and the light itself ' +
    'as a colour. Live while a light is moved; a bake freezes it. With shadows, the model ' +
    'keeps light from itself.',
  formula:
    'facing n·l; wrapped facing/2 + ½; light Σ max(n·l, 0)·colour·(1 − shadow); facing ' +
    'n·l·(1 − shadow) where n·l is above 0; for all lights facing is their mean, weighted ' +
    'by luminance',
  inputs: {
    normal: input.vector({
      title: 'Normal',
      help: 'The normal the light sees; wire a bump here.',
      default: 'normal',
      soft: [-1, 1],
    }),
  },
  options: {
    shadows: option('Shadows', 'Whether the model itself stands in the light’s way.', {
      none: ['None', 'Only the direction counts.'],
      thrown: [
        'Thrown',
        'Measured by rays from the surface to each light, again whenever a light moves.',
      ],
    }),
    light: option('Light', 'Which of the stage’s lights.', {
      all: ['All', 'Every light.'],
      first: ['First', 'The first light alone.'],
      second: ['Second', 'The second light alone.'],
      third: ['Third', 'The third light alone.'],
      fourth: ['Fourth', 'The fourth light alone.'],
    }),
  },
  outputs: {
    facing: output.scalar('Facing', '−1 to 1.', { low: 'turned away', high: 'straight at it' }),
    wrapped: output.scalar('Wrapped', '0 to 1, a half at the border of light.', {
      low: 'turned away',
      high: 'straight at it',
    }),
    light: output.colour('Light', 'What arrives, as a colour.'),
    brightness: output.scalar('Brightness', 'Its luminance.', { low: 'dark', high: 'bright' }),
  },
  advise: (reads) => darkness(reads.lamps, reads.choice('light')),
  lower: (b, { normal }, { light, shadows }, model) => {
    const n = normalise(b, normal, model.normal);
    const chosen = model
      .lights()
      .map((each, k) => ({ each, number: k + 1 }))
      .filter(({ number }) => light === 'all' || number === NUMBERS[light])
      .map(({ each, number }) =>
        shadowed(
          b,
          shineOn(b, each, n, model),
          shadows === 'thrown' ? shadowOf(each, number, model) : null,
        ),
      );
    const zero = b.f(0);
    let facing = zero,
      weight = zero,
      sum: Lanes3 = constant3(b, 0);
    for (const { facing: own, colour } of chosen) {
      const strength = luminance(b, colour);
      facing = b.add(facing, b.mul(own, strength));
      weight = b.add(weight, strength);
      const lit = b.max(own, zero);
      sum = map3(sum, (lane, k) => b.add(lane, b.mul(colour[k as 0], lit)));
    }
    const isDark = b.le(weight, zero);
    const mean = b.select(isDark, zero, b.div(facing, b.select(isDark, b.f(1), weight)));
    return {
      facing: mean,
      wrapped: b.add(b.mul(mean, b.f(0.5)), b.f(0.5)),
      light: sum,
      brightness: luminance(b, sum),
    };
  },
});

import { percent } from '../advice';
import type { Advice, AdviceReads } from '../advice';
import { defineNode, input, option, output } from '../define';
import type { SurfaceParameter } from '../parameters/lanes';
import { addRelief, mixSurfaces } from '../surface-lanes';
import { SURFACE_ENTRIES } from '../surface-parameters';
import { SURFACE_PARAMETERS } from '../parameters/registry.generated';

const part = (title: string, what: string) =>
  input.scalar({
    title,
    help: `How much of the upper surface’s ${what} is taken, where it lies.`,
    default: 1,
    hard: [0, 1],
    low: 'the lower one’s',
    high: 'the upper one’s',
    section: 'Takes',
  });

const titleOf = (parameter: SurfaceParameter): string => {
  const inputs = Object.values(SURFACE_PARAMETERS[parameter].inputs);
  return (inputs[0]?.title ?? parameter).toLowerCase();
};

/** Which parameters count by how much of another there is, and that no others do. */
function weighing(): string {
  const found = SURFACE_ENTRIES.flatMap(([name, { shareOf }]) =>
    shareOf ? [`${titleOf(name)} by ${titleOf(shareOf)}`] : [],
  );
  return (
    'What shapes another parameter counts by how much of that there is on either side: ' +
    `${found.join(', ')}. All others are mixed as they are, sheen roughness among them: ` +
    'set it on both surfaces where one of them has a sheen.'
  );
}

export const layer = defineNode({
  id: 'surface.layer',
  version: 1,
  title: 'Layer',
  family: 'surface',
  synonyms: ['stack', 'over', 'mix materials', 'cover', 'paint over', 'dirt layer'],
  help:
    'Lays one surface over another where a mask says so. Lay as many as wanted, one after ' +
    'the other: each shows what it covers ' +
    'and what remains visible under it. What is taken of the upper surface can be set part ' +
    'by part: grime that only changes the finish, or dust ' +
    `that leaves the relief alone. ${weighing()}`,
  formula:
    'each parameter: under + (over − under)·t, t = limit(where·amount)·taken; what counts by ' +
    'an amount a: a_over·t/(a_under·(1 − t) + a_over·t) in place of t, and t where that is ' +
    '0/0; normals blended or their slopes added, then made unit',
  inputs: {
    under: input.surface({ title: 'Under', help: 'The surface below.' }),
    over: input.surface({ title: 'Over', help: 'The surface above.' }),
    where: input.scalar({
      title: 'Where',
      help: 'Mask of the upper surface.',
      quantity: 'mask',
      default: 0.5,
      low: 'only under',
      high: 'fully over',
    }),
    amount: input.scalar({
      title: 'Amount',
      help: 'Overall strength.',
      default: 1,
      low: 'nothing',
      high: 'full',
    }),
    colour: part('Colour', 'base colour'),
    finish: part('Finish', 'metalness, roughness and reflection'),
    relief: part('Relief', 'normal and height'),
    glow: part('Glow', 'emission'),
    clarity: part('Clarity', 'transmission'),
    coat: part('Coat', 'coat'),
    sheen: part('Sheen', 'sheen'),
    opacity: part('Opacity', 'opacity'),
  },
  sides: () => ['under', 'over'],
  outputs: {
    surface: output.surface('Surface', 'The two together.'),
    coverage: output.scalar('Coverage', 'Where the upper surface lies.', {
      low: 'under remains',
      high: 'covered',
    }),
    remains: output.scalar('Remains', 'Where the lower surface stays visible.', {
      low: 'covered',
      high: 'visible',
    }),
  },
  options: {
    relief: option('Relief of the upper', 'What becomes of the relief below.', {
      own: [
        'Has its own',
        'The upper surface’s normal takes the place of the lower one’s: a thick layer.',
      ],
      follows: [
        'Follows',
        'The upper surface’s relief is added to the lower one’s: thin paint over dents.',
      ],
    }),
  },
  watches: [':coverage'],
  advise: (reads) => coverageAdvice(reads),
  lower: (b, { under, over, where, amount, ...taken }, { relief }, model) => {
    const coverage = b.saturate(b.mul(where, amount));
    const lies =
      relief === 'follows'
        ? { ...over, normal: addRelief(b, under.normal, over.normal, model.normal) }
        : over;
    return {
      surface: mixSurfaces(b, under, lies, (parameter) =>
        b.mul(coverage, b.saturate(taken[SURFACE_PARAMETERS[parameter].layer])),
      ),
      coverage,
      remains: b.sub(b.f(1), coverage),
    };
  },
});

function coverageAdvice(reads: AdviceReads): readonly Advice[] {
  return [...missingSurfaces(reads), ...coverageOf(reads)];
}

function missingSurfaces(reads: AdviceReads): readonly Advice[] {
  const missing = (['under', 'over'] as const).filter((input) => !reads.isWired(input));
  if (missing.length === 0) return [];
  return [
    {
      code: 'layer.no-surface',
      mark: 'clay',
      message: `No surface is wired into ${missing.join(' and ')}: plain clay stands in for it.`,
    },
  ];
}

function coverageOf(reads: AdviceReads): readonly Advice[] {
  const coverage = reads.result('coverage');
  if (!coverage) return [];
  if (coverage.minimum >= 1)
    return [
      {
        code: 'layer.covered',
        mark: 'covers',
        message:
          'Under this layer 0 % of the lower surface remains visible. Wire a mask into ' +
          'Where, or lower the amount.',
      },
    ];
  if (coverage.maximum <= 0)
    return [
      {
        code: 'layer.unseen',
        mark: 'unseen',
        message: 'The upper surface is nowhere to be seen: its mask and amount are 0 everywhere.',
        ...(reads.number('amount') === 0
          ? { cure: { title: 'Set the amount to 1', input: 'amount', value: 1 } }
          : {}),
      },
    ];
  return [
    {
      code: 'layer.coverage',
      tone: 'fact',
      mark: percent(coverage.mean),
      message:
        `Covers ${percent(coverage.mean)} of the model; ${percent(1 - coverage.mean)} of ` +
        'the lower surface remains visible.',
    },
  ];
}

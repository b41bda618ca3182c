import type { CurveValue, RampStop, Triple } from '@/core/graph/document';
import { rampOfPalette } from '@/core/presets/palettes';
import type { PresetGiven } from '@/contract/presets';
import { findEntryByName } from '@/db/queries/library';
import { keepPreset } from '../presets';
import { keepStarter } from '../starters';
import { findRelease } from '../stored';
import { demoPerson } from './people';

const stop = (k: number, position: number, colour: Triple): RampStop => ({
  ...{ id: `s${String(k + 1)}`, position, colour, alpha: 1, segment: 'smooth' },
});
const ramp = (...stops: readonly (readonly [number, Triple])[]) => ({
  stops: stops.map(([position, colour], k) => stop(k, position, colour)),
});
const LIGHTS: readonly Triple[] = [
  [0.9, 0.62, 0.16],
  [0.62, 0.09, 0.05],
  [0.06, 0.34, 0.21],
  [0.82, 0.86, 0.84],
  [0.03, 0.06, 0.12],
];
const TIN: readonly Triple[] = [
  [0.56, 0.09, 0.06],
  [0.78, 0.66, 0.44],
  [0.09, 0.2, 0.28],
  [0.31, 0.4, 0.34],
];
const curve = (...points: CurveValue['points']): CurveValue => ({ points });

type Told = Omit<PresetGiven, 'rack'>;
/** What the author keeps on the studio rack. */
const KEPT: readonly Told[] = [
  {
    kind: 'ramp',
    name: 'Hull below the waterline',
    description: 'Weed to bare iron, for heights near the tide line.',
    tags: ['tide', 'weed'],
    value: ramp(
      [0, [0.01, 0.025, 0.015]],
      [0.45, [0.05, 0.09, 0.03]],
      [0.6, [0.22, 0.16, 0.09]],
      [1, [0.12, 0.05, 0.03]],
    ),
  },
  {
    kind: 'ramp',
    name: 'Lamp soot',
    description: 'Clean brass to soot, by how near the flame is.',
    tags: ['lantern', 'soot'],
    value: ramp([0, [0.012, 0.01, 0.009]], [0.3, [0.06, 0.04, 0.025]], [1, [0.72, 0.5, 0.2]]),
  },
  {
    kind: 'palette',
    name: 'Harbour lights',
    description: 'Leading lights, lanterns and what lies between.',
    tags: ['lantern', 'night'],
    value: { colours: LIGHTS },
  },
  {
    kind: 'palette',
    name: 'Painted tin',
    description: 'The four enamels of the toy fleet.',
    tags: ['paint'],
    value: { colours: TIN },
  },
  {
    kind: 'ramp',
    name: 'Enamel bands',
    description: 'The enamels of painted tin as equal bands.',
    tags: ['paint', 'bands'],
    value: rampOfPalette({ colours: TIN }),
  },
  {
    kind: 'curve',
    name: 'Salt bloom',
    description: 'Nothing for long, then all at once.',
    tags: ['salt'],
    value: curve([0, 0], [0.55, 0.06], [0.72, 0.8], [1, 1]),
  },
  {
    kind: 'curve',
    name: 'Two coats',
    description: 'A step for the first coat and one for the second.',
    tags: ['paint'],
    value: curve([0, 0], [0.3, 0.02], [0.36, 0.5], [0.66, 0.52], [0.72, 1], [1, 1]),
  },
];

/** A variant of a group of the studio rack: its first dials set to these numbers. */
async function keepVariant(group: string, name: string, numbers: readonly number[]): Promise<void> {
  const entryId = (await findEntryByName('studio', group))?.id ?? '';
  const release = await findRelease(entryId, '1.0.0');
  const dials = release?.groups.definitions[release.groups.root]?.dials ?? [];
  await keepPreset(demoPerson('maren'), {
    kind: 'variant',
    rack: 'studio',
    name,
    description: '',
    tags: [],
    value: {
      entryId,
      values: Object.fromEntries(
        dials.slice(0, numbers.length).map(({ id }, k) => [id, numbers[k] ?? 0]),
      ),
    },
  });
}

/** Fills the racks of the demo studio with what else than groups stands there. */
export async function keepDemoPresets(): Promise<void> {
  const maren = demoPerson('maren');
  for (const told of KEPT) await keepPreset(maren, { ...told, rack: 'studio' });
  await keepVariant('Crackle', 'Old dish', [0.45, 2.2]);
  await keepVariant('Crackle', 'Fine glaze', [2.4, 0.6]);
  await keepStarter(maren, {
    materialId: 'demo-set-painted-tin',
    rack: 'project:ferry',
    name: 'Harbour set, coated',
    description: 'Painted tin under the coats of the harbour set.',
    tags: ['paint', 'coats'],
  });
}

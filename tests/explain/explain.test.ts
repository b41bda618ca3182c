/** Explained values: those of the whole evaluation to the bit, all that counts and nothing else. */
import { compileNetwork } from '@/core/compile/compile';
import { explainRequest, explanationTable, readExplanation } from '@/core/explain/explain-points';
import type { Explanation } from '@/core/explain/explain-points';
import { EvaluationSession } from '@/core/evaluate/session';
import type { NetworkDocument } from '@/core/graph/document';
import { STARTERS } from '@/core/starters/starters';
import { uniformPoints } from '@/core/mesh/sample-points';
import { addDial } from '@/core/edit/dials';
import { groupSelection } from '@/core/edit/group';
import { documentOf, node } from '../support/networks';
import { demoModel } from '../support/ready-card';

const POINTS = 4;

async function evaluated(document: NetworkDocument, taps: 'all' | readonly string[]) {
  const { analysis, maps } = await demoModel('study');
  const session = new EvaluationSession({ surface: true, taps });
  const compiled = session.prepare(document);
  const points = uniformPoints(analysis.mesh, POINTS);
  return { compiled, outputs: session.evaluate(document, analysis.mesh, points, maps) };
}
async function explained(document: NetworkDocument): Promise<Explanation> {
  const { compiled, outputs } = await evaluated(document, explainRequest(document).taps);
  return readExplanation(document, compiled, outputs);
}
const bits = (value: number): number => new Uint32Array(Float32Array.of(value).buffer)[0] ?? 0;

it.each(STARTERS.map((starter) => [starter.id, starter] as const))(
  'of %s equal those of the whole evaluation, to the bit',
  async (_id, starter) => {
    const document = starter.document();
    const whole = await evaluated(document, 'all');
    const { outputs, surface } = await explained(document);
    expect(outputs.length).toBeGreaterThan(2);
    let compared = 0;
    for (const { key, values } of outputs) {
      const slot = whole.compiled.slots.find((each) => each.key === key);
      // All outputs at once leave surfaces out.
      if (!slot) continue;
      for (const [point, lanes] of values.entries())
        for (const [k, value] of lanes.entries())
          if (bits(value) !== bits(whole.outputs[slot.first + k]?.[point] ?? NaN))
            throw new Error(`${key}.${String(k)} at point ${String(point)}`);
          else compared++;
    }
    expect(compared).toBeGreaterThan(POINTS);
    const slot = whole.compiled.slots.find(({ key }) => key === 'surface');
    expect(surface.values[1]).toEqual(
      surface.channels.map((_name, k) => whole.outputs[(slot?.first ?? 0) + k]?.[1]),
    );
  },
  60_000,
);

const painted = documentOf(
  [
    node('noise', 'patterns.noise', { scale: 3 }),
    node('step', 'ranges.smoothstep'),
    node('flip', 'math.math', {}, { operation: 'invert' }),
    node('idle', 'patterns.noise', { scale: 9 }),
    node('paint', 'surface.surface'),
  ],
  [
    'noise:value > step:value',
    'step:mask > flip:a',
    'flip:value > paint:roughness',
    'noise:value > idle:scale',
    'paint:surface > @out:surface',
  ],
);

it('lists what the surface depends on, from the surface back to the sources', async () => {
  const { outputs } = await explained(painted);
  expect(outputs.map(({ key }) => key)).toEqual([
    'paint:surface',
    'flip:value',
    'step:mask',
    'noise:value',
  ]);
  const [, flip, step] = outputs;
  expect(flip?.names).toEqual(['Math']);
  const [before, after] = [step?.values[0]?.[0] ?? NaN, flip?.values[0]?.[0] ?? NaN];
  expect(after).toBe(Math.fround(1 - before));
});

it('goes into groups: the inside follows the group', async () => {
  const grouped = groupSelection(painted, {
    board: null,
    ids: ['noise', 'step'],
    name: 'Grain',
    path: [],
  });
  const document = addDial(grouped.document, grouped.groupId, 'noise', 'scale', 'times', 'Scale');
  const { outputs } = await explained(document?.document ?? painted);
  expect(outputs.map(({ names }) => names.join(' / '))).toEqual([
    'Surface',
    'Math',
    'Grain',
    'Grain / Smoothstep',
    'Grain / Noise',
  ]);
  const [, , group, inside] = outputs;
  expect(group?.values).toEqual(inside?.values);
});

it('is a table with a column for each point', async () => {
  const explanation = await explained(painted);
  const lines = explanationTable(explanation).split('\n');
  expect(lines[0]).toBe('place\toutput\tchannel\tpoint 1\tpoint 2\tpoint 3\tpoint 4');
  const flip = lines.find((line) => line.startsWith('Math\t'))?.split('\t') ?? [];
  expect(flip.slice(3).map(Number)).toEqual(explanation.outputs[1]?.values.map(([value]) => value));
  expect(lines.filter((line) => line.startsWith('finished surface\t'))).toHaveLength(
    explanation.surface.channels.length,
  );
});

it('costs a request that compiles what it names', () => {
  const request = explainRequest(painted);
  const { slots } = compileNetwork(painted, request);
  expect(slots.map(({ key }) => key)).toEqual(['surface', ...request.taps]);
});

describe('what somebody set', () => {
  const layered = documentOf(
    [
      node('noise', 'patterns.noise'),
      node('iron', 'surface.surface', { metalness: 1, coatRoughness: 0.1 }),
      node('paint', 'surface.surface'),
      node('flat', 'surface.flat', { colour: [0.1, 0.2, 0.3] }),
      node('over', 'surface.layer'),
      node('end', 'surface.layer'),
    ],
    [
      'noise:value > paint:sheen',
      'iron:surface > over:under',
      'paint:surface > over:over',
      'over:surface > end:under',
      'flat:surface > end:over',
      'end:surface > @out:surface',
    ],
  );
  const setOf = ({ outputs }: Explanation, key: string): readonly string[] => {
    const found = outputs.find((each) => each.key === key);
    return (found?.set ?? []).map((lane) => found?.channels[lane] ?? '');
  };

  it('is told of each surface: by value, strand or dial, and no typed default', async () => {
    const told = await explained(layered);
    expect(setOf(told, 'iron:surface')).toEqual(['metalness']);
    expect(setOf(told, 'paint:surface')).toEqual(['sheen.r', 'sheen.g', 'sheen.b']);
    expect(setOf(told, 'flat:surface')).toEqual(expect.arrayContaining(['unlit']));
    expect(setOf(told, 'noise:value')).toHaveLength(1);
    const packed = groupSelection(layered, { board: null, ids: ['paint'], name: 'P', path: [] });
    const { document } = addDial(
      packed.document,
      packed.groupId,
      'paint',
      'coat',
      'as is',
      'C',
    ) ?? {
      document: layered,
    };
    const inGroup = await explained(document);
    expect(setOf(inGroup, `${packed.nodeId}/paint:surface`)).toContain('coat');
  });
  it('stands before the rest, at the surfaces that are made of these too', async () => {
    const told = await explained(layered);
    const all = setOf(told, 'end:surface');
    expect(all).toEqual(expect.arrayContaining(['metalness', 'sheen.r', 'unlit']));
    expect(all).not.toContain('coatRoughness');
    const lines = explanationTable(told)
      .split('\n')
      .filter((line) => line.startsWith('end') || line.startsWith('Layer'))
      .map((line) => line.split('\t')[2] ?? '');
    expect(lines.slice(0, all.length).toSorted()).toEqual([...all].sort());
  });
});

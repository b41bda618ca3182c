/** What is compared in pictures: choices of an option, a value from end to end, sixteen seeds. */
import { describeNode, findNodeDefinition } from '@/core/compile/catalogue';
import type { InputView } from '@/core/compile/catalogue';
import type { NodeInstance } from '@/core/graph/document';
import { optionTrials, valueTrials } from '@/features/inspector/trials';
import { documentOf, node } from '../support/networks';

const viewOf = (of: NodeInstance, input: string): InputView => {
  const view = describeNode(of, null)?.inputs.find(({ id }) => id === input);
  if (!view) throw new Error(`there is no ${input}`);
  return view;
};

it('an option has a trial for each of its choices, the present one marked', () => {
  const step = node('step', 'ranges.smoothstep', {}, { form: 'from' });
  const form = findNodeDefinition(step)?.options['form'];
  if (!form) throw new Error('there is no option');
  const { trials } = optionTrials(step, 'form', form);
  expect(trials.map(({ key, isNow }) => [key, isNow])).toEqual([
    ['centred', false],
    ['from', true],
    ['edges', false],
  ]);
  const set = trials[2]?.set(documentOf([step]), null);
  expect(set?.network.nodes[0]?.options).toEqual({ form: 'edges' });
});

it('a value runs over its slider, with the present one among it', () => {
  const step = node('step', 'ranges.smoothstep', { edge: 0.33 });
  const found = valueTrials(step, viewOf(step, 'edge'));
  const keys = found?.trials.map(({ key }) => Number(key)) ?? [];
  expect(keys).toEqual([...keys].sort((a, b) => a - b));
  expect(keys).toContain(0.33);
  expect(found?.trials.filter(({ isNow }) => isNow)).toHaveLength(1);
  const last = found?.trials.at(-1)?.set(documentOf([step]), null);
  expect(last?.network.nodes[0]?.values['edge']).toBe(keys.at(-1));
});

it('a seed comes with the fifteen after it; what is no number has no trials', () => {
  const noise = node('noise', 'patterns.noise', { seed: 4 });
  const seeds = valueTrials(noise, viewOf(noise, 'seed'))?.trials.map(({ key }) => Number(key));
  expect(seeds).toEqual(Array.from({ length: 16 }, (_, k) => k + 4));
  const paint = node('paint', 'surface.surface');
  expect(valueTrials(paint, viewOf(paint, 'baseColour'))).toBeNull();
});

import type { Dial, Drive, GroupDefinition, GroupPort } from '../../graph/document';
import type { NetworkSketch } from '../network-sketch';

/** A chain that is ready to be used, as a group to be opened and changed like any other. */
export interface ReadyGroup {
  readonly name: string;
  readonly synonyms: readonly string[];
  readonly definition: Omit<GroupDefinition, 'id'>;
}

/** What a dial is called, what it does, and what its low and its high end do. */
export type DialWords = readonly [name: string, help: string, low: string, high: string];

const worded = ([name, help, low, high]: DialWords) => ({
  name,
  help,
  ends: { low, high },
  section: 'Main',
});

/** A drive that multiplies. */
export const times = (node: string, input: string): Drive => ({ node, input, law: 'times' });
/** A drive that raises and lowers, by so much from one end to home. */
export const lift = (node: string, input: string, reach: number): Drive => ({
  node,
  input,
  law: 'lift',
  reach,
});
/** A drive that puts the dial's value there. */
export const asIs = (node: string, input: string): Drive => ({ node, input, law: 'as is' });

/** A dial that is 1 as designed. */
export const factor = (id: string, words: DialWords, ...drives: readonly Drive[]): Dial => ({
  id,
  ...worded(words),
  unit: '',
  kind: 'scalar',
  home: 1,
  soft: [0, 2],
  hard: [-100, 100],
  step: 0.01,
  drives,
});

/** A dial that is a value itself. */
export const value = (
  id: string,
  words: DialWords,
  home: number,
  soft: readonly [number, number],
  unit: string,
  ...drives: readonly Drive[]
): Dial => ({
  id,
  ...worded(words),
  unit,
  kind: 'scalar',
  home,
  soft,
  hard: [-1e6, 1e6],
  step: 0.005,
  drives,
});

/** A dial that chooses another pattern of the same kind. */
export const seed = (...drives: readonly Drive[]): Dial => ({
  ...value(
    'seed',
    ['Seed', 'Another pattern of the same kind.', 'a pattern', 'another'],
    0,
    [0, 100],
    '',
    ...drives,
  ),
  step: 1,
});

/** A dial that is a colour, a vector, a choice or a ramp. */
export const whole = (
  id: string,
  name: string,
  help: string,
  given: Pick<Dial, 'kind' | 'home'> & Partial<Pick<Dial, 'choices' | 'soft' | 'unit'>>,
  ...drives: readonly Drive[]
): Dial => ({
  id,
  name,
  help,
  unit: '',
  section: 'Main',
  soft: [0, 1],
  hard: [-1e6, 1e6],
  step: 0.01,
  ...given,
  drives,
});

/** A dial with another slider. */
export const over = (dial: Dial, low: number, high: number): Dial => ({
  ...dial,
  soft: [low, high],
});

/** A dial for how fine the noise of a node is; it never becomes one single blotch. */
export const grain = (help: string, low: string, high: string, node: string): Dial =>
  over(factor('grain', ['Grain', help, low, high], times(node, 'scale')), 0.25, 2);

/** A value that is taken in, 0 to 1; a half where nothing is wired. */
export const valueInput = (help: string): GroupPort => ({
  id: 'value',
  name: 'Value',
  kind: 'scalar',
  help,
  fallback: 0.5,
});

/** What makes a ready group beside its name and words. */
interface Made {
  readonly sketch: NetworkSketch;
  readonly inputs?: readonly GroupPort[];
  readonly outputs: readonly (GroupPort & { readonly from: string })[];
  readonly dials: readonly Dial[];
  readonly limits: string;
}

/** States a ready group. */
export function ready(
  name: string,
  synonyms: readonly string[],
  description: string,
  { sketch, inputs = [], outputs, dials, limits }: Made,
): ReadyGroup {
  const ends = Object.fromEntries(outputs.map(({ id, from }) => [id, from]));
  return {
    name,
    synonyms,
    definition: {
      name,
      description,
      limits,
      inputs,
      outputs: outputs.map(({ from: _from, ...port }) => port),
      dials,
      network: sketch.inside(ends),
    },
  };
}

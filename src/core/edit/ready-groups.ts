import type { Dial, Drive, GroupDefinition, NetworkDocument } from '../graph/document';
import { freshId } from './board';
import type { BoardId } from './board';
import { addNode } from './nodes';
import { NetworkSketch } from './network-sketch';

/** A chain that is ready to be used, as a group to be opened and changed like any other. */
export interface ReadyGroup {
  readonly name: string;
  readonly synonyms: readonly string[];
  readonly definition: Omit<GroupDefinition, 'id'>;
}

const times = (node: string, input: string): Drive => ({ node, input, law: 'times' });
const asIs = (node: string, input: string): Drive => ({ node, input, law: 'as is' });
/** A dial that is 1 as designed and multiplies. */
const factor = (id: string, name: string, help: string, ...drives: readonly Drive[]): Dial => ({
  id,
  name,
  help,
  unit: '',
  section: 'Main',
  kind: 'scalar',
  home: 1,
  soft: [0, 2],
  hard: [-100, 100],
  step: 0.01,
  drives,
});
const value = (
  id: string,
  name: string,
  help: string,
  home: number,
  soft: readonly [number, number],
  unit: string,
  ...drives: readonly Drive[]
): Dial => ({
  id,
  name,
  help,
  unit,
  section: 'Main',
  kind: 'scalar',
  home,
  soft,
  hard: [-1e6, 1e6],
  step: 0.005,
  drives,
});
const seed = (...drives: readonly Drive[]): Dial => ({
  ...value('seed', 'Seed', 'Another pattern of the same kind.', 0, [0, 100], '', ...drives),
  step: 1,
});
const mask = { id: 'mask', name: 'Mask', kind: 'scalar' } as const;

function ready(
  name: string,
  synonyms: readonly string[],
  description: string,
  sketch: NetworkSketch,
  outputs: Readonly<Record<string, string>>,
  titles: Readonly<Record<string, string>>,
  dials: readonly Dial[],
): ReadyGroup {
  return {
    name,
    synonyms,
    definition: {
      name,
      description,
      inputs: [],
      outputs: Object.keys(outputs).map((id) => ({ ...mask, id, name: titles[id] ?? id })),
      dials,
      network: sketch.inside(outputs),
    },
  };
}

/** Edge wear, crevice dirt, top dust, tide line. */
export const READY_GROUPS: readonly ReadyGroup[] = [
  ready(
    'Edge wear',
    ['worn edges', 'scuffed', 'chipped paint', 'bare edges', 'curvature mask'],
    'Where edges are worn bare: convex curvature with a broken border.',
    new NetworkSketch()
      .node('edges', 'model.curvature', { name: 'Edges', values: { gain: 3 } })
      .node('torn', 'masks.break-edge', {
        name: 'Broken border',
        values: { amount: 0.45, level: 0.42, width: 0.14, scale: 26, octaves: 4 },
      })
      .wire('edges.convex > torn.mask'),
    { mask: 'torn.mask' },
    { mask: 'Wear' },
    [
      factor(
        'amount',
        'Amount',
        'How far the wear reaches; 1 as designed.',
        times('edges', 'gain'),
      ),
      value(
        'radius',
        'Radius',
        'How wide an edge counts. Changing it measures the model again.',
        0.03,
        [0.005, 0.15],
        'of the object’s size',
        asIs('edges', 'radius'),
      ),
      factor('torn', 'Breakup', 'How torn the border is.', times('torn', 'amount')),
      factor('grain', 'Grain', 'How fine the breakup is.', times('torn', 'scale')),
      seed(asIs('torn', 'seed')),
    ],
  ),
  ready(
    'Crevice dirt',
    ['grime', 'cavity dirt', 'soot', 'dirty corners', 'occlusion mask'],
    'Where dirt gathers: corners that see little sky, and hollows, thinned by noise.',
    new NetworkSketch()
      .node('corners', 'model.occlusion', { name: 'Corners', values: { reach: 0.12, falloff: 1 } })
      .node('deep', 'ranges.levels', {
        name: 'Deep corners',
        values: { inBlack: 0.18, inWhite: 0.7 },
      })
      .node('hollows', 'model.curvature', { name: 'Hollows', values: { gain: 2 } })
      .node('both', 'masks.union', { name: 'Both' })
      .node('torn', 'masks.break-edge', {
        name: 'Thinned',
        values: { amount: 0.35, level: 0.4, width: 0.5, scale: 18, octaves: 4 },
      })
      .wire(
        'corners.occlusion > deep.value',
        'deep.value > both.masks',
        'hollows.concave > both.masks',
        'both.mask > torn.mask',
      ),
    { mask: 'torn.mask' },
    { mask: 'Dirt' },
    [
      factor(
        'amount',
        'Amount',
        'How much dirt; 1 as designed.',
        times('deep', 'outWhite'),
        times('hollows', 'gain'),
      ),
      value(
        'reach',
        'Reach',
        'How far from a corner dirt lies. Changing it measures the model again.',
        0.12,
        [0.02, 0.5],
        'of the object’s size',
        asIs('corners', 'reach'),
      ),
      factor('torn', 'Breakup', 'How patchy it is.', times('torn', 'amount')),
      factor('grain', 'Grain', 'How fine the patches are.', times('torn', 'scale')),
      seed(asIs('torn', 'seed')),
    ],
  ),
  ready(
    'Top dust',
    ['dust', 'snow', 'settled', 'powder', 'upward faces'],
    'What settles from above: surfaces that look up and are open to the sky.',
    new NetworkSketch()
      .node('up', 'model.slope', { name: 'Looks up' })
      .node('flat', 'ranges.smoothstep', {
        name: 'Flat enough',
        values: { edge: 0.82, width: 0.2 },
      })
      .node('sky', 'model.occlusion', { name: 'Open to the sky', values: { reach: 0.3 } })
      .node('lies', 'masks.intersect', { name: 'Lies there' })
      .node('torn', 'masks.break-edge', {
        name: 'Uneven',
        values: { amount: 0.3, level: 0.45, width: 0.6, scale: 14, octaves: 5 },
      })
      .wire(
        'up.slope > flat.value',
        'flat.mask > lies.masks',
        'sky.openness > lies.masks',
        'lies.mask > torn.mask',
      ),
    { mask: 'torn.mask' },
    { mask: 'Dust' },
    [
      value(
        'steepness',
        'Steepness',
        'How steep a surface still holds dust: lower, steeper.',
        0.82,
        [0.5, 1],
        '',
        asIs('flat', 'edge'),
      ),
      factor('passage', 'Passage', 'How softly it thins out.', times('flat', 'width')),
      factor('torn', 'Unevenness', 'How patchy it lies.', times('torn', 'amount')),
      factor('grain', 'Grain', 'How fine the patches are.', times('torn', 'scale')),
      seed(asIs('torn', 'seed')),
    ],
  ),
  ready(
    'Tide line',
    ['waterline', 'water mark', 'algae line', 'height mask', 'flood'],
    'A level line around the object, ragged by noise: what lies below, and the line itself.',
    new NetworkSketch()
      .node('foot', 'model.position', { name: 'Over the foot', options: { space: 'bounds' } })
      .node('noise', 'patterns.fractal-noise', { name: 'Ragged', values: { scale: 5, octaves: 5 } })
      .node('height', 'math.formula', {
        name: 'Ragged height',
        values: { b: 0.05, formula: { formula: 'a + b * (2.0 * c - 1.0)' } },
      })
      .node('below', 'ranges.smoothstep', {
        name: 'Above the line',
        values: { edge: 0.4, width: 0.03 },
      })
      .node('under', 'math.math', { name: 'Below the line', options: { operation: 'invert' } })
      .node('line', 'ranges.band', {
        name: 'The line',
        values: { centre: 0.4, width: 0.03, softness: 0.03 },
      })
      .wire(
        'foot.y > height.a',
        'noise.value > height.c',
        'height.value > below.value',
        'height.value > line.value',
        'below.mask > under.a',
      ),
    { mask: 'under.value', line: 'line.mask' },
    { mask: 'Below', line: 'Line' },
    [
      value(
        'level',
        'Level',
        'Height of the line over the foot of the object.',
        0.4,
        [0, 1],
        'of its height',
        asIs('below', 'edge'),
        asIs('line', 'centre'),
      ),
      factor('ragged', 'Raggedness', 'How far the line wanders.', times('height', 'b')),
      factor(
        'breadth',
        'Breadth',
        'How broad the line is.',
        times('line', 'width'),
        times('line', 'softness'),
      ),
      seed(asIs('noise', 'seed')),
    ],
  ),
];

/** Adds a ready chain as a group of the document; one that is there already is used again. */
export function addReadyGroup(
  document: NetworkDocument,
  board: BoardId,
  name: string,
  at: readonly [number, number],
): { document: NetworkDocument; id: string } {
  const chosen = READY_GROUPS.find((each) => each.name === name);
  if (!chosen) throw new Error(`Invariant broken: there is no ready group ${name}`);
  const same = Object.values(document.groups).find(
    ({ id: _id, ...rest }) => JSON.stringify(rest) === JSON.stringify(chosen.definition),
  );
  const groupId = same?.id ?? freshId('g', new Set(Object.keys(document.groups)));
  const holding = same
    ? document
    : {
        ...document,
        groups: { ...document.groups, [groupId]: { ...chosen.definition, id: groupId } },
      };
  return addNode(holding, board, 'group', at, groupId);
}

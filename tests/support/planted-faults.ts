import { checkReferences } from '@/core/compile/check/check';
import { imagePlaces } from '@/core/compile/images';
import { canonicalJson } from '@/core/graph/canonical';
import { locateFinding } from '@/core/graph/finding-place';
import type { DiagnosticCode } from '@/core/base/diagnostic';
import type {
  Dial,
  Drive,
  GroupDefinition,
  NetworkDocument,
  NodeInstance,
  RampStop,
  Strand,
} from '@/core/graph/document';
import type { FindingPlace } from '@/core/graph/finding-place';
import { documentOf, node, strand } from './networks';

/** A fault of the planted document: its code, and the place where it is to be shown. */
export interface PlantedFault {
  readonly code: DiagnosticCode;
  readonly place: FindingPlace;
}

const MISSING_IMAGE = '0123456789abcdef'.repeat(4);

const stop = (id: string, position: number): RampStop => ({
  id,
  position,
  colour: [0.4, 0.4, 0.4],
  alpha: 1,
  segment: 'linear',
});
const at = (instance: NodeInstance, k: number): NodeInstance => ({
  ...instance,
  at: [(k % 6) * 180, Math.floor(k / 6) * 260],
});

const dial = (id: string, change: Partial<Dial>): Dial => ({
  id,
  name: `Dial ${id}`,
  help: '',
  unit: '',
  section: 'Main',
  kind: 'scalar',
  home: 1,
  soft: [0, 2],
  hard: [-100, 100],
  step: 0.01,
  drives: [],
  ...change,
});
const drive = (change: Partial<Drive>): Drive => ({
  node: 'inner',
  input: 'scale',
  law: 'times',
  ...change,
});

const groupOf = (
  id: string,
  name: string,
  nodes: readonly NodeInstance[],
  dials: readonly Dial[],
): GroupDefinition => ({
  id,
  name,
  description: '',
  inputs: [],
  outputs: [{ id: 'value', name: 'Value', kind: 'scalar' }],
  dials,
  network: { nodes, strands: [], regions: [], notes: [] },
});

/** Groups with what can be wrong in and around dials. */
const GROUPS: Readonly<Record<string, GroupDefinition>> = {
  barnacles: groupOf(
    'barnacles',
    'Barnacles',
    [
      node('inner', 'patterns.noise', { scale: -4 }),
      node('shown', 'patterns.image'),
      node('folded', 'patterns.fractal-noise'),
    ],
    [
      dial('d1', { drives: [drive({ node: 'gone' })] }),
      dial('d2', { drives: [drive({ node: 'shown', input: 'image', law: 'as is' })] }),
      dial('d3', { kind: 'colour', home: [1, 1, 1], drives: [drive({ law: 'lift', reach: 1 })] }),
      dial('d4', { drives: [drive({ law: 'span', low: 2, high: 2 })] }),
      dial('d5', { home: [1, 1, 1] }),
      dial('d6', {}),
      dial('d6', { name: 'Twice' }),
      dial('d7', {
        kind: 'choice',
        home: { choice: 'none' },
        choices: [{ value: 'pleated', title: 'Pleated' }],
        drives: [drive({ node: 'folded', input: 'fold', law: 'as is' })],
      }),
    ],
  ),
  scarf: {
    ...groupOf('scarf', 'Scarf', [node('weave', 'patterns.noise')], []),
    inputs: [{ id: 'in1', name: 'Where', kind: 'vector' }],
    network: {
      nodes: [node('weave', 'patterns.noise')],
      strands: [strand('@in:in1 > weave:at'), strand('weave:value > @out:value')],
      regions: [],
      notes: [],
    },
  },
  knot: groupOf('knot', 'Knot', [{ ...node('self', 'group'), group: 'knot' }], []),
};

const NODES: readonly NodeInstance[] = [
  node('later', 'patterns.driftwood', { grain: 3 }),
  { ...node('newer', 'patterns.noise'), version: 99 },
  node('twin', 'patterns.checks'),
  node('twin', 'patterns.checks'),
  node('extra', 'patterns.noise', { wobble: 2 }),
  node('typed', 'patterns.noise', { scale: [1, 2, 3] }),
  node('far', 'patterns.noise', { scale: -3 }),
  node('deep', 'patterns.stripes', { softness: 7 }),
  node('choice', 'patterns.stripes', {}, { shape: 'ragged' }),
  node('setting', 'patterns.stripes', {}, { weave: 'twill' }),
  node('double', 'gradients.ramp', { stops: { stops: [stop('s1', 0), stop('s1', 1)] } }),
  node('beyond', 'gradients.ramp', { stops: { stops: [stop('s1', 0), stop('s2', 1.5)] } }),
  node('bent', 'gradients.curve', {
    all: {
      points: [
        [0, 0],
        [0.7, 1],
        [0.4, 0.2],
      ],
    },
  }),
  node('cut', 'math.formula', { formula: { formula: 'a * (b + ' } }),
  node('odd', 'math.formula', { formula: { formula: 'a # b' } }),
  node('lost', 'patterns.image', { image: { image: MISSING_IMAGE, name: 'kelp.png' } }),
  { ...node('empty', 'group'), group: 'absent' },
  { ...node('tied', 'group'), group: 'knot' },
  { ...node('shells', 'group'), group: 'barnacles' },
  { ...node('loose', 'group'), group: 'scarf' },
  node('end', 'ranges.levels'),
  node('steep', 'model.slope'),
  node('bare', 'surface.surface'),
  node('ring1', 'ranges.levels'),
  node('ring2', 'ranges.levels'),
  node('both', 'patterns.image', { image: { image: MISSING_IMAGE, name: 'kelp.png' } }),
];

const named = (id: string, text: string, order: number): Strand => ({ ...strand(text, order), id });
const STRANDS: readonly Strand[] = [
  named('from-nowhere', 'vanished:value > far:seed', 0),
  named('to-nowhere', 'far:value > vanished:value', 1),
  named('no-output', 'far:moss > deep:scale', 2),
  named('no-input', 'far:value > deep:moss', 3),
  named('kinds', 'bare:surface > extra:scale', 4),
  named('first', 'far:value > end:value', 5),
  named('second', 'deep:value > end:value', 6),
  named('same', 'far:value > end:inBlack', 7),
  named('same', 'far:value > end:inWhite', 8),
  named('unlike', 'steep:degrees > bare:roughness', 9),
  named('circle1', 'ring1:value > ring2:value', 10),
  named('circle2', 'ring2:value > ring1:value', 11),
  named('as-colour', 'both:colour > bare:baseColour', 12),
  named('as-number', 'both:red > bare:metalness', 13),
];

/** A document in which over thirty things are wrong, each of another kind or elsewhere. */
export const plantedDocument = (): NetworkDocument => ({
  ...documentOf(NODES.map(at), STRANDS),
  name: 'Planted faults',
  groups: GROUPS,
});

const here = (place: Omit<FindingPlace, 'board'>): FindingPlace => ({ board: null, ...place });
const inside = (place: Omit<FindingPlace, 'board'>): FindingPlace => ({
  board: 'barnacles',
  ...place,
});
const ofDial = (id: string, place: Omit<FindingPlace, 'board'> = {}): FindingPlace =>
  inside({ group: 'barnacles', dial: id, ...place });

export const PLANTED: readonly PlantedFault[] = [
  { code: 'node.unknown-type', place: here({ node: 'later' }) },
  { code: 'node.unknown-version', place: here({ node: 'newer' }) },
  { code: 'node.duplicate-id', place: here({ node: 'twin' }) },
  { code: 'node.unknown-input', place: here({ node: 'extra', input: 'wobble' }) },
  { code: 'value.wrong-type', place: here({ node: 'typed', input: 'scale' }) },
  { code: 'value.out-of-range', place: here({ node: 'far', input: 'scale' }) },
  { code: 'value.out-of-range', place: here({ node: 'deep', input: 'softness' }) },
  { code: 'option.unknown', place: here({ node: 'choice', option: 'shape' }) },
  { code: 'option.unknown', place: here({ node: 'setting', option: 'weave' }) },
  { code: 'ramp.duplicate-stop', place: here({ node: 'double', input: 'stops', stop: 's1' }) },
  { code: 'ramp.out-of-range', place: here({ node: 'beyond', input: 'stops', stop: 's2' }) },
  { code: 'curve.unordered', place: here({ node: 'bent', input: 'all', point: 2 }) },
  { code: 'formula.wrong', place: here({ node: 'cut', input: 'formula', character: 9 }) },
  { code: 'formula.wrong', place: here({ node: 'odd', input: 'formula', character: 2 }) },
  { code: 'image.unavailable', place: here({ node: 'lost', input: 'image' }) },
  { code: 'image.unavailable', place: here({ node: 'both', input: 'image' }) },
  { code: 'image.mixed-reading', place: here({ node: 'both' }) },
  { code: 'group.missing', place: here({ node: 'empty' }) },
  { code: 'group.contains-itself', place: { board: 'knot', group: 'knot' } },
  {
    code: 'strand.missing-node',
    place: here({ strand: 'from-nowhere', end: 'from', node: 'far', input: 'seed' }),
  },
  {
    code: 'strand.missing-node',
    place: here({ strand: 'to-nowhere', end: 'to', node: 'far', output: 'value' }),
  },
  {
    code: 'strand.missing-port',
    place: here({ strand: 'no-output', end: 'from', node: 'far', output: 'moss' }),
  },
  {
    code: 'strand.missing-port',
    place: here({ strand: 'no-input', end: 'to', node: 'deep', input: 'moss' }),
  },
  { code: 'strand.kind', place: here({ strand: 'kinds', node: 'extra', input: 'scale' }) },
  {
    code: 'strand.twice',
    place: here({ strand: 'second', end: 'to', node: 'end', input: 'value' }),
  },
  { code: 'strand.duplicate-id', place: here({ strand: 'same', node: 'end', input: 'inWhite' }) },
  { code: 'strand.quantity', place: here({ strand: 'unlike', node: 'bare', input: 'roughness' }) },
  { code: 'network.cycle', place: here({ strand: 'circle2', node: 'ring1', input: 'value' }) },
  { code: 'value.out-of-range', place: inside({ node: 'inner', input: 'scale' }) },
  { code: 'drive.missing-target', place: ofDial('d1', { drive: 0 }) },
  { code: 'drive.kind', place: ofDial('d2', { drive: 0, node: 'shown', input: 'image' }) },
  { code: 'drive.law', place: ofDial('d3', { drive: 0, node: 'inner', input: 'scale' }) },
  { code: 'drive.law', place: ofDial('d4', { drive: 0, node: 'inner', input: 'scale' }) },
  { code: 'value.wrong-type', place: ofDial('d5') },
  { code: 'node.duplicate-id', place: ofDial('d6') },
  { code: 'drive.kind', place: ofDial('d7', { drive: 0, node: 'folded', input: 'fold' }) },
  { code: 'group.unwired', place: here({ node: 'loose' }) },
];

/** The JSON Pointer by which the check names a planted fault. @throws when it does not find it */
export function pointerTo({ code, place }: PlantedFault): string {
  const document = plantedDocument();
  const image = imagePlaces(document).find((each) => each.node === place.node);
  if (code === 'image.unavailable' && image) return image.pointer;
  const wanted = canonicalJson(place);
  const found = checkReferences(document).find(
    (finding) =>
      finding.code === code && canonicalJson(locateFinding(document, finding)) === wanted,
  );
  if (!found) throw new Error(`${code} is not found at ${wanted}`);
  return found.pointer;
}

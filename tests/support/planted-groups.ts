import { changeDial } from '@/core/edit/dials';
import { changeNode, withGroup } from '@/core/edit/board';
import { setOption } from '@/core/edit/nodes';
import { factor, lift, times } from '@/core/edit/ready/define';
import type { DialWords } from '@/core/edit/ready/define';
import type { NoteCode } from '@/core/evaluate/group-note';
import type {
  Dial,
  Drive,
  GroupDefinition,
  NetworkDocument,
  NodeInstance,
  Strand,
} from '@/core/graph/document';
import { node } from './networks';
import { readyCard } from './ready-card';

/** A good group with one fault. */
export interface PlantedGroup {
  readonly code: NoteCode;
  readonly what: string;
  readonly document: NetworkDocument;
  readonly card: string;
  readonly groupId: string;
}
type Change = (document: NetworkDocument, groupId: string) => NetworkDocument;

const plant = (code: NoteCode, what: string, name: string, change: Change) => (): PlantedGroup => {
  const { document, card, group } = readyCard(name);
  return { code, what, document: change(document, group.id), card, groupId: group.id };
};

const group =
  (change: (group: GroupDefinition) => Partial<GroupDefinition>): Change =>
  (document, id) =>
    withGroup(document, id, (each) => ({ ...each, ...change(each) }));
const dial =
  (id: string, change: Partial<Dial>): Change =>
  (document, groupId) =>
    changeDial(document, groupId, id, change);
const inner =
  (id: string, change: (node: NodeInstance) => NodeInstance): Change =>
  (document, groupId) =>
    changeNode(document, groupId, id, change);
const WORDS: DialWords = ['Extra', 'Does something more.', 'less', 'more'];
const extra = (change: Partial<Dial>, ...drives: readonly Drive[]): Change =>
  group(({ dials }) => ({
    dials: [...dials, { ...factor('extra', WORDS, ...drives), ...change }],
  }));
const both =
  (...changes: readonly Change[]): Change =>
  (document, id) =>
    changes.reduce((current, change) => change(current, id), document);

let strands = 0;
const strand = (from: readonly [string, string], to: readonly [string, string]): Strand => ({
  id: `planted${String(++strands)}`,
  from: { node: from[0], output: from[1] },
  to: { node: to[0], input: to[1] },
  order: 0,
});
/** Adds nodes and strands inside; what leaves by an output is led through `through`. */
const build = (
  nodes: readonly NodeInstance[],
  added: readonly Strand[],
  through?: {
    readonly output: string;
    readonly into: [string, string];
    readonly from: [string, string];
  },
): Change =>
  group(({ network }) => {
    const end = network.strands.find(
      ({ to }) => to.node === '@out' && to.input === through?.output,
    );
    const led =
      through && end
        ? [
            ...network.strands.filter((each) => each !== end),
            strand([end.from.node, end.from.output], through.into),
            strand(through.from, ['@out', through.output]),
          ]
        : network.strands;
    return {
      network: { ...network, nodes: [...network.nodes, ...nodes], strands: [...led, ...added] },
    };
  });
/** Leads what goes out through a calculation with a dial on its second operand. */
const calculated = (output: string, operation: string, b: number, soft: [number, number]): Change =>
  both(
    build([node('sum', 'math.math', { b }, { operation })], [], {
      output,
      into: ['sum', 'a'],
      from: ['sum', 'value'],
    }),
    extra({ soft }, lift('sum', 'b', 1)),
  );

/** Multiplies what goes out with an output of another node. */
const multipliedBy = (output: string, by: NodeInstance, from: string): Change =>
  build(
    [by, node('product', 'math.math', {}, { operation: 'multiply' })],
    [strand([by.id, from], ['product', 'b'])],
    { output, into: ['product', 'a'], from: ['product', 'value'] },
  );

const OFF = (each: NodeInstance): NodeInstance => ({ ...each, off: true });

/** Makes every planted group anew. */
export const PLANTED: readonly (() => PlantedGroup)[] = [
  plant(
    'no-name',
    'the name of every new group',
    'Edge wear',
    group(() => ({ name: 'New group' })),
  ),
  plant(
    'no-name',
    'no name',
    'Slope pair',
    group(() => ({ name: ' ' })),
  ),
  plant(
    'naming',
    'a name in small letters',
    'Top dust',
    group(() => ({ name: 'top dust' })),
  ),
  plant('naming', 'a dial with underscores', 'Edge wear', dial('grain', { name: 'Grain_size' })),
  plant(
    'naming',
    'an output in small letters',
    'Tide line',
    group(({ outputs: [first, ...rest] }) => ({
      outputs: first ? [{ ...first, name: 'below' }, ...rest] : rest,
    })),
  ),
  plant(
    'naming',
    'a name that is too long',
    'Region mask',
    dial('torn', { name: 'Breakup '.repeat(5) + 'B' }),
  ),
  plant(
    'no-description',
    'no description',
    'Top dust',
    group(() => ({ description: '' })),
  ),
  plant(
    'no-description',
    'blanks',
    'Mask tightener',
    group(() => ({ description: '  ' })),
  ),
  plant(
    'no-dials',
    'no dials',
    'Mask tightener',
    group(() => ({ dials: [] })),
  ),
  plant('dial-help', 'a dial without help', 'Edge wear', dial('amount', { help: '' })),
  plant('dial-help', 'a colour without help', 'Tone cut, two tones', dial('dark', { help: ' ' })),
  plant('dial-ends', 'no low end', 'Edge wear', dial('torn', { ends: { low: '', high: 'torn' } })),
  plant(
    'dial-ends',
    'no high end',
    'Slope pair',
    dial('softness', { ends: { low: 'hard', high: '' } }),
  ),
  plant('dial-name', 'two of one name', 'Edge wear', dial('torn', { name: 'Grain' })),
  plant('dial-name', 'a dial without name', 'Tide line', dial('ragged', { name: '' })),
  plant('dial-zero', 'times on 0', 'Crevice dirt', extra({}, times('hollows', 'bias'))),
  plant('dial-zero', 'times on 0 again', 'Edge wear', extra({}, times('edges', 'bias'))),
  plant('dial-dead', 'a dial that drives nothing', 'Slope pair', extra({})),
  plant('dial-dead', 'a dial on an idle edge', 'Slope pair', extra({}, times('top', 'upper'))),
  plant(
    'dial-dead',
    'a slider too narrow to matter',
    'Mask tightener',
    dial('level', { soft: [1 - 1e-9, 1 + 1e-9] }),
  ),
  plant(
    'dial-dead',
    'a colour that nothing shows',
    'Tone cut, two tones',
    extra({ kind: 'colour', home: [1, 0, 0] }),
  ),
  plant('dial-flat', 'a slider far too long', 'Mask tightener', dial('level', { soft: [-4, 2] })),
  plant('dial-flat', 'a level beyond the top', 'Tide line', dial('level', { soft: [0, 6] })),
  plant(
    'dial-flat',
    'a cut past all values',
    'Tone cut, two tones',
    dial('level', { soft: [0, 9] }),
  ),
  plant(
    'dial-steep',
    'a sudden rise in a small part',
    'Mask tightener',
    both(
      build(
        [
          node('bend', 'math.formula', {
            b: 1,
            formula: {
              formula: 'a * 0.5 + 0.45 / (1.0 + exp((1.35 - b) * 60.0)) + 0.02 * b',
            },
          }),
        ],
        [],
        { output: 'tight', into: ['bend', 'a'], from: ['bend', 'value'] },
      ),
      extra({}, lift('bend', 'b', 1)),
    ),
  ),
  plant('dial-beyond', 'a gain over 1', 'Edge wear', calculated('mask', 'multiply', 1, [0, 2])),
  plant('dial-beyond', 'an amount below 0', 'Top dust', calculated('mask', 'add', 0, [0, 1])),
  plant(
    'dial-beyond',
    'a gain without limit',
    'Region mask',
    calculated('mask', 'multiply', 1, [0.5, 3]),
  ),
  plant(
    'pair-beyond',
    'two gains that are fine alone',
    'Mask tightener',
    both(
      build(
        [
          node('one', 'math.math', { b: 0.6 }, { operation: 'multiply' }),
          node('two', 'math.math', { b: 0.6 }, { operation: 'multiply' }),
          node('four', 'math.math', { b: 1.5 }, { operation: 'multiply' }),
        ],
        [strand(['one', 'value'], ['two', 'a']), strand(['two', 'value'], ['four', 'a'])],
        { output: 'tight', into: ['one', 'a'], from: ['four', 'value'] },
      ),
      group(({ dials }) => ({
        dials: [
          ...dials,
          {
            ...factor('first', ['First', 'One gain.', 'less', 'more'], times('one', 'b')),
            soft: [0, 1.6],
          },
          {
            ...factor('second', ['Second', 'Another.', 'less', 'more'], times('two', 'b')),
            soft: [0, 1.6],
          },
        ],
      })),
    ),
  ),
  plant(
    'leftover',
    'a node that leads nowhere',
    'Edge wear',
    build([node('spare', 'patterns.noise')], []),
  ),
  plant(
    'leftover',
    'a chain that leads nowhere',
    'Tide line',
    build(
      [node('spare', 'math.math', { b: 2 }, { operation: 'add' })],
      [strand(['foot', 'x'], ['spare', 'a'])],
    ),
  ),
  plant('off', 'a node that is off', 'Crevice dirt', inner('deep', OFF)),
  plant('off', 'the last node off', 'Top dust', inner('torn', OFF)),
  plant(
    'test',
    'a name of trying',
    'Edge wear',
    inner('torn', (each) => ({ ...each, name: 'test 2' })),
  ),
  plant(
    'test',
    'an old node',
    'Slope pair',
    inner('top', (each) => ({ ...each, name: 'Old top' })),
  ),
  plant(
    'constant',
    'a number that could stand where it goes',
    'Mask tightener',
    build(
      [
        node('fixed', 'constants.number', { value: 0.5 }),
        node('half', 'math.math', {}, { operation: 'multiply' }),
      ],
      [strand(['fixed', 'value'], ['half', 'b'])],
      { output: 'tight', into: ['half', 'a'], from: ['half', 'value'] },
    ),
  ),
  plant('units', 'a pattern per metre', 'Tide line', (document, id) =>
    setOption(document, id, 'noise', 'per', 'unit'),
  ),
  plant('units', 'waves per metre', 'Colour from height', (document, id) =>
    setOption(document, id, 'noise', 'per', 'unit'),
  ),
  plant(
    'image',
    'an image that is not there',
    'Mask tightener',
    multipliedBy('tight', node('scan', 'patterns.image'), 'red'),
  ),
  plant(
    'unwired',
    'coordinates that nobody has declared',
    'Tide line',
    both(
      group(({ inputs }) => ({
        inputs: [...inputs, { id: 'where', name: 'Where', kind: 'vector' }],
      })),
      build([], [strand(['@in', 'where'], ['noise', 'at'])]),
    ),
  ),
  plant(
    'unplugged',
    'a mask that counts as 4 when unplugged',
    'Mask tightener',
    both(
      group(({ inputs }) => ({ inputs: inputs.map((port) => ({ ...port, fallback: 4 })) })),
      build(
        [node('most', 'math.math', {}, { operation: 'average' })],
        [strand(['@in', 'mask'], ['most', 'b'])],
        { output: 'tight', into: ['most', 'a'], from: ['most', 'value'] },
      ),
    ),
  ),
  plant(
    'camera',
    'a mask that follows the camera',
    'Edge wear',
    multipliedBy('mask', node('rim', 'model.view-angle'), 'value'),
  ),
  plant(
    'lights',
    'a mask that follows the lights',
    'Top dust',
    multipliedBy('mask', node('lit', 'model.light-response'), 'wrapped'),
  ),
  plant(
    'variant',
    'a variant that is home',
    'Edge wear',
    group(() => ({ variants: [{ id: 'v1', name: 'Plain', values: {} }] })),
  ),
  plant(
    'variant',
    'two variants that are the same',
    'Slope pair',
    group(() => ({
      variants: [
        { id: 'v1', name: 'Hard', values: { softness: 0.5 } },
        { id: 'v2', name: 'Crisp', values: { softness: 0.5 } },
      ],
    })),
  ),
];

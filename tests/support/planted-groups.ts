import { setOption } from '@/core/edit/nodes';
import { factor, lift, times } from '@/core/edit/ready/define';
import { node } from './networks';
import {
  OFF,
  both,
  build,
  calculated,
  dial,
  extra,
  group,
  inner,
  multipliedBy,
  plant,
  strand,
} from './planting';
import type { PlantedGroup } from './planting';

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
  plant(
    'dial-data',
    'a colour dial on the colours of a normal map',
    'Edge wear',
    both(
      build(
        [
          node('relief', 'surface.normal-map'),
          node('parts', 'math.split'),
          node('lit', 'math.formula', { formula: { formula: 'a * (0.5 + 0.5 * b)' } }),
        ],
        [strand(['relief', 'normal'], ['parts', 'vector']), strand(['parts', 'y'], ['lit', 'b'])],
        { output: 'mask', into: ['lit', 'a'], from: ['lit', 'value'] },
      ),
      extra(
        { kind: 'colour', home: [0.5, 0.5, 1] },
        { node: 'relief', input: 'map', law: 'as is' },
      ),
    ),
  ),
  plant(
    'fixed-normal',
    'a fixed direction in place of the normal',
    'Top dust',
    multipliedBy(
      'mask',
      node('skyward', 'model.normal', { detail: [0, 1, 0] }, { smoothing: 'detail' }),
      'y',
    ),
  ),
  plant(
    'dial-home',
    'a home above its slider',
    'Edge wear',
    dial('amount', { home: 1, soft: [0, 0.8] }),
  ),
  plant(
    'dial-home',
    'a home below its slider',
    'Mask tightener',
    dial('level', { soft: [1.2, 2] }),
  ),
  plant(
    'dial-weak',
    'an effect under a thousandth',
    'Mask tightener',
    both(
      build(
        [
          node('faint', 'math.formula', {
            b: 1,
            formula: { formula: 'a + 0.0004 * b * (1.0 - a)' },
          }),
        ],
        [],
        { output: 'tight', into: ['faint', 'a'], from: ['faint', 'value'] },
      ),
      extra({ home: 0, soft: [0, 1] }, lift('faint', 'b', 1)),
    ),
  ),
  plant(
    'dial-part',
    'a vector of which two parts do nothing',
    'Edge wear',
    both(
      build(
        [
          node('way', 'math.split', { vector: [0.5, 0.5, 0.5] }),
          node('product', 'math.formula', { formula: { formula: 'a * (0.5 + 0.5 * b)' } }),
        ],
        [strand(['way', 'x'], ['product', 'b'])],
        { output: 'mask', into: ['product', 'a'], from: ['product', 'value'] },
      ),
      extra(
        { kind: 'vector', home: [0.5, 0.5, 0.5], soft: [0, 1] },
        { node: 'way', input: 'vector', law: 'as is' },
      ),
    ),
  ),
  plant(
    'dial-pair',
    'two dials that undo each other',
    'Mask tightener',
    both(
      build(
        [
          node('push', 'math.formula', {
            b: 1,
            c: 1,
            formula: { formula: 'a * (0.4 + 0.2 * b - 0.2 * c) + 0.1' },
          }),
        ],
        [],
        { output: 'tight', into: ['push', 'a'], from: ['push', 'value'] },
      ),
      group(({ dials }) => ({
        dials: [
          ...dials,
          {
            ...factor('push', ['Push', 'Lifts it.', 'less', 'more'], lift('push', 'b', 1)),
            home: 0,
            soft: [0, 1],
          },
          {
            ...factor('pull', ['Pull', 'Lowers it.', 'less', 'more'], lift('push', 'c', 1)),
            home: 0,
            soft: [0, 1],
          },
        ],
      })),
    ),
  ),
  plant(
    'dial-flat',
    'a dial idle in the middle of its slider',
    'Mask tightener',
    both(
      build(
        [
          node('bend', 'math.formula', {
            b: 1,
            formula: {
              formula: 'a * (0.5 + 0.3 * max(b - 0.5, 0.0) + 0.3 * min(b, 0.25))',
            },
          }),
        ],
        [],
        { output: 'tight', into: ['bend', 'a'], from: ['bend', 'value'] },
      ),
      extra({ home: 0, soft: [0, 1] }, lift('bend', 'b', 1)),
    ),
  ),
  plant(
    'open-output',
    'an output that nothing leads to',
    'Slope pair',
    group(({ outputs }) => ({
      outputs: [...outputs, { id: 'spare', name: 'Spare mask', kind: 'scalar' }],
    })),
  ),
  plant(
    'open-output',
    'a surface that nothing leads to',
    'Edge wear',
    group(({ outputs }) => ({
      outputs: [...outputs, { id: 'paint', name: 'Paint', kind: 'surface' }],
    })),
  ),
  plant(
    'unread-input',
    'an input that nothing reads',
    'Edge wear',
    group(({ inputs }) => ({
      inputs: [...inputs, { id: 'spare', name: 'Spare mask', kind: 'scalar', fallback: 0 }],
    })),
  ),
  plant(
    'unread-input',
    'a list that nothing reads',
    'Top dust',
    group(({ inputs }) => ({
      inputs: [...inputs, { id: 'spare', name: 'Spare masks', kind: 'scalar', many: true }],
    })),
  ),
  plant(
    'idle-input',
    'a glow that is wired at strength 0',
    'Tone cut, two tones',
    both(
      build(
        [node('glow', 'surface.surface'), node('embers', 'patterns.noise')],
        [strand(['embers', 'value'], ['glow', 'emission'])],
      ),
      group(({ outputs, network }) => ({
        outputs: [...outputs, { id: 'paint', name: 'Paint', kind: 'surface' }],
        network: {
          ...network,
          strands: [...network.strands, strand(['glow', 'surface'], ['@out', 'paint'])],
        },
      })),
    ),
  ),
  plant(
    'fixed-normal',
    'a vector wired in place of the normal',
    'Edge wear',
    both(
      multipliedBy('mask', node('skyward', 'model.normal', {}, { smoothing: 'detail' }), 'y'),
      build(
        [node('fixed', 'constants.vector', { vector: [0, 1, 0] })],
        [strand(['fixed', 'vector'], ['skyward', 'detail'])],
      ),
    ),
  ),
  plant(
    'dial-weak',
    'a slider that ends where it would begin to show',
    'Edge wear',
    both(
      multipliedBy(
        'mask',
        node('share', 'math.math', { a: 1, b: 0 }, { operation: 'add' }),
        'value',
      ),
      extra({ home: 1, soft: [0.9995, 1] }, lift('share', 'a', 1)),
    ),
  ),
];

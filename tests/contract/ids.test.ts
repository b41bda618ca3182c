import fc from 'fast-check';
import { AXES, laneName, parseLaneName } from '@/core/base/lane-name';
import type { Lane } from '@/core/base/lane-name';
import { inputVariable } from '@/core/backends/glsl/emit';
import { checkReferences } from '@/core/compile/check/check';
import { compileNetwork } from '@/core/compile/compile';
import { groupSelection } from '@/core/edit/group';
import { ungroup } from '@/core/edit/ungroup';
import { isMark, markId } from '@/core/edit/marks';
import { OUTPUT_EDGE } from '@/core/graph/document';
import type { NetworkDocument } from '@/core/graph/document';
import { arrivingKey, outputKey, parseResultKey, readableKey } from '@/core/graph/result-key';
import { parseDocument } from '@/core/graph/schema';
import { documentOf, node } from '../support/networks';

/** Ids the schema allows: those that objects inherit, and those with signs that keys use. */
const ODD = [
  'tin:grain',
  'constructor',
  'toString',
  'hasOwnProperty',
  'valueOf',
  'a.dx',
  'a..b',
  'map:a',
  '@me',
  '-',
  'x:y.z@w',
];
const id = fc.oneof(
  fc.constantFrom(...ODD),
  fc.stringMatching(/^[A-Za-z0-9_.:@-]{1,12}$/).filter((text) => text !== '__proto__'),
);

/** Noise and occlusion, both called by the given ids, mixed into a surface. */
const named = (first: string, second: string): NetworkDocument =>
  documentOf(
    [
      node(first, 'patterns.noise', { scale: 7 }),
      node(second, 'model.occlusion'),
      node('last', 'surface.surface'),
    ],
    [
      {
        id: 'tin:strand',
        from: { node: first, output: 'value' },
        to: { node: 'last', input: 'roughness' },
        order: 0,
      },
      {
        id: 'constructor',
        from: { node: second, output: 'occlusion' },
        to: { node: 'last', input: 'metalness' },
        order: 0,
      },
      {
        id: 'end',
        from: { node: 'last', output: 'surface' },
        to: { node: OUTPUT_EDGE, input: 'surface' },
        order: 0,
      },
    ],
  );

describe('ids that the schema allows', () => {
  it('name a result by keys that are told apart and parsed back, whatever signs they hold', () => {
    fc.assert(
      fc.property(fc.array(id, { minLength: 1, maxLength: 4 }), id, (path, port) => {
        for (const [make, end] of [[outputKey, 'output'] as const, [arrivingKey, 'input'] as const])
          expect(parseResultKey(make(path, port))).toEqual({ path, end, port });
        expect(readableKey(outputKey(path, port))).toBe(`${path.join('/')}:${port}`);
      }),
    );
  });

  it('and attribute names of any text name lanes that are parsed back and differ in GLSL', () => {
    const lane: fc.Arbitrary<Lane> = fc.oneof(
      fc.record({ of: fc.constant('map' as const), field: fc.string() }),
      fc.record({
        of: fc.constant('attribute' as const),
        name: fc.string(),
        component: fc.constantFrom('x', 'y', 'z', 'w'),
      }),
      fc.record({
        of: fc.constantFrom('position', 'uv', 'part.centre', 'normal'),
        component: fc.constantFrom(...AXES),
        slope: fc.constantFrom(...AXES),
      }),
    );
    fc.assert(
      fc.property(lane, lane, (one, other) => {
        expect(parseLaneName(laneName(one))).toEqual(one);
        const isSame = laneName(one) === laneName(other);
        expect(inputVariable(laneName(one)) === inputVariable(laneName(other))).toBe(isSame);
      }),
      { numRuns: 2000 },
    );
    expect(inputVariable('map:a..b')).not.toContain('__');
  });

  it.each(ODD)('can be packaged and opened up again: %s', (odd) => {
    const document = named(odd, 'plain');
    expect(parseDocument(document).diagnostics).toEqual([]);
    const packed = groupSelection(document, {
      board: null,
      ids: [odd, 'plain'],
      name: 'Odd',
      path: [],
    });
    expect(checkReferences(packed.document)).toEqual([]);
    expect(packed.document.groups[packed.groupId]?.outputs.length).toBe(2);
    const opened = ungroup(packed.document, null, packed.nodeId);
    expect(checkReferences(opened)).toEqual([]);
    expect(opened.network.nodes.map((each) => each.id).sort()).toEqual(
      [odd, 'last', 'plain'].sort(),
    );
  });

  it('are found as results; a group that objects inherit the name of is missing', () => {
    for (const odd of ODD) {
      const key = outputKey([odd], 'value');
      const compiled = compileNetwork(named(odd, 'plain'), { surface: true, taps: [key] });
      expect(compiled.slots.map((slot) => slot.key)).toEqual(['surface', key]);
      expect(compiled.mapSlots).toHaveLength(1);
      const lost = documentOf([{ ...node('n', 'group'), group: odd }]);
      expect(checkReferences(lost).map(({ code }) => code)).toEqual(['group.missing']);
      expect(isMark(odd)).toBe(false);
      expect(isMark(markId.note(odd))).toBe(true);
    }
  });

  it('leave out the one that would change what an object is', () => {
    expect(parseDocument(named('__proto__', 'plain')).document).toBeNull();
  });
});

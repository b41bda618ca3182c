import fc from 'fast-check';
import { checkReferences } from '@/core/compile/check/check';
import { quantityNote } from '@/core/compile/quantities';
import { connect, setPlain } from '@/core/edit/strands';
import { INPUT_EDGE, OUTPUT_EDGE } from '@/core/graph/document';
import type { InputValue, NetworkDocument, Strand } from '@/core/graph/document';
import { QUANTITIES, quantityConversion } from '@/core/nodes/quantities';
import { documentOf, node } from '../support/networks';
import { outputAt } from '../support/evaluate';

const close = (actual: number, expected: number, tolerance = 1e-6): void => {
  expect(Math.abs(actual - expected)).toBeLessThanOrEqual(
    tolerance * Math.max(1, Math.abs(expected)),
  );
};
/** What arrives at an input when an output that stands for something is wired into it. */
function arrives(
  from: {
    type: string;
    values: Record<string, InputValue>;
    options?: Record<string, string>;
    output: string;
  },
  to: { type: string; options?: Record<string, string>; input: string },
  plain = false,
): number {
  const wired = documentOf(
    [
      node('a', from.type, from.values, from.options ?? {}),
      node('b', to.type, {}, to.options ?? {}),
    ],
    [`a:${from.output} > b:${to.input}`],
  );
  const document = plain ? setPlain(wired, null, wired.network.strands[0]?.id ?? '', true) : wired;
  return (outputAt(document, `b<${to.input}`, {}, 1)[0] ?? [])[0] as number;
}
const index = (n: number, output = 'index') => ({
  type: 'optics.reflectance',
  values: { index: n },
  output,
});
const into = (input: string) => ({ type: 'optics.reflectance', options: { from: input }, input });

describe('a strand between two quantities', () => {
  it('converts by the closed forms, to 1e-6', () => {
    fc.assert(
      fc.property(fc.float({ min: Math.fround(1.05), max: 4, noNaN: true }), (n) => {
        const share = ((n - 1) / (n + 1)) ** 2;
        close(arrives(index(n), into('reflectance')), share);
        close(arrives(index(n), into('level')), share / 0.08);
        close(arrives(index(n, 'reflectance'), into('index')), n, 3e-6);
        close(arrives(index(n, 'reflectance'), into('level')), share / 0.08);
        close(arrives(index(n, 'level'), into('index')), n, 3e-6);
        close(arrives(index(n, 'level'), into('reflectance')), share);
      }),
      { numRuns: 15, seed: 31 },
    );
    const gloss = { type: 'optics.gloss', values: { value: 0.3 }, output: 'gloss' };
    close(arrives(gloss, { type: 'surface.surface', input: 'roughness' }), 0.7);
    close(
      arrives({ ...gloss, output: 'roughness' }, { type: 'surface.surface', input: 'roughness' }),
      0.7,
    );
    close(arrives(index(1.6), { type: 'surface.surface', input: 'refractiveIndex' }), 1.6);
    close(
      arrives(index(1.6, 'reflectance'), { type: 'surface.surface', input: 'refractiveIndex' }),
      1.6,
      3e-6,
    );
  });
  it('leaves plain numbers alone, and everything where it is told to', () => {
    close(
      arrives(
        { type: 'constants.number', values: { value: 0.3 }, output: 'value' },
        { type: 'surface.surface', input: 'roughness' },
      ),
      0.3,
    );
    close(
      arrives(
        { type: 'optics.gloss', values: { value: 0.3 }, output: 'gloss' },
        { type: 'surface.surface', input: 'roughness' },
        true,
      ),
      0.3,
    );
  });
  it('forgets what a number stood for once it was computed with', () => {
    const document = documentOf(
      [
        node('g', 'optics.gloss', { value: 0.3 }),
        node('m', 'math.math', { b: 0 }),
        node('s', 'surface.surface'),
      ],
      ['g:gloss > m:a', 'm:value > s:roughness'],
    );
    const output =
      document.network.nodes[1]?.type === 'math.math'
        ? (outputAt(document, 's<roughness', {}, 1)[0]?.[0] ?? NaN)
        : NaN;
    close(output, 0.3);
  });
  it('knows every pair it converts both ways', () => {
    for (const from of QUANTITIES)
      for (const to of QUANTITIES)
        expect(quantityConversion(from, to) !== null).toBe(quantityConversion(to, from) !== null);
  });
});

describe('what is said of it', () => {
  const noteOf = (document: NetworkDocument): ReturnType<typeof quantityNote> =>
    quantityNote(document, document.network, null, document.network.strands[0] as Strand);
  it('names the formula of a conversion', () => {
    expect(
      noteOf(
        documentOf(
          [node('g', 'optics.gloss'), node('s', 'surface.surface')],
          ['g:gloss > s:roughness'],
        ),
      ),
    ).toEqual({ from: 'gloss', to: 'roughness', formula: '1 − gloss' });
    expect(
      noteOf(
        documentOf(
          [node('g', 'optics.gloss'), node('s', 'surface.surface')],
          ['g:value > s:roughness'],
        ),
      ),
    ).toBeNull();
  });
  it('warns of a pair that does not go together, until it is carried as a plain number', () => {
    const wrong = documentOf(
      [node('d', 'model.slope'), node('s', 'surface.surface')],
      ['d:degrees > s:roughness'],
    );
    expect(checkReferences(wrong)).toMatchObject([
      { code: 'strand.quantity', severity: 'warning', nodeId: 's' },
    ]);
    expect(checkReferences(wrong)[0]?.message).toMatch(/degrees into roughness/);
    const plain = setPlain(wrong, null, wrong.network.strands[0]?.id ?? '', true);
    expect(checkReferences(plain)).toEqual([]);
    expect(setPlain(plain, null, wrong.network.strands[0]?.id ?? '', false)).toEqual(wrong);
  });
  it('sees through a group', () => {
    const inner = documentOf([node('g', 'optics.gloss', { value: 0.3 })]).network;
    const strands: Strand[] = [
      {
        id: 'o',
        from: { node: 'g', output: 'gloss' },
        to: { node: OUTPUT_EDGE, input: 'x' },
        order: 0,
      },
    ];
    const base = documentOf([
      { ...node('box', 'group'), group: 'q' },
      node('s', 'surface.surface'),
    ]);
    const document = connect(
      {
        ...base,
        groups: {
          q: {
            id: 'q',
            name: 'Box',
            description: '',
            inputs: [],
            outputs: [{ id: 'x', name: 'X', kind: 'scalar' }],
            dials: [],
            network: { ...inner, strands },
          },
        },
      },
      null,
      { node: 'box', output: 'x' },
      { node: 's', input: 'roughness' },
    );
    expect(noteOf(document)?.formula).toBe('1 − gloss');
    close((outputAt(document, 's<roughness', {}, 1)[0] ?? [])[0] as number, 0.7);
    expect(document.network.strands[0]?.from.node).not.toBe(INPUT_EDGE);
  });
});
